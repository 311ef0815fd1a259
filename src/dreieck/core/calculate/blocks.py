"""Blocks: connected areas of cells that share one shape, and the rectangles they are made of."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, reduce
from weakref import WeakKeyDictionary

import numpy as np

from dreieck.core.address import Area, Cell
from dreieck.core.cells import Kind
from dreieck.core.column import Column
from dreieck.core.formula import Shape
from dreieck.core.sheet import Sheet


@dataclass(frozen=True)
class Block:
    """Cells that share one shape: rectangles that touch each other, mostly just one."""

    shape: Shape
    parts: tuple[Area, ...]

    @cached_property
    def area(self) -> Area:
        """The smallest area that holds the block."""
        return reduce(Area.around, self.parts)

    @cached_property
    def start(self) -> Cell:
        """The first cell in reading order."""
        return min((part.first for part in self.parts), key=_reading_order)

    @property
    def size(self) -> int:
        """How many cells."""
        return sum(part.size for part in self.parts)

    def holds(self, cell: Cell) -> bool:
        """Whether a cell belongs to the block."""
        return any(part.holds(cell) for part in self.parts)

    def cells(self) -> list[Cell]:
        """All cells, in reading order."""
        return sorted((cell for part in self.parts for cell in part.cells()), key=_reading_order)

    def stepped(self, cell: Cell, steps: int) -> Cell:
        """The cell so many steps further in reading order, round and round."""
        if len(self.parts) == 1:
            area = self.area
            index = (cell.row - area.top) * area.width + cell.column - area.left
            row, column = divmod((index + steps) % area.size, area.width)
            return Cell(area.left + column, area.top + row)
        cells = self.cells()
        return cells[(cells.index(cell) + steps) % len(cells)]


def block_at(sheet: Sheet, cell: Cell) -> Block | None:
    """The block that a cell belongs to, None where the cell holds no formula."""
    shape = sheet.content(cell)
    if not isinstance(shape, Shape):
        return None
    alike = [patch.area for patch in patches(sheet) if patch.shape is shape]
    parts = [area for area in alike if area.holds(cell)]
    for part in parts:
        touching = [area for area in alike if area not in parts and _touch(part, area)]
        parts.extend(touching)
    return Block(shape, tuple(parts))


def blocks(sheet: Sheet) -> list[Block]:
    """All blocks of a sheet, in reading order of their starts."""
    alike: dict[Shape, list[Area]] = {}
    for patch in patches(sheet):
        alike.setdefault(patch.shape, []).append(patch.area)
    found = [
        Block(shape, tuple(parts)) for shape, areas in alike.items() for parts in _connected(areas)
    ]
    return sorted(found, key=lambda block: _reading_order(block.start))


def _connected(areas: list[Area]) -> list[list[Area]]:
    """Areas in groups that touch each other; too many are not compared one with another."""
    if len(areas) > _COMPARED:
        return [[area] for area in areas]
    groups: list[list[Area]] = []
    for area in areas:
        touching = [group for group in groups if any(_touch(area, each) for each in group)]
        groups = [group for group in groups if group not in touching]
        groups.append([area, *(each for group in touching for each in group)])
    return groups


def _touch(one: Area, other: Area) -> bool:
    """Whether two areas share an edge; a corner alone does not count."""
    wider = Area(one.left - 1, one.top, one.right + 1, one.bottom)
    taller = Area(one.left, one.top - 1, one.right, one.bottom + 1)
    return bool(wider.common(other) or taller.common(other))


def _reading_order(cell: Cell) -> tuple[int, int]:
    return cell.row, cell.column


@dataclass(frozen=True, slots=True)
class Patch:
    """A rectangle of cells that share one shape; a block is made of one or several."""

    shape: Shape
    area: Area


_COMPARED = 1_000
_Run = tuple[int, int, Shape]
_PATCHES: WeakKeyDictionary[Sheet, tuple[object, tuple[Patch, ...]]] = WeakKeyDictionary()
_RUNS: WeakKeyDictionary[Column, tuple[int, list[_Run]]] = WeakKeyDictionary()


def patches(sheet: Sheet) -> tuple[Patch, ...]:
    """All formulas of a sheet, as rectangles of one shape each."""
    state = tuple((n, c.serial, c.formula_version) for n, c in sorted(sheet.columns.items()))
    known = _PATCHES.get(sheet)
    if known is None or known[0] != state:
        known = _PATCHES[sheet] = (state, tuple(_patches(sheet)))
    return known[1]


def _patches(sheet: Sheet) -> list[Patch]:
    """Runs down the columns, joined where the next column has the same run."""
    done: list[Patch] = []
    growing: dict[tuple[int, int], Patch] = {}
    for number, column in sorted(sheet.columns.items()):
        still: dict[tuple[int, int], Patch] = {}
        for top, bottom, shape in _runs(column):
            before = growing.pop((top, bottom), None)
            if before and before.shape is shape and before.area.right == number - 1:
                area = Area(before.area.left, top, number, bottom)
            else:
                if before:
                    done.append(before)
                area = Area(number, top, number, bottom)
            still[top, bottom] = Patch(shape, area)
        done.extend(growing.values())
        growing = still
    return done + list(growing.values())


def _runs(column: Column) -> list[_Run]:
    """The rows of a column that hold one shape each, from top to bottom."""
    known = _RUNS.get(column)
    if known is None or known[0] != column.formula_version:
        known = _RUNS[column] = (column.formula_version, _found_runs(column))
    return known[1]


def _found_runs(column: Column) -> list[_Run]:
    extent = column.extent()
    if extent is None:
        return []
    cells = column.cells(*extent)
    shapes = np.where(cells.kinds == Kind.FORMULA, cells.payload, -1.0)
    starts = np.concatenate(([0], np.flatnonzero(shapes[1:] != shapes[:-1]) + 1))
    ends = np.concatenate((starts[1:], [len(cells)])) - 1
    held = shapes[starts] >= 0
    return [
        (extent[0] + start, extent[0] + end, cells.pool.objects[int(number)])
        for start, end, number in zip(
            starts[held].tolist(), ends[held].tolist(), shapes[starts][held].tolist(), strict=True
        )
    ]
