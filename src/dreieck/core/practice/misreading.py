"""What a landing would read if its references were taken to be locked otherwise."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import product

from dreieck.core.formula import Shape
from dreieck.core.formula.locks import Lock, axes, with_lock
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.grid import AXES, Area, Cell
from dreieck.core.practice.exercise import Exercise

_HOLDS: tuple[Lock, ...] = ("moves", "stays", "first", "last")


def relocked(exercise: Exercise, number: int) -> Iterator[Shape]:
    """The formula of the start with each other choice of locks for one of its references.

    The corners of a range are varied only where the fill goes.
    """
    shape, start = exercise.shape, exercise.start
    reference = shape.references[number]
    holds, along = _HOLDS, [axis for axis in AXES if exercise.target.length(axis) > 1]
    if isinstance(reference, CellReference):
        holds, along = _HOLDS[:2], list(AXES)
    varied = [axis for axis in axes(reference) if axis in along]
    for choice in product(holds, repeat=len(varied)):
        changed: Reference = reference
        for axis, hold in zip(varied, choice, strict=True):
            changed = with_lock(changed, start, axis, hold)
        if changed != reference:
            yield shape.with_equals(number, changed)


def all_relocked(exercise: Exercise) -> list[Shape]:
    """The same for all references, one after the other."""
    return [other for number in exercise.shape.distinct for other in relocked(exercise, number)]


def misread(exercise: Exercise, landing: Cell) -> Iterator[Shape]:
    """Formulas that could be taken for that of a landing, as they would stand there.

    Their signs are those of the right formula, so that only what they read tells them apart.
    """
    shape, start = exercise.shape, exercise.start
    for other in all_relocked(exercise):
        yield _signed_as(other, shape, start, landing)
    across, down = landing.column - start.column, landing.row - start.row
    beside = [landing.offset(*step) for step in ((0, 1), (0, -1), (1, 0), (-1, 0))]
    for place in (start, start.offset(down, across), *beside):
        if place.on_sheet:
            yield Shape.parse(shape.text(place), landing)


def _signed_as(other: Shape, shape: Shape, start: Cell, landing: Cell) -> Shape:
    """What a landing reads by ``other``, with the locks of ``shape``."""
    for number, reference in enumerate(shape.references):
        read = other.references[number]
        if read.area(landing):
            signed = read.with_locks(landing, reference.corners(start))
            other = other.with_reference(number, signed)
    return other


def differing(right: Shape, given: Shape, at: Cell) -> list[int]:
    """The references of a formula that another one, built like it, reads elsewhere in a cell."""
    if len(given.references) != len(right.references):
        return []
    return [
        number
        for number in right.distinct
        if right.references[number].area(at) != given.references[number].area(at)
    ]


def read_instead(right: Shape, given: Shape, at: Cell) -> Iterator[tuple[Reference, Area]]:
    """What a given formula reads in a cell, and the right one does not."""
    meant = {(each.sheet, each.area(at)) for each in right.references}
    for number in given.distinct:
        reference = given.references[number]
        area = reference.area(at)
        if area and (reference.sheet, area) not in meant:
            yield reference, area


def reads(shape: Shape, at: Cell) -> tuple[object, ...]:
    """What a formula reads in a cell, reference by reference."""
    return tuple((each.sheet, each.area(at)) for each in shape.references)
