"""Hints in three steps: which part moves, the drawing, the answer. They cost nothing."""

from __future__ import annotations

from dreieck.core.practice.judging import moves
from dreieck.core.practice.question import CHOSEN, Question
from dreieck.core.practice.saying import compared, moved_said, named, read_said, way_said
from dreieck.core.words.counting import both

STEPS = 3
"""The second step is the drawing of the right formula, which has no words."""


def which_part_moves(question: Question) -> tuple[str, ...]:
    """The first step: how far the fill goes, or what the start and a landing have to read."""
    exercise, landing, start = question.exercise, question.landing, question.exercise.start
    if question.form in ("lock", "write", "find"):
        said = []
        for number in exercise.shape.distinct:
            reference = exercise.shape.references[number]
            one, two = reference.area(start), reference.area(landing)
            if one and two and landing != start:
                said.append(
                    f"{start.text} should read {read_said(reference, start)}, and {landing.text}"
                    f" {read_said(reference, landing)}: {compared(one, two)}."
                )
            else:
                said.append(f"{landing.text} should read {read_said(reference, landing)}.")
        return tuple(said)
    names = [named(exercise.shape, number, start) for number in exercise.shape.distinct]
    return (
        f"From {start.text} to {landing.text} the fill goes {way_said(start, landing)}.",
        f"Look at {both(names)}: a part with $ before it stays, a part without goes along.",
    )


def answer(question: Question) -> tuple[str, ...]:
    """The third step: the right answer, and why."""
    exercise, landing = question.exercise, question.landing
    if question.planted:
        first = question.planted.first
        return (
            f"{first.text} is the first wrong landing. {question.choices[question.right].text}",
            f"{exercise.shape.text(first)} should stand there.",
        )
    if question.form == "reads":
        return (moved_said(exercise.shape, exercise.number, exercise.start, landing),)
    if question.form in CHOSEN:
        right = question.choices[question.right].text
        said = "It is the drawing of" if question.form == "drawing" else "Right is:"
        return (f"{said} {right}", *moves(exercise, landing))
    return (
        f"In {exercise.start.text} should stand {exercise.formula}.",
        *moves(exercise, landing),
    )
