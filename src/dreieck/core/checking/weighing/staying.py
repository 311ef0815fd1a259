"""Troubles of references that stay: a list beside them is read once, all is the same."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.checking.weighing.missing import needs_number
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import Trouble, extended, labels_of_both, whole
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, LAST, Area, Axis
from dreieck.core.sheet.cells import Kind
from dreieck.core.tables.series import are_alike


def unread(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A list stands beside the landings, a number for each, and only one of them is read."""
    if reading.use.how == "place":
        return
    for axis in axes:
        crossing = CROSSING[axis]
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
        if not in_line and not _has_labels_of_the_landings(reading, axis):
            continue
        if in_line and beside > reading.part.on(crossing)[1]:
            content = reading.sheet.content(first.step(axis, 1))
            if isinstance(content, Shape):
                continue
        yield whole(reading, "unread", 9.0)


def _is_labelled_apart(reading: Reading, axis: Axis) -> bool:
    """Whether the cells behind an input are labelled otherwise than the landings."""
    return are_alike(*labels_of_both(reading, axis)) is False


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


def _has_labels_of_the_landings(reading: Reading, axis: Axis) -> bool:
    there, here = labels_of_both(reading, axis)
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


def torn(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
    """A cell is read twice by the start, and one of both moves while the other stays."""
    for axis in axes:
        if not reading.stays(axis):
            continue
        for each in others:
            torn = each.moves(axis) and each.sheet is reading.sheet
            if torn and each.area.first == reading.area.first and not _compared(reading, each):
                yield whole(reading, "torn", 8.0)
                return


def _compared(one: Reading, other: Reading) -> bool:
    """Whether two references are set against each other, as a value and where it began."""
    against = other_operand(one.subject.shape.tree, one.use.number, "-/*")
    return against is not None and other.use.reference in tree.references(against)


def twice(subject: Subject, readings: list[Reading]) -> Iterator[Trouble]:
    """A cell is divided by itself, or taken away from itself, in every landing."""
    for node in tree.walk(subject.shape.tree):
        if not isinstance(node, tree.Binary) or node.operator not in ("/", "-"):
            continue
        left = next((each for each in readings if each.use.reference == node.left), None)
        right = next((each for each in readings if each.use.reference == node.right), None)
        if left and node.left == node.right:
            yield whole(left, "twice", 12.0)
            return
        along = left and right and left.sheet is right.sheet and right.area.common(left.area)
        if not left or not right or not along:
            continue
        if any(left.stays(axis) and right.moves(axis) for axis in AXES):
            # A share has what stays below the line.
            yield whole(left, "inverted", 1.0)


def all_stays(subject: Subject) -> bool:
    """Whether every landing reads the same cells."""
    axes = extended(subject.block.area)
    references = subject.shape.references
    if not axes or not references or subject.reads_by_place:
        return False
    return all(part.locked for each in references for axis in axes for part in each.on(axis))


def same(subject: Subject, readings: list[Reading]) -> Iterator[Trouble]:
    """Every landing reads the same cells, though what it reads begins a list for all of them."""
    if not all_stays(subject) or isinstance(subject.shape.tree, CellReference):
        # What takes over one input alone is as good as that input.
        return
    axes = extended(subject.block.area)
    if subject.range_uses or any(_is_typed_list(each, axis) for each in readings for axis in axes):
        yield Trouble("same", -1, 7.0, subject.parts)


def _is_typed_list(reading: Reading, axis: Axis) -> bool:
    """Whether a list of typed entries begins with what is read; one that is worked out is none."""
    beside = reading.area.first.step(axis, 1)
    return _is_list(reading, axis) and not isinstance(reading.sheet.content(beside), Shape)
