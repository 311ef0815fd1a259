"""Predict: what stands in a landing, what it shows, which cell it reads."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from random import Random

from dreieck.core.calculate import text_at
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, reads_on
from dreieck.core.formula.shift import circled
from dreieck.core.grid import Cell
from dreieck.core.practice.exercise import Exercise, alike
from dreieck.core.practice.misreading import all_relocked, misread
from dreieck.core.practice.question import Choice, Question
from dreieck.core.values import Value

CHOICES = 4
LEAST = 3
_SLIGHT = 0.01
"""Values to choose from differ by more than this share of themselves."""
_ROOM = 16


def landing_of(rng: Random, exercise: Exercise) -> Cell:
    """A landing that lies on every axis apart from the start on which the fill goes."""
    start = exercise.start
    apart = [
        cell
        for cell in exercise.landings
        if (cell.column != start.column or exercise.target.width == 1)
        and (cell.row != start.row or exercise.target.height == 1)
    ]
    return rng.choice(apart)


def _begins(exercise: Exercise) -> str:
    return (
        f"In {exercise.start.text} stands {exercise.formula}. It is filled over"
        f" {exercise.target.text}."
    )


def told_apart(
    rng: Random, right: Choice, wrong: Iterable[Choice], same: Callable[[Choice, Choice], bool]
) -> list[Choice] | None:
    """The right answer among wrong ones, no two alike; None where there are too few."""
    found = [right]
    for choice in wrong:
        if not any(same(choice, other) for other in found):
            found.append(choice)
    if len(found) < LEAST:
        return None
    chosen = [right, *rng.sample(found[1:], min(CHOICES, len(found)) - 1)]
    rng.shuffle(chosen)
    return chosen


def stands(rng: Random, exercise: Exercise) -> Question | None:
    """What stands in a landing: one of several formulas."""
    landing = landing_of(rng, exercise)
    right = Choice(exercise.shape.text(landing), exercise.shape, is_right=True)
    wrong = [
        Choice(each.text(landing), each)
        for each in misread(exercise, landing)
        if "#REF!" not in each.text(landing)
    ]
    choices = told_apart(rng, right, wrong, lambda one, other: one.text == other.text)
    if choices is None:
        return None
    asks = f"{_begins(exercise)} What stands in {landing.text}?"
    return Question("stands", exercise, asks, exercise.skill, landing, tuple(choices))


def shows(rng: Random, exercise: Exercise) -> Question | None:
    """What a landing shows: one of several values."""
    landing = landing_of(rng, exercise)
    name = exercise.sheet_name

    def choice(shape: Shape, *, is_right: bool = False) -> tuple[Choice, Value]:
        filled = exercise.with_fill(shape)
        text = text_at(filled, filled.workbook.sheet(name), landing, _ROOM)
        return Choice(text, shape, is_right), filled.value(name, landing)

    right, value = choice(exercise.shape, is_right=True)
    others = all_relocked(exercise)
    values, wrong = [value], list[Choice]()
    for other in rng.sample(others, len(others)):
        each, worth = choice(other)
        if not any(_near(worth, known) for known in values):
            values.append(worth)
            wrong.append(each)
        if len(values) == CHOICES:
            break
    choices = told_apart(rng, right, wrong, lambda one, other: one.text == other.text)
    if choices is None:
        return None
    asks = f"{_begins(exercise)} What does {landing.text} show?"
    return Question("shows", exercise, asks, exercise.skill, landing, tuple(choices))


def _near(one: Value, other: Value) -> bool:
    """Whether two values could be taken for each other but for their last digits."""
    if isinstance(one, float) and isinstance(other, float):
        return abs(one - other) <= _SLIGHT * max(abs(one), abs(other))
    return alike(one, other)


def reads(rng: Random, exercise: Exercise) -> Question | None:
    """Which cell a landing reads by one of its references: pointed at."""
    landing, number = landing_of(rng, exercise), exercise.number
    reference = exercise.shape.references[number]
    area = reference.area(landing)
    if not isinstance(reference, CellReference) or area is None:
        return None
    if not reads_on(reference, exercise.sheet_name):
        return None
    letter = circled(exercise.shape.letters[number])
    asks = (
        f"{_begins(exercise)} Which cell does {landing.text} read by {letter}"
        f" {reference_text(reference, exercise.start)}? Point at it."
    )
    return Question("reads", exercise, asks, exercise.skill, landing)
