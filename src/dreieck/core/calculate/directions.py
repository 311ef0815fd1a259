"""Rings of tasks that only go one way: a chain down a column, a balance brought forward.

In such a ring every cell reads only lines (rows or columns) before its own, or cells of its own
line that come first. So the lines are worked out one after the other.
"""

from __future__ import annotations

from graphlib import CycleError, TopologicalSorter
from typing import NamedTuple

from dreieck.core.analysis.reads import reach
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.calculate.recurrence import run_recurrence
from dreieck.core.calculate.tasks import KnownValues, Task
from dreieck.core.formula.reference import Part, Reference
from dreieck.core.grid import CROSSING, Area, Axis
from dreieck.core.sheet.cells import Kind
from dreieck.core.values import Place


class _Direction(NamedTuple):
    """Line by line on an axis, onward or back."""

    axis: Axis
    sign: int


_DIRECTIONS = (
    _Direction("row", 1),
    _Direction("column", 1),
    _Direction("row", -1),
    _Direction("column", -1),
)


def run_in_direction(ring: list[Task], values: KnownValues) -> bool:
    """Work a ring out line by line, if there is a direction in which that can be done.

    Where there is none, nothing is worked out and the answer is False.
    """
    for direction in _DIRECTIONS:
        ranked = _ranked(ring, values, direction)
        if ranked:
            one_column = len(ring) == 1 and ring[0].area.width == 1
            if not (one_column and direction.axis == "row" and run_recurrence(ring[0], values)):
                _run(ranked, values, direction)
            return True
    return False


def _run(ranked: list[Task], values: KnownValues, direction: _Direction) -> None:
    ends = [task.area.on(direction.axis) for task in ranked]
    lines = range(min(end[0] for end in ends), max(end[1] for end in ends) + 1)
    for line in lines if direction.sign > 0 else reversed(lines):
        for task, (first, last) in zip(ranked, ends, strict=True):
            if first <= line <= last:
                across = task.area.spanning(direction.axis, line, line)
                results = values.results(task.sheet)
                for cell in across.cells():
                    if results.column(cell.column).kind(cell.row) == Kind.PENDING:
                        place = Place(task.sheet, cell)
                        results.put(cell, result_at(task.shape, place, values))


def _ranked(ring: list[Task], values: KnownValues, direction: _Direction) -> list[Task] | None:
    """The tasks in the order in which a line of them is worked out; None where there is none."""
    sorter: TopologicalSorter[Task] = TopologicalSorter(dict.fromkeys(ring, ()))
    for task in ring:
        for reference in values.references(task.shape):
            area, sheet = reach(reference, task.area), reference.sheet or task.sheet
            if not values.has_sheet(sheet):
                continue
            name = values.results(sheet).sheet.name
            for other in ring:
                if not area or other.sheet != name or not area.common(other.area):
                    continue
                ahead = _ahead(reference, task.area, other.area, direction)
                if ahead > 0:
                    return None
                if ahead == 0 and other is task:
                    cross = _Direction(CROSSING[direction.axis], 1)
                    if _ahead(reference, task.area, other.area, cross) >= 0:
                        return None
                elif ahead == 0:
                    sorter.add(task, other)
    try:
        return list(sorter.static_order())
    except CycleError:
        return None


def _ahead(reference: Reference, area: Area, other: Area, direction: _Direction) -> int:
    """How far ahead of its own line a formula of an area may read in another one.

    Below 0: only lines before its own. It is largest on the first line of the area.
    """
    first, last = area.on(direction.axis)
    ends = other.on(direction.axis)
    line, limit = (first, ends[1]) if direction.sign > 0 else (last, ends[0])
    reads = _farthest(reference.on(direction.axis), line, direction.sign, limit)
    return (reads - line) * direction.sign


def _farthest(parts: tuple[Part, ...], line: int, sign: int, limit: int) -> int:
    """The farthest line that is read, at most the limit."""
    lines = [part.coordinate(line) * sign for part in parts] or [limit * sign]
    return min(max(lines), limit * sign) * sign
