"""Blocks: connected areas of cells that share one shape."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.address import Area, Cell
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
