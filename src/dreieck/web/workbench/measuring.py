"""How wide text is in a cell, so that columns can be fitted and numbers know their room."""

from __future__ import annotations

import math
from collections.abc import Iterable
from itertools import islice

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import PLAIN, Look, shown_text

_DIGIT = 7.9
_NARROW_SIZE, _WIDE_SIZE = 4.2, 11
_PADDING = 18
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
    size = sum(
        _NARROW_SIZE if c in _NARROW else _WIDE_SIZE if c in _WIDE else _DIGIT for c in text
    )
    heavier = 1.15 if look.role in ("title", "heading") else 1
    return math.ceil(size * heavier) + _PADDING


def fitting_width(calculation: Calculation, sheet: Sheet, column: int) -> int | None:
    """The width at which all of a column can be read; None where it holds nothing."""
    used = sheet.used()
    area = used and used.common(Area(column, used.top, column, used.bottom))
    widths = list(_widths(calculation, sheet, area)) if area else []
    return max(widths) if widths else None


def _widths(calculation: Calculation, sheet: Sheet, area: Area) -> Iterable[int]:
    for cell, content in islice(sheet.filled(area), _MAX_FITTED):
        look = look_of(content, sheet.look(cell))
        # A title spans what stands beside it.
        if look.role != "title":
            value = calculation.value(sheet.name, cell)
            text = shown_text(value, look, _ROOM_FOR_ALL, calculation.workbook.locale)
            yield width_of(text, look)
