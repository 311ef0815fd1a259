"""Whether a formula totals the cells that stand before it."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import uses
from dreieck.core.formula import Shape, tree
from dreieck.core.grid import Area, Cell


def is_total(shape: Shape, cell: Cell) -> bool:
    """Whether a formula is a total of cells above it, or to its left."""
    return totals_above(shape, cell) or any(
        area.top <= cell.row <= area.bottom and area.right < cell.column
        for area in _totalled(shape, cell)
    )


def totals_above(shape: Shape, cell: Cell) -> bool:
    """Whether a formula is a total of cells above it."""
    return any(
        area.left <= cell.column <= area.right and area.bottom < cell.row
        for area in _totalled(shape, cell)
    )


def _totalled(shape: Shape, cell: Cell) -> Iterator[Area]:
    """The ranges that a call adds up, averages or the like."""
    if isinstance(shape.tree, tree.Call):
        for use in uses(shape):
            area = use.reference.area(cell)
            if use.how == "total" and area and area.size > 1:
                yield area
