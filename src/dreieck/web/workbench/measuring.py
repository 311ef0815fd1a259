"""How large text is in a cell, so that lines can be fitted and numbers know their room."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import islice

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import PLAIN, Look, shown_text
from dreieck.core.values.style import Size
from dreieck.web.workbench.window import USUAL_SIZES

_DIGIT = 7.9
_NARROW_SIZE, _WIDE_SIZE = 4.2, 11
_PADDING = 18
_SIZES: dict[Size, int] = {"small": 11, "usual": 13, "large": 16, "huge": 20}
"""How large letters are, in pixels."""
_LEADING, _MARGIN = 1.25, 8
_NARROW = "iljtf.,:;'|!()[]I \u2019"
_WIDE = "mwMWQO@%ODGN"
_MAX_FITTED = 5_000
"""To so many cells of a column its width is fitted."""
_ROOM_FOR_ALL = 400


def room_in(width: int) -> int:
    """How many digits have room in a cell of so many pixels."""
    return int((width - _PADDING) / _DIGIT)


def fits(text: str, width: int) -> bool:
    """Whether a number has room in a cell of so many pixels."""
    return width_of(text, PLAIN) <= width


def width_of(text: str, look: Look) -> int:
    """How many pixels a text needs in a cell."""
    return math.ceil(_length(text, look)) + _PADDING


def _length(text: str, look: Look) -> float:
    size = sum(
        _NARROW_SIZE if c in _NARROW else _WIDE_SIZE if c in _WIDE else _DIGIT for c in text
    )
    is_heavy = look.role in ("title", "heading", "result") or look.style.bold
    return size * _SIZES[look.style.size] / _SIZES["usual"] * (1.15 if is_heavy else 1)


def lines_of(text: str, look: Look, width: int) -> int:
    """Into how many lines a text is broken in a cell of so many pixels, between its words."""
    return sum(_broken(line, look, width) for line in text.split("\n"))


def _broken(text: str, look: Look, width: int) -> int:
    room, lines, used = width - _PADDING, 1, 0.0
    for word in text.split():
        size = _length(word, look)
        if used and used + _NARROW_SIZE + size > room:
            lines, used = lines + 1, 0.0
        # A word that is too long is broken itself.
        more = int(size // max(room, 1))
        lines, used = lines + more, used + (_NARROW_SIZE if used else 0) + size - more * room
    return lines


def fitting_height(calculation: Calculation, sheet: Sheet, row: int) -> int | None:
    """The height at which all of a row can be read; None where the usual one does."""
    used = sheet.used()
    area = used and used.common(Area(used.left, row, used.right, row))
    heights = [
        _height(calculation, sheet, cell, content)
        for cell, content in islice(sheet.filled(area), _MAX_FITTED)
    ] if area else []  # fmt: skip
    height = max(heights, default=0)
    return height if height > USUAL_SIZES["row"] else None


def _height(calculation: Calculation, sheet: Sheet, cell: Cell, content: Content) -> int:
    look = look_of(content, sheet.look(cell))
    lines = 1
    if look.style.wrap or look.role == "heading":
        value = calculation.value(sheet.name, cell)
        text = shown_text(value, look, _ROOM_FOR_ALL, calculation.workbook.locale)
        width = sheet.layout.columns.at(cell.column).size or USUAL_SIZES["column"]
        lines = lines_of(text, look, width)
    return math.ceil(lines * _SIZES[look.style.size] * _LEADING) + _MARGIN


def fitting_width(calculation: Calculation, sheet: Sheet, column: int) -> int | None:
    """The width at which all of a column can be read; None where it holds nothing."""
    used = calculation.used(sheet.name)
    area = used and used.common(Area(column, used.top, column, used.bottom))
    widths = list(_widths(calculation, sheet, area)) if area else []
    return max(widths) if widths else None


def _widths(calculation: Calculation, sheet: Sheet, area: Area) -> Iterable[int]:
    for cell, value in islice(calculation.filled_values(sheet.name, area), _MAX_FITTED):
        look = look_of(sheet.content(cell), sheet.look(cell))
        # A title spans what stands beside it.
        if look.role != "title":
            text = shown_text(value, look, _ROOM_FOR_ALL, calculation.workbook.locale)
            yield width_of(text, look)
