"""Troubles of results that are read: headings left for them, balances that do not go on."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.factors import is_rate, other_operand, signs_of
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import Trouble, is_series_along, marked, whole
from dreieck.core.formula import Shape, tree
from dreieck.core.grid import AXES, CROSSING, Axis
from dreieck.core.sheet.cells import Kind
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label

_TIMES = ("date", "datetime", "time")


def results(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
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
        yield from marked(reading, "results", own, 8.0, 12.0)
    elif len(axes) == 2:
        yield from marked(reading, "results", own, 3.0, 4.0)
    elif gives_no_number(reading.subject.shape):
        yield from marked(reading, "results", own, 8.0, 12.0)


def _is_factor(reading: Reading, axes: list[Axis]) -> bool:
    """Whether results are multiplied by other cells, along labels that are no series.

    A balance or a growth by ``1 + rate`` goes on from result to result; a product of two
    readings does so hardly ever.
    """
    factor = other_operand(reading.subject.shape.tree, reading.use.number, "*/")
    if factor is None or not tree.references(factor) or is_rate(factor):
        return False
    axis = next((axis for axis in axes if _steps(reading, axis)), None)
    return axis is not None and not is_series_along(reading, axis)


def _goes_on_from_results(reading: Reading, others: list[Reading]) -> bool:
    """Whether a grid may go on from result to result: along a series, from a first line."""
    axis = next((axis for axis in AXES if _steps(reading, axis)), None)
    if axis is None or gives_no_number(reading.subject.shape):
        return False
    steps = [each for each in others if each.own.any() and each.use.number != reading.use.number]
    if any(_steps(each, CROSSING[axis]) for each in steps):
        return False
    adds = other_operand(reading.subject.shape.tree, reading.use.number, "+-") is not None
    first = reading.area.first
    told = [_begins_before(each, axis) for each in others if each is not reading]
    if adds and (any(told) or reading.sheet.look(first).form in _TIMES):
        # A balance goes on from where the list of what comes to it begins, a time always.
        return True
    typed = isinstance(reading.sheet.content(first), float)
    return not typed or is_series_along(reading, axis)


def _begins_before(reading: Reading, axis: Axis) -> bool:
    """Whether a list that goes along with the landings has a number before them, too."""
    before = reading.area.first.step(axis, -1)
    value = reading.subject.value(reading.sheet, before)
    return reading.in_line(axis) and isinstance(value, float)


def _steps(reading: Reading, axis: Axis) -> bool:
    """Whether a landing reads the one before it on this axis, and only on this one."""
    crossing = CROSSING[axis]
    (here,), (other,) = reading.use.reference.on(axis), reading.use.reference.on(crossing)
    return not here.locked and here.at == -1 and (other.locked or other.at == 0)


def gives_no_number(shape: Shape) -> bool:
    """Whether a formula compares or gives text, so that nothing goes on from its results."""
    node = tree.bare(shape.tree)
    if isinstance(node, tree.Binary):
        return node.compares
    if isinstance(node, tree.Call) and len(node.arguments) == 3:
        return all(isinstance(each, tree.Text) for each in node.arguments[1:])
    return False


def stuck(reading: Reading, others: list[Reading], axes: list[Axis]) -> Iterator[Trouble]:
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
        goes_on = taken == {"+", "-"} or (taken and says(told, "balance"))
        if goes_on or _grows(reading, others, axis):
            yield whole(reading, "stuck", 8.0)


def _grows(reading: Reading, others: list[Reading], axis: Axis) -> bool:
    """Whether a reading is multiplied by one plus a rate of its own for each year."""
    factor = other_operand(reading.subject.shape.tree, reading.use.number, "*")
    if factor is None or not is_rate(factor) or not is_series_along(reading, axis):
        return False
    rates = tree.references(factor)
    return any(each.in_line(axis) and each.use.reference in rates for each in others)


def _taken(subject: Subject, others: list[Reading], axis: Axis) -> set[str]:
    """Whether what goes along with the landings is added, taken away, or both."""
    signs = signs_of(subject.shape.tree)
    return {
        sign for each in others if each.in_line(axis) and (sign := signs.get(each.use.number, ""))
    }
