"""Troubles of references that move off what they should read, though something is there."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.totalling import is_total
from dreieck.core.checking.weighing.factors import is_rate, other_operand
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import Trouble, labels_of_both, whole
from dreieck.core.formula import Shape, tree
from dreieck.core.grid import CROSSING, Axis, Cell
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label
from dreieck.core.tables.lists import belongs
from dreieck.core.tables.series import are_alike

_SEVERAL = 3
"""So many landings tell what is a list, and what stands before it."""


def astray(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """An input among others: the landings run on to inputs that are labelled otherwise."""
    for axis in axes:
        if not reading.moves(axis) or reading.own.any() or reading.use.how == "condition":
            continue
        offset, length = reading.offset(axis), reading.part.length(axis)
        if reading.home and 0 < abs(offset) < length and not _before(reading, axis):
            continue
        walked = any(
            each.in_line(axis) and each.numbers_on(axis) > 1
            for each in others
            if each.use.number != reading.use.number
        )
        if not walked or reading.numbers_on(axis) < 2:
            continue
        here, there = labels_of_both(reading, axis)
        if offset == 0 and not (all(here) and all(there)):
            continue
        if are_alike(here, there) is False:
            yield whole(reading, "astray", 9.0)
            return


def begins_apart(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """The start is multiplied with what stands before a list, the other landings with the list."""
    factor = other_operand(reading.subject.shape.tree, reading.use.number, "*/")
    if factor is None or not tree.references(factor) or reading.own.any():
        return
    for axis in axes:
        short = reading.part.length(axis) < _SEVERAL
        if short or not reading.moves(axis) or reading.in_line(axis):
            continue
        first = reading.area.first
        rest = reading.area.spanning(axis, first.on(axis) + 1, reading.area.on(axis)[1])
        subject = reading.subject
        told = label(subject.calculation, reading.sheet, first, CROSSING[axis])
        if says(told, "agreed", "balance", "memo"):
            continue
        line = rest.spanning(CROSSING[axis], *[first.on(CROSSING[axis])] * 2)
        if belongs(subject.calculation, reading.sheet, line, first, axis) is False:
            yield whole(reading, "apart", 8.0)
            return


def _before(reading: Reading, axis: Axis) -> bool:
    """Whether the first landing reads a cell that does not belong to the rows of the block."""
    crossing = CROSSING[axis]
    if reading.area.on(crossing) != reading.part.on(crossing):
        first = reading.area.on(axis)[0]
        start = reading.part.on(axis)[0]
        between = (
            Cell(reading.area.left, n) if axis == "row" else Cell(n, reading.area.top)
            for n in range(first, start)
        )
        return any(
            not isinstance(reading.subject.value(reading.sheet, cell), float) for cell in between
        )
    return False


def total_left(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """The start reads a total, the other landings what stands after it."""
    first = reading.area.first
    for axis in axes:
        if not reading.moves(axis) or reading.own.any() or reading.in_line(axis):
            continue
        if not _is_total(reading, first, axis) or _is_total(reading, first.step(axis, 1), axis):
            continue
        if any(each.in_line(axis) for each in others):
            yield whole(reading, "total left", 10.0)


def _is_total(reading: Reading, cell: Cell, axis: Axis) -> bool:
    content = reading.sheet.content(cell)
    if isinstance(content, Shape) and is_total(content, cell):
        return True
    told = label(reading.subject.calculation, reading.sheet, cell, axis)
    return isinstance(content, float | Shape) and says(told, "total")


def itself(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A list is multiplied by itself, a step apart: an input above it is left behind."""
    for axis in axes:
        offset = reading.offset(axis)
        if not reading.moves(axis) or not 0 < -offset < reading.part.length(axis):
            continue
        factor = other_operand(reading.subject.shape.tree, reading.use.number, "*")
        if reading.own.any() or factor is None or is_rate(factor):
            continue
        for each in others:
            same = each.area.on(CROSSING[axis]) == reading.area.on(CROSSING[axis])
            if each.in_line(axis) and same and each.use.reference in tree.references(factor):
                yield whole(reading, "itself", 9.0)
                return


def _is_near(reading: Reading, axis: Axis) -> bool:
    """Whether the landings read their own rows, or those a few steps before."""
    return reading.home and abs(reading.offset(axis)) < reading.part.length(axis)


def _is_of_steps(reading: Reading, others: list[Reading], axis: Axis) -> bool:
    """Whether a formula reads several lines of a table elsewhere: steps with their bounds."""
    lines = {
        each.offset(axis)
        for each in others
        if each.sheet is reading.sheet and each.moves(axis) and not _is_near(each, axis)
    }
    return not _is_near(reading, axis) and len(lines) >= _SEVERAL


def sibling(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A reference goes along inputs of which the same formula reads others."""
    for axis in axes:
        if not reading.moves(axis) or reading.in_line(axis) or reading.own.any():
            continue
        if _is_of_steps(reading, others, axis):
            yield whole(reading, "sibling", 8.0)
            return
        for each in others:
            if each.moves(axis) and abs(each.offset(axis) - reading.offset(axis)) < 2:
                # What changes from one to the next, or goes along beside it.
                continue
            aside = each.stays(axis) or (each.moves(axis) and not _is_near(each, axis))
            same = each.sheet is reading.sheet and each.area != reading.area
            if aside and same and not _is_near(reading, axis) and reading.area.common(each.area):
                yield whole(reading, "sibling", 8.0)
                return
