"""What cells are called by the headings above and to the left of them."""

from __future__ import annotations

from dreieck.core.calculate.blocks import blocks
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.layout import Headings
from dreieck.core.sheet.sheet import Sheet

_REACH = 2_000
_MOST = 8
"""More columns or rows than these would take too much of the view."""


def heading_above(sheet: Sheet, cell: Cell) -> str | None:
    """The nearest text above a cell, or the text at the top of a long list."""
    for row in range(cell.row - 1, max(cell.row - _REACH, 0), -1):
        content = sheet.content(Cell(cell.column, row))
        if isinstance(content, str) and content.strip():
            return content.strip()
    top = Area(cell.column, 1, cell.column, min(cell.row - 1, _REACH))
    if cell.row > _REACH:
        texts = [c for _, c in sheet.filled(top) if isinstance(c, str) and c.strip()]
        return texts[-1].strip() if texts else None
    return None


def heading_left(sheet: Sheet, cell: Cell) -> str | None:
    """The nearest text to the left of a cell."""
    for column in range(cell.column - 1, max(cell.column - _REACH, 0), -1):
        content = sheet.content(Cell(column, cell.row))
        if isinstance(content, str) and content.strip():
            return content.strip()
    return None


def heading_of(sheet: Sheet, area: Area) -> str | None:
    """What an area is called by its headings: ``Cheese, kg a guest-night``.

    None where no heading is found; a cell that holds text is called by that text.
    """
    first, last = area.first, area.last
    if area.size == 1:
        content = sheet.content(first)
        if isinstance(content, str):
            return f"“{content.strip()}”"
        return _joined(heading_left(sheet, first), heading_above(sheet, first))
    if area.height == MAX_ROW:
        return None if area.width > 1 else _top_text(sheet, first)
    if area.width == MAX_COLUMN:
        return None if area.height > 1 else _left_text(sheet, first)
    if area.width == 1:
        rows = _from_to(heading_left(sheet, first), heading_left(sheet, last))
        return _joined(heading_above(sheet, first), rows)
    if area.height == 1:
        columns = _from_to(heading_above(sheet, first), heading_above(sheet, last))
        return _joined(heading_left(sheet, first), columns)
    rows = _from_to(heading_left(sheet, first), heading_left(sheet, last))
    columns = _from_to(heading_above(sheet, first), heading_above(sheet, last))
    return _joined(rows, columns)


def headings_in_view(sheet: Sheet) -> Headings:
    """The columns and rows that are worth keeping in view: those before the table begins.

    The table is the largest block, so that what its locked references read stays too; without
    one it is what is filled with numbers.
    """
    filled = [block.area for block in blocks(sheet) if block.size > 1]
    if filled:
        table = max(filled, key=lambda area: area.size)
        corner = table.first
    else:
        numbers = {
            number: found[0]
            for number, column in sheet.columns.items()
            if (found := column.rows(1, MAX_ROW, Kind.NUMBER))
        }
        corner = Cell(min(numbers), min(numbers.values())) if numbers else Cell(1, 1)
    columns, rows = corner.column - 1, corner.row - 1
    return Headings(columns * (columns <= _MOST), rows * (rows <= _MOST))


def _top_text(sheet: Sheet, first: Cell) -> str | None:
    column = sheet.filled(Area(first.column, 1, first.column, _REACH))
    return next((c for _, c in column if isinstance(c, str)), None)


def _left_text(sheet: Sheet, first: Cell) -> str | None:
    row = sheet.filled(Area(1, first.row, _REACH, first.row))
    return next((c for _, c in row if isinstance(c, str)), None)


def _joined(one: str | None, two: str | None) -> str | None:
    return ", ".join(part for part in (one, two) if part) or None


def _from_to(one: str | None, two: str | None) -> str | None:
    return f"{one} to {two}" if one and two and one != two else one or two
