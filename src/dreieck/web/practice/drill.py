"""A drill as a page: its grid, the ways to answer, the verdict, hints."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field, replace
from typing import Any

from fastapi import Request
from fastapi.responses import HTMLResponse
from starlette.datastructures import FormData
from starlette.responses import Response

from dreieck.core.budget import WorkEnded
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.locks import Lock, axes
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, reads_on
from dreieck.core.formula.shift import tag
from dreieck.core.grid import AXES, Area, Axis
from dreieck.core.practice import hints
from dreieck.core.practice.asking import locked
from dreieck.core.practice.judging import Given, Verdict, judge
from dreieck.core.practice.own import around
from dreieck.core.practice.question import Question
from dreieck.core.practice.skills import SKILLS
from dreieck.web.answers import page, whole_number
from dreieck.web.colours import colour_of
from dreieck.web.drill_grid import DrillGrid, Figure, drill_grids, whole_if_small
from dreieck.web.picture import Picture, picture
from dreieck.web.turns import in_time

_LOCKS: dict[bool, tuple[Lock, ...]] = {
    True: ("moves", "stays"),
    False: ("moves", "first", "last", "stays"),
}
_SAID: dict[Lock, str] = {
    "moves": "it moves along",
    "first": "its first corner stays",
    "last": "its last corner stays",
    "stays": "it stays",
}
_MAX_FIELD = 1_100


@dataclass(frozen=True)
class Where:
    """Where a drill stands: its own address, what follows it, its heading.

    ``again`` leads to the same question with other numbers, ``code`` is the drill's own link.
    """

    address: str
    title: str
    next: str
    next_says: str = "Next"
    again: str = ""
    code: str = ""
    is_test: bool = False
    back: str = "/practice"
    back_says: str = "Practice"


@dataclass(frozen=True)
class LockShown:
    """The switches of one axis of a reference."""

    name: str
    axis: Axis
    choices: list[tuple[Lock, str]]
    chosen: Lock


@dataclass(frozen=True)
class ReferenceShown:
    """A reference whose locks are chosen."""

    tag: str
    colour: int
    text: str
    switches: list[LockShown]


@dataclass
class Answer:
    """What a form says: an answer, so many hints seen, and what is asked for."""

    given: Given = field(default_factory=Given)
    hints: int = 0
    wants: str = ""
    picked: dict[tuple[int, Axis], Lock] = field(default_factory=dict)


Keep = Callable[[Verdict, Answer], Response | None]
"""Keeps an answer; where it leads instead of the page with the verdict."""


def answer_of(question: Question, form: FormData) -> Answer:
    """The answer that a form holds. ``wants`` is ``answer``, ``hint`` or ``locks``."""
    texts = {key: str(value)[:_MAX_FIELD] for key, value in form.items()}
    picked: dict[tuple[int, Axis], Lock] = {}
    exercise = question.exercise
    for number in exercise.shape.distinct:
        reference = exercise.shape.references[number]
        for axis in axes(reference):
            held = texts.get(f"lock-{number}-{axis}", "")
            for lock in _LOCKS[isinstance(reference, CellReference)]:
                if lock == held:
                    picked[number, axis] = lock
    formula = texts.get("formula", "")
    if question.form == "lock":
        formula = locked(exercise, picked)
    seen = min(max(whole_number(form, "hints"), 0), hints.STEPS)
    given = Given(whole_number(form, "choice"), texts.get("cell", ""), formula)
    return Answer(given, seen, texts.get("wants", "answer"), picked)


def drill_page(
    request: Request,
    question: Question,
    where: Where,
    answer: Answer | None = None,
    verdict: Verdict | None = None,
    problem: str = "",
    **context: Any,
) -> Response:
    """The page of a drill: asked, answered, or with hints."""
    answer = answer or Answer()
    steps = 0 if where.is_test else answer.hints
    drawings = _drawings(question) if question.form == "drawing" and not verdict else []
    figure = None
    if verdict:
        figure = Figure(verdict.landing, verdict.right, verdict.given)
    elif steps >= 2:
        figure = Figure(question.landing, question.exercise.shape)
    return page(
        request,
        "drill.html",
        question=question,
        where=where,
        answer=answer,
        verdict=verdict,
        problem=problem,
        skill=SKILLS[question.skill],
        grids=_grids(question, figure, is_answered=verdict is not None),
        references=_references(question, answer),
        locked=locked(question.exercise, answer.picked) if question.form == "lock" else "",
        drawings=drawings,
        hints=_hints(question, steps),
        **context,
    )


def answer_page(
    request: Request,
    question: Question,
    where: Where,
    form: FormData,
    keep: Keep,
    **context: Any,
) -> Response:
    """What a form leads to: the formula with other locks, a hint, or the verdict, which is kept.

    What ``keep`` gives is answered instead of the page with the verdict.
    """
    answer = answer_of(question, form)
    if answer.wants == "locks":
        return HTMLResponse(locked(question.exercise, answer.picked))
    if answer.wants == "hint" and not where.is_test:
        more = replace(answer, hints=min(answer.hints + 1, hints.STEPS))
        return drill_page(request, question, where, more, **context)
    try:
        verdict = in_time(lambda: judge(question, answer.given))
    except (DreieckError, WorkEnded) as error:
        return drill_page(request, question, where, answer, None, str(error), **context)
    led = keep(verdict, answer)
    return led or drill_page(request, question, where, answer, verdict, **context)


def _grids(question: Question, figure: Figure | None, *, is_answered: bool) -> list[DrillGrid]:
    exercise = question.exercise
    areas = [*whole_if_small(exercise.sheet), *around(exercise, question.landing)]
    if figure and figure.given:
        areas += _near(figure, exercise.sheet_name)
    return drill_grids(question, areas, figure, is_answered=is_answered)


def _near(figure: Figure, sheet: str) -> list[Area]:
    """What the learner's formula reads, as far as it lies near enough to be drawn."""
    assert figure.given is not None
    found = []
    for reference in figure.given.references:
        area = reference.area(figure.landing)
        if area and reads_on(reference, sheet) and all(
            abs(end - figure.landing.on(axis)) <= 14 for axis in AXES for end in area.on(axis)
        ):  # fmt: skip
            found.append(area)
    return found


def _references(question: Question, answer: Answer) -> list[ReferenceShown]:
    """The references with their switches, where locks are asked for."""
    if question.form != "lock":
        return []
    exercise = question.exercise
    found = []
    for letter, number in enumerate(exercise.shape.distinct):
        reference = exercise.shape.references[number]
        choices = _LOCKS[isinstance(reference, CellReference)]
        switches = [
            LockShown(
                f"lock-{number}-{axis}", axis, [(lock, _SAID[lock]) for lock in choices],
                answer.picked.get((number, axis), "moves"),
            )
            for axis in axes(reference)
        ]  # fmt: skip
        text = reference_text(reference, exercise.start).replace("$", "")
        found.append(ReferenceShown(tag(letter), colour_of(letter), text, switches))
    return found


def _drawings(question: Question) -> list[Picture]:
    exercise = question.exercise
    return [
        picture(
            question.shown, exercise.sheet, (exercise.target,), choice.here, exercise.start,
            question.landing,
        )
        for choice in question.choices
        if choice.here
    ]  # fmt: skip


def _hints(question: Question, steps: int) -> list[tuple[str, tuple[str, ...]]]:
    """The hints that were asked for, each with its heading."""
    drawing = f"On the grid: what the start and {question.landing.text} should read."
    told: list[tuple[str, Callable[[], tuple[str, ...]]]] = [
        ("Which part moves", lambda: hints.which_part_moves(question)),
        ("The drawing", lambda: (drawing,)),
        ("The answer", lambda: hints.answer(question)),
    ]
    return [(title, says()) for title, says in told[:steps]]
