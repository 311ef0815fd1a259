"""Blocks: connected areas of cells that share one shape, and the rectangles they are made of."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import groupby
from weakref import WeakKeyDictionary

from dreieck.core.address import EVERYWHERE, Area, Cell
from dreieck.core.formula import Shape
from dreieck.core.sheet import Sheet


@dataclass(frozen=True, slots=True)
class Block:
    """Cells that share one shape. ``cells`` are in reading order; the first is the start."""

    shape: Shape
    cells: tuple[Cell, ...]
    area: Area

    @property
    def start(self) -> Cell:
        """The first cell in reading order."""
        return self.cells[0]


def block_at(sheet: Sheet, cell: Cell) -> Block | None:
    """The block that a cell belongs to, None where the cell holds no formula."""
    shape = sheet.content(cell)
    if not isinstance(shape, Shape):
        return None
    found = {cell}
    edge = [cell]
    while edge:
        column, row = edge.pop()
        for near in (
            Cell(column, row - 1),
            Cell(column, row + 1),
            Cell(column - 1, row),
            Cell(column + 1, row),
        ):
            if near not in found and sheet.content(near) is shape:
                found.add(near)
                edge.append(near)
    cells = tuple(sorted(found, key=lambda c: (c.row, c.column)))
    left, right = min(c.column for c in cells), max(c.column for c in cells)
    return Block(shape, cells, Area(left, cells[0].row, right, cells[-1].row))


@dataclass(frozen=True, slots=True)
class Patch:
    """A rectangle of cells that share one shape; a block is made of one or several."""

    shape: Shape
    area: Area


_PATCHES: WeakKeyDictionary[Sheet, tuple[int, tuple[Patch, ...]]] = WeakKeyDictionary()


def patches(sheet: Sheet) -> tuple[Patch, ...]:
    """All formulas of a sheet, as rectangles of one shape each."""
    known = _PATCHES.get(sheet)
    if known is None or known[0] != sheet.version:
        known = _PATCHES[sheet] = (sheet.version, tuple(_patches(sheet)))
    return known[1]


def _patches(sheet: Sheet) -> list[Patch]:
    """Runs down the columns, joined where the next column has the same run."""
    done: list[Patch] = []
    growing: dict[tuple[int, int], Patch] = {}
    for column, runs in _runs(sheet):
        still: dict[tuple[int, int], Patch] = {}
        for top, bottom, shape in runs:
            before = growing.pop((top, bottom), None)
            if before and before.shape is shape and before.area.right == column - 1:
                area = Area(before.area.left, top, column, bottom)
            else:
                if before:
                    done.append(before)
                area = Area(column, top, column, bottom)
            still[top, bottom] = Patch(shape, area)
        done.extend(growing.values())
        growing = still
    return done + list(growing.values())


def _runs(sheet: Sheet) -> Iterator[tuple[int, list[tuple[int, int, Shape]]]]:
    for column, cells in groupby(sheet.formulas(EVERYWHERE), key=lambda each: each[0].column):
        runs: list[tuple[int, int, Shape]] = []
        for cell, shape in cells:
            if runs and runs[-1][1] == cell.row - 1 and runs[-1][2] is shape:
                runs[-1] = (runs[-1][0], cell.row, shape)
            else:
                runs.append((cell.row, cell.row, shape))
        yield column, runs
