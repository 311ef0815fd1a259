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
        self._found: dict[tuple[str, int, int], Task | None] = {}

    def within(self, sheet: str, area: Area) -> Iterator[Task]:
        """The tasks that lie in an area at least in part."""
        results = self.knows.results(sheet)
        name = results.sheet.name
        for index, patch in patches_in(results.sheet, area):
            spend(1)
            first = max(area.top - patch.area.top, 0) // _ROWS
            last = (min(area.bottom, patch.area.bottom) - patch.area.top) // _ROWS
            for number in range(first, last + 1):
                task = self._task(name, index, number, patch)
                if task and task.area.common(area):
                    yield task

    def read_by(self, task: Task) -> Iterator[Task]:
        """The tasks that a task reads."""
        for reference in self.knows.references(task.shape):
            area = reach(reference, task.area)
            sheet = reference.sheet or task.sheet
            if area and self.knows.has_sheet(sheet):
                yield from self.within(sheet, area)

    def _task(self, sheet: str, index: int, number: int, patch: Patch) -> Task | None:
        key = (sheet, index, number)
        if key not in self._found:
            left, top, right, bottom = patch.area
            first = top + number * _ROWS
            area = Area(left, first, right, min(first + _ROWS - 1, bottom))
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
                shape = results.sheet.content(Cell(number, row))
                assert isinstance(shape, Shape)
                yield Task(results.sheet.name, Area(number, row, number, row), shape)
