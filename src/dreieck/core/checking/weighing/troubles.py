"""What speaks against the locks of a block, with its weight.

A trouble is evidence: from ``ENOUGH`` on, and where other locks have far less of it, the locks
are in doubt. Weights grow with the share of landings that are concerned.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Literal, NamedTuple

import numpy as np

from dreieck.core.analysis.totalling import is_total
from dreieck.core.analysis.uses import Use
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.surroundings import (
    are_alike,
    counts_on,
    label,
    names_balance,
    names_total,
    texts_along,
)
from dreieck.core.checking.weighing.factors import is_rate, other_operand, signs_of
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, LAST, Area, Axis, Cell
from dreieck.core.grid.areas import Mask, areas_of
from dreieck.core.sheet.cells import Kind

ENOUGH = 6.0
"""From this weight on locks are in doubt."""

Sort = Literal[
    "empty", "text", "results", "astray", "unread", "same", "twice", "itself", "total left",
    "one", "shrinks", "corner", "torn", "stuck", "sibling", "inverted", "lost",
]  # fmt: skip


class Trouble(NamedTuple):
    """What speaks against a reference (its number, -1 for all), and in which landings."""

    sort: Sort
    reference: int
    weight: float
    areas: tuple[Area, ...]


def weight(troubles: tuple[Trouble, ...]) -> float:
    """What troubles weigh together."""
    return sum(trouble.weight for trouble in troubles)


def extended(part: Area) -> list[Axis]:
    """The axes along which a part has several landings."""
    return [axis for axis in AXES if part.length(axis) > 1]


def cell_troubles(subject: Subject) -> Iterator[Trouble]:
    """What speaks against the locks of the references to single cells."""
    for part in subject.whole_parts:
        axes = extended(part)
        if not axes:
            continue
        readings: list[Reading] = []
        for use in subject.cell_uses:
            reading = Reading.of(subject, use, part)
            if reading is None and subject.sheet_of(use.reference):
                yield Trouble("lost", use.number, 14.0, (part,))
            elif reading and use.how not in ("place", "text"):
                readings.append(reading)
        for reading in readings:
            for trouble in _CELL_TROUBLES:
                yield from trouble(reading, readings, axes)
        yield from _twice(subject, readings)
    yield from _same(subject)


def _marked(
    reading: Reading, sort: Sort, mask: Mask, least: float, most: float
) -> Iterator[Trouble]:
    """A trouble in the landings marked, between two weights by their share."""
    if mask.any():
        areas = areas_of(reading.part, mask)
        share = float(mask.mean())
        yield Trouble(sort, reading.use.number, least + (most - least) * share, areas)


def _whole(reading: Reading, sort: Sort, size: float) -> Trouble:
    return Trouble(sort, reading.use.number, size, (reading.part,))


def _empty(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """Emptiness is read where a number is needed."""
    if not needs_number(reading.use) or reading.use.guarded:
        return
    empty = (reading.kinds == Kind.EMPTY) & ~reading.own & ~first_line(reading)
    if not empty.any():
        return
    empty = empty & ~reading.passed(empty)
    lines = [axis for axis in axes if reading.moves(axis)]
    if not lines:
        # What stays is empty everywhere: no lock makes it better.
        yield from _marked(reading, "empty", empty, 0.0, 1.0)
        return
    if all(reading.in_line(axis) for axis in lines) and _is_gap(reading, lines, others):
        yield from _marked(reading, "empty", empty, 0.1, 0.5 if _adds(reading) else 4.0)
    elif all(_runs_out(reading, others, axis) or _is_long(reading, axis) for axis in lines):
        yield from _marked(reading, "empty", empty, 0.5, 3.0)
    else:
        yield from _marked(reading, "empty", empty, 5.0, 14.0)


def _is_gap(reading: Reading, lines: list[Axis], others: list[Reading]) -> bool:
    """Whether what is empty is a gap in a list that goes along with the landings."""
    for axis in lines:
        length, run = reading.part.length(axis), reading.numbers_on(axis)
        numbers = reading.along(axis, reading.kinds == Kind.NUMBER)
        goes_on = bool(numbers[run:].any())
        if reading.contiguous(axis) and _adds(reading):
            continue
        # One number, and nothing below it: an input that every landing should read.
        if not goes_on and (run <= 1 or 2 * run < length) and length > 2:
            return False
        if not reading.contiguous(axis) and not goes_on:
            return False
    return True


def _adds(reading: Reading) -> bool:
    """Whether an empty cell is none the worse: it is added, taken away or compared."""
    return other_operand(reading.subject.shape.tree, reading.use.number, "*/^") is None


def _runs_out(reading: Reading, others: list[Reading], axis: Axis) -> bool:
    """Whether all that moves along an axis has come to its end where this does."""
    length = reading.part.length(axis)
    ends = [each.ends_on(axis) for each in others if each.moves(axis)]
    own = reading.numbers_on(axis)
    return 1 < own < length and all(end <= own for end in ends)


def _is_long(reading: Reading, axis: Axis) -> bool:
    """Whether what is read is a list, for most of the landings."""
    run = reading.numbers_on(axis)
    long = run > 2 and 2 * run >= reading.part.length(axis)
    return long and are_alike(*_labels(reading, axis)) is not False


def _labels(reading: Reading, axis: Axis) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What is read along an axis is labelled, and what the landings are."""
    part, subject = reading.part, reading.subject
    length = part.length(axis)
    return reading.labels(axis), texts_along(
        subject.calculation, subject.sheet, part.first, axis, length
    )


def _text(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """Text is read where a number is needed."""
    if reading.use.how not in ("number", "total") or reading.use.guarded:
        return
    text = (reading.kinds == Kind.TEXT) & ~reading.own & ~first_line(reading)
    if not text.any():
        return
    text = text & ~reading.passed(text)
    lines = [axis for axis in axes if reading.moves(axis)]
    if not lines:
        yield from _marked(reading, "text", text, 0.0, 1.0)
    elif all(reading.in_line(axis) and reading.ends_on(axis) > 1 for axis in lines):
        yield from _marked(reading, "text", text, 0.1, 4.0)
    else:
        yield from _marked(reading, "text", text, 5.0, 14.0)


def _results(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """Results of this fill are read where a heading or an input was."""
    own = reading.own
    if not own.any() or own.all():
        return
    seeds = reading.kinds[~own]
    if (
        ((seeds == Kind.TEXT).all() and reading.use.how != "total")
        or _is_factor(reading, axes)
        or (len(axes) == 2 and not _goes_on_from_results(reading, others))
    ):
        yield from _marked(reading, "results", own, 8.0, 12.0)
    elif len(axes) == 2:
        yield from _marked(reading, "results", own, 3.0, 4.0)
    elif gives_no_number(reading.subject.shape):
        yield from _marked(reading, "results", own, 8.0, 12.0)


def _is_factor(reading: Reading, axes: list[Axis]) -> bool:
    """Whether results are multiplied by other cells, along labels that are no series.

    A balance or a growth by ``1 + rate`` goes on from result to result; a product of two
    readings does so hardly ever.
    """
    factor = other_operand(reading.subject.shape.tree, reading.use.number, "*/")
    if factor is None or not tree.references(factor) or is_rate(factor):
        return False
    axis = next((axis for axis in axes if _steps(reading, axis)), None)
    return axis is not None and not _is_series(reading, axis)


def _goes_on_from_results(reading: Reading, others: list[Reading]) -> bool:
    """Whether a grid may go on from result to result: along a series, from a first line."""
    axis = next((axis for axis in AXES if _steps(reading, axis)), None)
    if axis is None or gives_no_number(reading.subject.shape):
        return False
    steps = [each for each in others if each.own.any() and each.use.number != reading.use.number]
    if any(_steps(each, CROSSING[axis]) for each in steps):
        return False
    first = reading.area.first
    typed = isinstance(reading.sheet.content(first), float)
    return not typed or _is_series(reading, axis)


def _steps(reading: Reading, axis: Axis) -> bool:
    """Whether a landing reads the one before it on this axis, and only on this one."""
    crossing = CROSSING[axis]
    (here,), (other,) = reading.use.reference.on(axis), reading.use.reference.on(crossing)
    return not here.locked and here.at == -1 and (other.locked or other.at == 0)


def _is_series(reading: Reading, axis: Axis) -> bool:
    part, subject, crossing = reading.part, reading.subject, CROSSING[axis]
    areas = (each.area(part.first) for each in subject.shape.references if not each.sheet)
    read = frozenset(area.on(crossing)[0] for area in areas if area)
    return counts_on(subject.calculation, subject.sheet, part.first, axis, part.length(axis), read)


def gives_no_number(shape: Shape) -> bool:
    """Whether a formula compares or gives text, so that nothing goes on from its results."""
    node = shape.tree
    while isinstance(node, tree.Group):
        node = node.inner
    if isinstance(node, tree.Binary):
        return node.operator in ("=", "<>", "<", ">", "<=", ">=")
    if isinstance(node, tree.Call) and len(node.arguments) == 3:
        return all(isinstance(each, tree.Text) for each in node.arguments[1:])
    return False


def _astray(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
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
        here, there = _labels(reading, axis)
        if offset == 0 and not (all(here) and all(there)):
            continue
        if walked and are_alike(here, there) is False and reading.numbers_on(axis) > 1:
            yield _whole(reading, "astray", 9.0)
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


def _total_left(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """The start reads a total, the other landings what stands after it."""
    first = reading.area.first
    for axis in axes:
        if not reading.moves(axis) or reading.own.any() or reading.in_line(axis):
            continue
        if not _is_total(reading, first, axis) or _is_total(reading, first.step(axis, 1), axis):
            continue
        if any(each.in_line(axis) for each in others):
            yield _whole(reading, "total left", 10.0)


def _is_total(reading: Reading, cell: Cell, axis: Axis) -> bool:
    content = reading.sheet.content(cell)
    if isinstance(content, Shape) and is_total(content, cell):
        return True
    told = label(reading.subject.calculation, reading.sheet, cell, axis)
    return isinstance(content, float | Shape) and names_total(told)


def _itself(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
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
                yield _whole(reading, "itself", 9.0)
                return


def _unread(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A list stands beside the landings, a number for each, and only one of them is read."""
    if reading.use.how == "place":
        return
    for axis in axes:
        crossing, length = CROSSING[axis], reading.part.length(axis)
        if not reading.stays(axis):
            continue
        beside = reading.area.on(crossing)[0]
        in_line = reading.home and reading.offset(axis) == 0
        if in_line and reading.part.on(crossing)[0] <= beside <= reading.part.on(crossing)[1]:
            continue
        first = reading.area.first
        if not _is_list(reading, axis) or any(_walks(each, reading, axis) for each in others):
            continue
        if in_line and not reading.contiguous(axis) and _is_labelled_apart(reading, axis):
            continue
        if not in_line and not _has_labels_of_the_landings(reading, axis, length):
            continue
        if in_line and beside > reading.part.on(crossing)[1]:
            content = reading.sheet.content(first.step(axis, 1))
            if isinstance(content, Shape):
                continue
        yield _whole(reading, "unread", 9.0)


def _is_labelled_apart(reading: Reading, axis: Axis) -> bool:
    """Whether the cells behind an input are labelled otherwise than the landings."""
    subject, length = reading.subject, reading.part.length(axis)
    there = texts_along(subject.calculation, reading.sheet, reading.area.first, axis, length)
    here = texts_along(subject.calculation, subject.sheet, reading.part.first, axis, length)
    return are_alike(here, there) is False


def _is_list(reading: Reading, axis: Axis) -> bool:
    """Whether a line holds something of one sort for each landing from what is read on.

    In the table of the block itself some of its cells may be empty.
    """
    subject, length = reading.subject, reading.part.length(axis)
    first = reading.area.first.on(axis)
    last = first + length - 1
    line = Area.of(reading.area.first).spanning(axis, first, last)
    if last > LAST[axis]:
        return False
    kinds = subject.kinds(reading.sheet, line).ravel()
    sort = kinds[0] if kinds[0] in (Kind.NUMBER, Kind.TEXT) else Kind.NUMBER
    if sort == Kind.TEXT and needs_number(reading.use):
        return False
    filled = kinds == sort
    if filled.all():
        return True
    if not reading.contiguous(axis):
        return False
    gaps = (filled | (kinds == Kind.EMPTY)).all() and int(filled[1:].sum()) > 0
    return bool(gaps) and length > 2


def _has_labels_of_the_landings(reading: Reading, axis: Axis, length: int) -> bool:
    calculation, subject = reading.subject.calculation, reading.subject
    there = texts_along(calculation, reading.sheet, reading.area.first, axis, length)
    here = texts_along(calculation, subject.sheet, reading.part.first, axis, length)
    return len(here) > 1 and here == there


def _walks(other: Reading, reading: Reading, axis: Axis) -> bool:
    """Whether another reference of the formula goes along the line that a reading stays in."""
    if other.use.number == reading.use.number or other.sheet is not reading.sheet:
        return False
    first = reading.area.on(axis)[0]
    line = reading.area.spanning(axis, first, first + reading.part.length(axis) - 1)
    common = other.area.common(line)
    along = other.moves(axis) and other.offset(axis) == reading.offset(axis)
    return along and common is not None and common.length(axis) > 1


def _torn(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A cell is read twice by the start, and one of both moves while the other stays."""
    for axis in axes:
        if not reading.stays(axis):
            continue
        for each in others:
            torn = each.moves(axis) and each.sheet is reading.sheet
            if torn and each.area.first == reading.area.first and not _compared(reading, each):
                yield _whole(reading, "torn", 8.0)
                return


def _compared(one: Reading, other: Reading) -> bool:
    """Whether two references are set against each other, as a value and where it began."""
    against = other_operand(one.subject.shape.tree, one.use.number, "-/*")
    return against is not None and other.use.reference in tree.references(against)


def _stuck(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A balance that begins with the opening one in every landing."""
    for axis in axes:
        crossing, part = CROSSING[axis], reading.part
        before = reading.home and reading.area.on(axis)[0] == part.on(axis)[0] - 1
        within = part.on(crossing)[0] <= reading.area.on(crossing)[0] <= part.on(crossing)[1]
        if not reading.stays(axis) or not before or not within:
            continue
        subject = reading.subject
        told = label(subject.calculation, subject.sheet, reading.area.first, crossing)
        taken = _taken(subject, others, axis)
        goes_on = taken == {"+", "-"} or (taken and names_balance(told))
        if goes_on or _grows(reading, others, axis):
            yield _whole(reading, "stuck", 8.0)


def _grows(reading: Reading, others: list[Reading], axis: Axis) -> bool:
    """Whether a reading is multiplied by one plus a rate of its own for each year."""
    factor = other_operand(reading.subject.shape.tree, reading.use.number, "*")
    if factor is None or not is_rate(factor) or not _is_series(reading, axis):
        return False
    rates = tree.references(factor)
    return any(each.in_line(axis) and each.use.reference in rates for each in others)


def _taken(subject: Subject, others: list[Reading], axis: Axis) -> set[str]:
    """Whether what goes along with the landings is added, taken away, or both."""
    signs = signs_of(subject.shape.tree)
    return {
        sign for each in others if each.in_line(axis) and (sign := signs.get(each.use.number, ""))
    }


def _is_near(reading: Reading, axis: Axis) -> bool:
    """Whether the landings read their own rows, or those a few steps before."""
    return reading.home and abs(reading.offset(axis)) < reading.part.length(axis)


def _sibling(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A reference goes along inputs of which the same formula reads others."""
    for axis in axes:
        if not reading.moves(axis) or reading.in_line(axis) or reading.own.any():
            continue
        for each in others:
            aside = each.stays(axis) or (each.moves(axis) and not _is_near(each, axis))
            same = each.sheet is reading.sheet and each.area != reading.area
            if aside and same and not _is_near(reading, axis) and reading.area.common(each.area):
                yield _whole(reading, "sibling", 8.0)
                return


_CELL_TROUBLES: tuple[Callable[[Reading, list[Reading], list[Axis]], Iterator[Trouble]], ...] = (
    _empty,
    _text,
    _results,
    _astray,
    _total_left,
    _itself,
    _unread,
    _torn,
    _stuck,
    _sibling,
)


def _twice(subject: Subject, readings: list[Reading]) -> Iterator[Trouble]:
    """A cell is divided by itself, or taken away from itself, in every landing."""
    for node in tree.walk(subject.shape.tree):
        if not isinstance(node, tree.Binary) or node.operator not in ("/", "-"):
            continue
        left = next((each for each in readings if each.use.reference == node.left), None)
        right = next((each for each in readings if each.use.reference == node.right), None)
        if left and node.left == node.right:
            yield _whole(left, "twice", 12.0)
            return
        along = left and right and left.sheet is right.sheet and right.area.common(left.area)
        if not left or not right or not along:
            continue
        if any(left.stays(axis) and right.moves(axis) for axis in AXES):
            # A share has what stays below the line.
            yield _whole(left, "inverted", 1.0)


def _same(subject: Subject) -> Iterator[Trouble]:
    """Every landing reads the same cells, so that all show the same."""
    axes = extended(subject.block.area)
    references = subject.shape.references
    if not axes or not references or subject.reads_by_place:
        return
    if all(part.locked for each in references for axis in axes for part in each.on(axis)):
        yield Trouble("same", -1, 7.0, subject.parts)


def needs_number(use: Use) -> bool:
    """Whether a reference to a single cell is calculated with."""
    return use.how in ("number", "total") or (use.how == "value" and not use.function)


def first_line(reading: Reading) -> Mask:
    """The landings of a recurrence that read what lies before all of it."""
    mask = np.zeros(reading.shape, bool)
    if not reading.own.any():
        return mask
    reference = reading.use.reference
    assert isinstance(reference, CellReference)
    seeds = np.unique(reading.kinds[~reading.own])
    rows, columns = reference.row, reference.column
    if len(seeds) > 1 and min(rows.at, columns.at) < -1:
        return mask
    if not rows.locked and 0 < -2 * rows.at <= reading.part.height:
        mask[:, : -rows.at] = True
    if not columns.locked and 0 < -2 * columns.at <= reading.part.width:
        mask[: -columns.at, :] = True
    return mask
