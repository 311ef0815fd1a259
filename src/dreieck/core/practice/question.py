"""A question: what is shown, what is asked, and which answers there are to choose from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.skills import SkillKey
from dreieck.core.sheet.content import Content
from dreieck.core.words.phrases import Phrase

Form = Literal["stands", "shows", "reads", "lock", "write", "find", "sentence", "drawing"]
"""What is asked: what stands in a landing, what it shows, which cell it reads; the locks; the
formula; the fault; the sentence or the drawing of a formula."""
CHOSEN: tuple[Form, ...] = ("stands", "shows", "sentence", "drawing")
"""The forms that are answered by one of several choices."""
TYPED: tuple[Form, ...] = ("write", "lock")
"""The forms that are answered by a formula for the start."""


@dataclass(frozen=True)
class Choice:
    """One answer to choose; ``here`` is the formula of the landing that it takes for right."""

    text: str
    here: Shape | None
    is_right: bool = False
    phrases: tuple[Phrase, ...] = ()


@dataclass(frozen=True)
class Planted:
    """A fault: its cause, what the target holds, and the first landing with a wrong value."""

    cause: str
    contents: dict[Cell, Content]
    first: Cell


@dataclass(frozen=True)
class Question:
    """What is asked about an exercise. The landing is the one that it is asked of."""

    form: Form
    exercise: Exercise
    asks: str
    skill: SkillKey
    landing: Cell
    choices: tuple[Choice, ...] = ()
    planted: Planted | None = None

    @cached_property
    def shown(self) -> Calculation:
        """The values that the learner sees beside the question."""
        exercise = self.exercise
        if self.planted:
            return exercise.calculation.with_edits([exercise.put(self.planted.contents)])
        if self.form == "lock":
            return exercise.with_fill(exercise.shape)
        return (
            exercise.calculation if self.form == "write" else exercise.with_start(exercise.shape)
        )

    @property
    def asks_of_landing(self) -> bool:
        """Whether the question names its landing."""
        return self.form in ("stands", "shows", "reads", "drawing")

    @property
    def right(self) -> int:
        """The number of the right choice."""
        return next(n for n, choice in enumerate(self.choices) if choice.is_right)
