"""The lines that close a table: its totals, means and the like, by their formulas or labels."""

from __future__ import annotations

from dreieck.core.analysis.totalling import summed, totals_above
from dreieck.core.formula import Shape
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import closes


def is_closing(sheet: Sheet, line: Area, axis: Axis) -> bool:
    """Whether a line across an axis, such as a row for *row*, sums up those before it.

    It has a formula that does, or its first text says so and nothing else: *Total*, *Sum 2024*.
    """
    filled = list(sheet.filled(line))
    if any(_sums_up(content, cell, axis) for cell, content in filled):
        return True
    texts = [
        (cell.on(CROSSING[axis]), content) for cell, content in filled if isinstance(content, str)
    ]
    return len(texts) < len(filled) and bool(texts) and closes(min(texts)[1])


def without_closing(sheet: Sheet, table: Area, axis: Axis) -> Area:
    """A table without the lines at its end that close it; one line is always left."""
    low, high = table.on(axis)
    while high > low and is_closing(sheet, table.spanning(axis, high, high), axis):
        high -= 1
    return table.spanning(axis, low, high)


def _sums_up(content: Content, cell: Cell, axis: Axis) -> bool:
    if not isinstance(content, Shape):
        return False
    if axis == "row" and totals_above(content, cell):
        return True
    crossing = CROSSING[axis]
    parts = summed(content, cell)
    return bool(parts) and all(
        each.on(axis)[1] < cell.on(axis)
        and each.on(crossing)[0] <= cell.on(crossing) <= each.on(crossing)[1]
        for each in parts
    )
