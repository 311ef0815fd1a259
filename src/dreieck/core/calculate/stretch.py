"""Some runs of a workbook that are worked out together, and the values in one of them."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

from dreieck.core.calculate.arithmetic import Room
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells, Pool, pooled
from dreieck.core.values import Value

Key = tuple[str, range, int, int]
"""A sheet, rows of a column of it, and the identity of a node of their formula."""


@dataclass
class Plan:
    """What is known of all stretches: what depends on the inputs, and tables to work in."""

    depends: dict[Key, bool] = field(default_factory=dict)
    known: dict[Key, Any] = field(default_factory=dict)
    """The numbers of nodes that do not."""
    rooms: dict[tuple[int, int], Room] = field(default_factory=dict)

    def room(self, runs: int, rows: int) -> Room:
        """The tables of a size."""
        return self.rooms.setdefault((runs, rows), Room(runs, rows))


@dataclass(frozen=True, slots=True)
class _Stack:
    """The values of some rows of a column in all runs of a stretch, one run below the other."""

    top: int
    height: int
    cells: Cells


class Stretch:
    """Some runs, worked out together."""

    def __init__(self, base: Calculation, count: int, plan: Plan) -> None:
        self.base = base
        self.count = count
        self.plan = plan
        self.one = OneRun(base, self)
        self._stacks: dict[tuple[str, int], list[_Stack]] = {}

    def put(self, sheet: str, column: int, top: int, height: int, cells: Cells) -> None:
        """Take in the values of some rows of a column."""
        self._stacks.setdefault((sheet, column), []).append(_Stack(top, height, cells))

    def holds(self, sheet: str, area: Area) -> bool:
        """Whether some of an area depends on the inputs."""
        return any(
            stack.top <= area.bottom and area.top < stack.top + stack.height
            for (name, column), stacks in self._stacks.items()
            if name == sheet and area.left <= column <= area.right
            for stack in stacks
        )

    def read(self, sheet: str, column: int, top: int, height: int) -> Cells:
        """The values of some rows of a column in all runs."""
        parts = self._parts(sheet, column, top, height)
        if len(parts) == 1 and (parts[0].top, parts[0].height) == (top, height):
            return parts[0].cells
        if len(parts) == 1 and _covers(parts[0], top, height):
            return _rows_of(parts[0], top, height)
        cells = self.base.cells(sheet, column, top, top + height - 1)
        kinds, numbers = np.tile(cells.kinds, self.count), np.tile(cells.payload, self.count)
        if not parts:
            return Cells(kinds, numbers, cells.pool)
        pool = Pool()
        numbers = pooled(Cells(kinds, numbers, cells.pool), pool)
        for part in parts:
            first, last = max(part.top, top), min(part.top + part.height, top + height)
            within = _rows_of(part, first, last - first)
            rows = slice(first - top, last - top)
            kinds.reshape(self.count, height)[:, rows] = within.kinds.reshape(self.count, -1)
            laid = pooled(within, pool).reshape(self.count, -1)
            numbers.reshape(self.count, height)[:, rows] = laid
        return Cells(kinds, numbers, pool)

    def run(self, sheet: str, column: int, top: int, height: int, number: int) -> Cells | None:
        """The values of some rows in one run; None where they do not depend on the inputs."""
        parts = self._parts(sheet, column, top, height)
        if not parts:
            return None
        if len(parts) == 1 and _covers(parts[0], top, height):
            part = parts[0]
            first = number * part.height + top - part.top
            return part.cells.taken(slice(first, first + height))
        cells = self.base.cells(sheet, column, top, top + height - 1)
        laid = []
        for part in parts:
            first, last = max(part.top, top), min(part.top + part.height, top + height)
            at = number * part.height + first - part.top
            within = part.cells.taken(slice(at, at + last - first))
            laid.append((np.arange(first - top, last - top), within))
        return cells.replaced(laid)

    def _parts(self, sheet: str, column: int, top: int, height: int) -> list[_Stack]:
        return [
            stack
            for stack in self._stacks.get((sheet, column), ())
            if stack.top < top + height and top < stack.top + stack.height
        ]


def _covers(stack: _Stack, top: int, height: int) -> bool:
    return stack.top <= top and top + height <= stack.top + stack.height


def _rows_of(stack: _Stack, top: int, height: int) -> Cells:
    """Some rows of a stack, in all runs."""
    rows = slice(top - stack.top, top - stack.top + height)
    cells = stack.cells
    return Cells(
        np.ascontiguousarray(cells.kinds.reshape(-1, stack.height)[:, rows]).ravel(),
        np.ascontiguousarray(cells.payload.reshape(-1, stack.height)[:, rows]).ravel(),
        cells.pool,
    )


class OneRun(Calculation):
    """The values in one run of a stretch."""

    def __init__(self, base: Calculation, stretch: Stretch) -> None:
        super().__init__(base.workbook)
        self._results = base._results
        self.stretch = stretch
        self.number = 0

    def go_to(self, number: int) -> None:
        """Go on to another run."""
        self.number = number
        self._forget_shared()

    def value(self, sheet: str, cell: Cell) -> Value:
        """The value of a cell."""
        found = self.stretch.run(self._spelling(sheet), cell.column, cell.row, 1, self.number)
        return super().value(sheet, cell) if found is None else found.value(0)

    def cells(self, sheet: str, column: int, top: int, bottom: int) -> Cells:
        """The values of some rows of a column."""
        height = bottom - top + 1
        found = self.stretch.run(self._spelling(sheet), column, top, height, self.number)
        return super().cells(sheet, column, top, bottom) if found is None else found
