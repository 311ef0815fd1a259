"""Rings of tasks that only go one way: a chain down a column, a balance brought forward.

In such a ring every cell reads only lines (rows or columns) before its own, or cells of its own
line that come first. So the lines are worked out one after the other.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterable
from graphlib import CycleError, TopologicalSorter
from typing import NamedTuple

from dreieck.core.analysis.reads import reach
from dreieck.core.budget import spend
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
    places = _Places(ring)
    for direction in _DIRECTIONS:
        ranked = _ranked(ring, places, values, direction)
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


class _Places:
    """Where the tasks of a ring stand, none over another: by sheet and column, from the top."""

    def __init__(self, ring: list[Task]) -> None:
        self._columns: dict[str, dict[int, list[Task]]] = {}
        for task in sorted(ring, key=lambda task: task.area.top):
            columns = self._columns.setdefault(task.sheet, {})
            for number in range(task.area.left, task.area.right + 1):
                columns.setdefault(number, []).append(task)

    def within(self, sheet: str, area: Area) -> Iterable[Task]:
        """The tasks that have cells in an area, each once."""
        columns = self._columns.get(sheet, {})
        found: dict[Task, None] = {}
        for number in sorted(columns.keys() & range(area.left, area.right + 1)):
            tasks = columns[number]
            first = bisect_left(tasks, area.top, key=lambda task: task.area.bottom)
            last = bisect_right(tasks, area.bottom, key=lambda task: task.area.top)
            spend(last - first + 1)
            found.update(dict.fromkeys(tasks[first:last]))
        return found


def _ranked(
    ring: list[Task], places: _Places, values: KnownValues, direction: _Direction
) -> list[Task] | None:
    """The tasks in the order in which a line of them is worked out; None where there is none."""
    sorter: TopologicalSorter[Task] = TopologicalSorter(dict.fromkeys(ring, ()))
    for task in ring:
        for reference in values.references(task.shape):
            area, sheet = reach(reference, task.area), reference.sheet or task.sheet
            if not values.has_sheet(sheet):
                continue
            name = values.results(sheet).sheet.name
            for other in places.within(name, area) if area else ():
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
