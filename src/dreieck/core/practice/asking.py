"""Lock and write: the formula of the start is asked for, by its locks or as a whole."""

from __future__ import annotations

from collections.abc import Mapping
from random import Random

from dreieck.core.formula.locks import Lock, axes, with_lock
from dreieck.core.grid import Axis
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.predicting import landing_of
from dreieck.core.practice.question import Question


def lock(rng: Random, exercise: Exercise) -> Question:
    """The locks that make a fill give the values that are shown."""
    asks = (
        f"{exercise.target.text} shall hold {exercise.task}. The values are those that have to"
        f" come out. Choose what stays when the formula of {exercise.start.text} is filled."
    )
    return Question("lock", exercise, asks, exercise.skill, landing_of(rng, exercise))


def write(rng: Random, exercise: Exercise) -> Question:
    """The formula of the start, from what the fill is for."""
    asks = (
        f"{exercise.target.text} shall hold {exercise.task}. Write the formula for"
        f" {exercise.start.text}, so that it is right wherever it is filled."
    )
    if exercise.skill == "names":
        names = " and ".join(named.name for named in exercise.workbook.names.values())
        asks += f" Use the name {names}."
    return Question("write", exercise, asks, exercise.skill, landing_of(rng, exercise))


def locked(exercise: Exercise, picked: Mapping[tuple[int, Axis], Lock]) -> str:
    """The formula of the start with locks as picked, by reference and axis; the others move."""
    shape, start = exercise.shape, exercise.start
    for number in exercise.shape.distinct:
        reference = exercise.shape.references[number]
        for axis in axes(reference):
            reference = with_lock(reference, start, axis, picked.get((number, axis), "moves"))
        shape = shape.with_equals(number, reference)
    return shape.text(start)
