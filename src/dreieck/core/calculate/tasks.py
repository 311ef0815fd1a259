"""Tasks: the parts of blocks that wait to be worked out, and which of them read which."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple, Protocol

from dreieck.core.analysis.reads import reach
from dreieck.core.budget import spend
from dreieck.core.calculate.blocks import Patch, patches_in
from dreieck.core.calculate.results import Results
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.operands import CellValues
from dreieck.core.sheet.cells import Kind

_ROWS = 131_072
"""How many rows are worked out at once; arrays of that size stay in the processor's cache."""
_FEW = 1_024
"""How many where no more are asked for."""
_SEEN = 4_096
"""So many rows at most are asked for when something is shown, or read by what is shown."""


class Task(NamedTuple):
    """An area of formulas of one shape that wait to be worked out."""

    sheet: str
    area: Area
    shape: Shape


class Knows(Protocol):
    """Who knows the values so far and what shapes read."""

    def results(self, sheet: str) -> Results:
        """The values of a sheet as far as they are known."""

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""

    def references(self, shape: Shape) -> Iterator[Reference]:
        """What a formula reads."""


class KnownValues(Knows, CellValues, Protocol):
    """Who knows the values so far, and reads them."""


class Tasks:
    """The tasks of a workbook, as they are when they are first asked for."""

    def __init__(self, knows: Knows) -> None:
        self.knows = knows
        self._found: dict[tuple[str, int, int, int], Task | None] = {}
        self._in_parts: dict[tuple[str, int], bool] = {}

    def within(self, sheet: str, area: Area) -> Iterator[Task]:
        """The tasks that lie in an area at least in part, and those that fill some of it."""
        results = self.knows.results(sheet)
        yield from self._starting_in(results, area)
        for start in results.fans.waiting_over(area):
            if not area.holds(start):
                yield from self._starting_in(results, Area.of(start))

    def _starting_in(self, results: Results, area: Area) -> Iterator[Task]:
        name = results.sheet.name
        for index, patch in patches_in(results.sheet, area):
            spend(1)
            rows = self._rows_at_once(name, index, patch, area)
            first = max(area.top - patch.area.top, 0) // rows
            last = (min(area.bottom, patch.area.bottom) - patch.area.top) // rows
            for number in range(first, last + 1):
                task = self._task(name, index, rows, number, patch)
                if task and task.area.common(area):
                    yield task

    def read_by(self, task: Task) -> Iterator[Task]:
        """The tasks that a task reads."""
        for reference in self.knows.references(task.shape):
            area = reach(reference, task.area)
            sheet = reference.sheet or task.sheet
            if area and self.knows.has_sheet(sheet):
                yield from self.within(sheet, area)

    def _rows_at_once(self, sheet: str, index: int, patch: Patch, asked: Area) -> int:
        """How many rows of a patch are a task: few where few are asked for, as for a screen."""
        if asked.height > _SEEN or patch.area.height <= _SEEN:
            return _ROWS
        key = (sheet, index)
        if key not in self._in_parts:
            self._in_parts[key] = not self._reads_itself(sheet, patch)
        return _FEW if self._in_parts[key] else _ROWS

    def _reads_itself(self, sheet: str, patch: Patch) -> bool:
        """Whether a patch reads cells of its own, so that it goes from row to row."""
        for reference in self.knows.references(patch.shape):
            area, name = reach(reference, patch.area), reference.sheet or sheet
            if not area or not area.common(patch.area) or not self.knows.has_sheet(name):
                continue
            if self.knows.results(name).sheet.name == sheet:
                return True
        return False

    def _task(self, sheet: str, index: int, rows: int, number: int, patch: Patch) -> Task | None:
        key = (sheet, index, rows, number)
        if key not in self._found:
            left, top, right, bottom = patch.area
            first = top + number * rows
            area = Area(left, first, right, min(first + rows - 1, bottom))
            pending = self.knows.results(sheet).pending(area)
            self._found[key] = Task(sheet, pending, patch.shape) if pending else None
        return self._found[key]


class CellTasks(Tasks):
    """The same, with a task for each cell."""

    def within(self, sheet: str, area: Area) -> Iterator[Task]:
        """The tasks that lie in an area."""
        results = self.knows.results(sheet)
        for number in results.sheet.columns_in(area):
            column = results.column(number)
            for row in column.rows(area.top, area.bottom, Kind.PENDING):
                spend(1)
                shape = results.sheet.content(Cell(number, row))
                assert isinstance(shape, Shape)
                yield Task(results.sheet.name, Area(number, row, number, row), shape)
