"""What cells are called by the headings above and to the left of them."""

from __future__ import annotations

import re

import numpy as np

from dreieck.core.analysis.totalling import is_total
from dreieck.core.budget import spend
from dreieck.core.calculate.blocks import blocks
from dreieck.core.formula import Shape
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.layout import Headings
from dreieck.core.sheet.sheet import Sheet

_REACH = 2_000
_NEARBY = 40
_BOTH_AXES = re.compile(r"\w\s*[/\\|×↓→]\s*\w| by |^[×x*+\\/]$", re.IGNORECASE)
_MOST = 8
"""More columns or rows than these would take too much of the view."""


def heading_above(sheet: Sheet, cell: Cell, *, titles: bool = False) -> str | None:
    """The nearest text above a cell, or the text at the top of a long list.

    One that is a title of the sheet, or of a part of it, counts only with ``titles``.
    """
    for row in range(cell.row - 1, max(cell.row - _REACH, 0), -1):
        at = Cell(cell.column, row)
        content = sheet.content(at)
        if isinstance(content, str) and content.strip():
            names_no_line = is_corner(sheet, at) or (not titles and _is_title(sheet, at))
            return None if names_no_line else content.strip()
    top = Area(cell.column, 1, cell.column, min(cell.row - 1, _REACH))
    if cell.row > _REACH:
        texts = [c for _, c in sheet.filled(top) if isinstance(c, str) and c.strip()]
        return texts[-1].strip() if texts else None
    return None


def _is_title(sheet: Sheet, cell: Cell) -> bool:
    """Whether a text names the sheet or a part of it, and not the column that it stands in.

    It looks so, or it stands alone in its row with an empty cell below.
    """
    if sheet.look(cell).role == "title":
        return True
    if sheet.content(cell.step("row", 1)) is not None:
        return False
    used = sheet.used()
    row = used._replace(top=cell.row, bottom=cell.row) if used else Area.of(cell)
    return sheet.count(row) == 1


def heading_left(sheet: Sheet, cell: Cell) -> str | None:
    """What the row of a cell is called by a text to the left of it.

    Of several texts that of the column whose entries tell the rows apart, the leftmost if
    several do; else the nearest one.
    """
    found: list[Cell] = []
    beside = sheet.content(cell.step("column", -1))
    if beside is None and isinstance(sheet.content(cell), str):
        # It is the label of its own row.
        return None
    for column in range(cell.column - 1, max(cell.column - _REACH, 0), -1):
        at = Cell(column, cell.row)
        content = sheet.content(at)
        if isinstance(content, str) and content.strip():
            if is_corner(sheet, at) or sheet.look(at).role == "title" or _heads_list(sheet, at):
                break
            found.append(at)
        elif content is None and found:
            break
    if not found:
        return None
    telling = (at for at in reversed(found) if len(found) > 1 and _tells_apart(sheet, at))
    return str(sheet.content(next(telling, found[0]))).strip()


def heading_over(sheet: Sheet, cell: Cell) -> str | None:
    """The heading above a cell, unless that has a label of its own and stands apart."""
    beside = sheet.content(cell.step("column", -1))
    above = [cell.step("row", -step) for step in (1, 2) if cell.row > step]
    apart = len(above) == 2 and not any(sheet.content(each) is not None for each in above)
    return None if apart and isinstance(beside, str) else heading_above(sheet, cell)


def label_on(sheet: Sheet, cell: Cell, axis: Axis) -> str:
    """What tells a cell from the others of its column (*row*), or of its row (*column*)."""
    found = heading_left(sheet, cell) if axis == "row" else heading_over(sheet, cell)
    return found or ""


def is_corner(sheet: Sheet, cell: Cell) -> bool:
    """Whether a text names both axes of a table, as *Hut / week* does, and so no line of it."""
    content = sheet.content(cell)
    if not isinstance(content, str) or not _BOTH_AXES.search(content.strip()):
        return False
    right = sheet.content(cell.step("column", 1))
    below = sheet.content(cell.step("row", 1))
    if right is None or below is None:
        return False
    return isinstance(below, str) or not isinstance(right, str)


def _heads_list(sheet: Sheet, cell: Cell) -> bool:
    """Whether a text stands in a row of headings that begins with that of a column of labels."""
    first = cell
    while isinstance(sheet.content(first.step("column", -1)), str):
        spend(1)
        first = first.step("column", -1)
    above, below = (sheet.content(first.step("row", n)) for n in (-1, 1))
    return isinstance(below, str) and not isinstance(above, str) and _heads(sheet, first)


def _tells_apart(sheet: Sheet, cell: Cell) -> bool:
    """Whether the texts of the list in which a cell lies are all different."""
    texts: list[str] = []
    for step in (-1, 1):
        at = cell if step > 0 else cell.step("row", -1)
        while abs(at.row - cell.row) <= _NEARBY:
            content = sheet.content(at)
            # Above the first number beside it stands the heading.
            if not isinstance(content, str) or not _is_row(sheet, at):
                break
            texts.append(content.strip().casefold())
            at = at.step("row", step)
    return len(texts) > 1 and len(set(texts)) == len(texts)


def _is_row(sheet: Sheet, cell: Cell) -> bool:
    """Whether a row holds a number or formula somewhere to the right of a cell."""
    return any(
        isinstance(sheet.content(Cell(column, cell.row)), float | Shape)
        for column in range(cell.column + 1, min(cell.column + _NEARBY, MAX_COLUMN) + 1)
    )


def heading_of(sheet: Sheet, area: Area, *, grows: bool = False) -> str | None:
    """What an area is called by its headings: ``Cheese, kg a guest-night``.

    None where no heading is found; a cell that holds text is called by that text. The whole of
    a list is called by its heading alone, unless it is a part that ``grows``.
    """
    first, last = area.first, area.last
    if area.size == 1:
        content = sheet.content(first)
        if isinstance(content, str):
            return _of_entry(sheet, first) or f"“{content.strip()}”"
        return _joined(heading_left(sheet, first), heading_over(sheet, first))
    if area.height == MAX_ROW:
        return None if area.width > 1 else _top_text(sheet, first)
    if area.width == MAX_COLUMN:
        return None if area.height > 1 else _left_text(sheet, first)
    above, left = heading_above(sheet, first), heading_left(sheet, first)
    if area.width == 1 and above and not grows and _is_whole(sheet, area, "row"):
        return above
    is_line = area.height == 1 and area.width > 2
    if is_line and left and not grows and _is_whole(sheet, area, "column"):
        return left
    if area.width == 1:
        return _joined(above, _from_to(left, heading_left(sheet, last)))
    columns = _from_to(above, heading_above(sheet, last))
    if area.height == 1:
        return _joined(left, columns)
    ends = left, heading_left(sheet, last)
    return _joined(_from_to(*ends) if all(ends) else None, columns)


def column_heading(sheet: Sheet, column: Area) -> str | None:
    """What a column of a table is called: by its first text if numbers follow, or from above."""
    first = sheet.content(column.first)
    second = sheet.content(column.first.step("row", 1)) if column.height > 1 else None
    is_text = isinstance(first, str) and bool(first.strip())
    if is_text and (not isinstance(second, str) or _heads(sheet, column.first)):
        return str(first).strip()
    whole = list_around(sheet, column.first) if is_text else column
    return heading_above(sheet, whole.first)


def _is_whole(sheet: Sheet, area: Area, axis: Axis) -> bool:
    """Whether nothing of a list is left out before an area or behind it."""
    before = area.first
    for _ in range(min(before.on(axis) - 1, _REACH)):
        before = before.step(axis, -1)
        content = sheet.content(before)
        if isinstance(content, str):
            break
        if content is not None:
            return False
    behind = area.last.step(axis, 1)
    content = sheet.content(behind)
    is_end = content is None or isinstance(content, str) is not isinstance(
        sheet.content(area.last), str
    )
    return is_end or (isinstance(content, Shape) and is_total(content, behind))


def list_around(sheet: Sheet, cell: Cell) -> Area:
    """The list down a column in which a cell lies: cells of its sort, without their heading.

    An empty cell is a list of its own.
    """
    column = sheet.columns.get(cell.column)
    extent = column.extent() if column else None
    if not column or not extent or sheet.content(cell) is None:
        return Area.of(cell)
    kinds = column.cells(*extent).kinds
    text = kinds == Kind.TEXT
    is_text = bool(text[cell.row - extent[0]])
    alike = text if is_text else ~text & (kinds != Kind.EMPTY)
    others = np.flatnonzero(~alike) + extent[0]
    behind = int(np.searchsorted(others, cell.row))
    first = int(others[behind - 1]) + 1 if behind else extent[0]
    last = int(others[behind]) - 1 if behind < len(others) else extent[1]
    if is_text and first < cell.row and _heads(sheet, Cell(cell.column, first)):
        first += 1
    return Area(cell.column, first, cell.column, last)


def _heads(sheet: Sheet, cell: Cell) -> bool:
    """Whether a text stands in a row of headings: beside some above numbers, or looking so."""
    if sheet.look(cell).role == "heading":
        return True
    for step in (-1, 1):
        at = cell.step("column", step)
        while at.on_sheet and isinstance(sheet.content(at), str):
            spend(1)
            below = at.step("row", 1)
            if isinstance(sheet.content(below), float | Shape):
                return True
            at = at.step("column", step)
    return False


def _of_entry(sheet: Sheet, cell: Cell) -> str | None:
    """What a text is called that is an entry of a table, by its row and column: ``Ben, Hut``."""
    beside = sheet.content(cell.step("column", -1))
    label, heading = heading_left(sheet, cell), list_heading(sheet, cell)
    if beside is None or label is None or heading is None:
        return None
    return None if _heads(sheet, cell) else f"{label}, {heading}"


def list_heading(sheet: Sheet, cell: Cell) -> str | None:
    """What the list is called in which a cell lies."""
    whole = list_around(sheet, cell)
    if whole.height == 2 and cell == whole.last:
        # One entry below its heading.
        return str(sheet.content(whole.first)).strip()
    is_text = isinstance(sheet.content(cell), str)
    return column_heading(sheet, whole) if is_text else heading_over(sheet, cell)


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
