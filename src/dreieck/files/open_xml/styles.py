"""Looks and the styles of a workbook part (18.8), read and written."""

from __future__ import annotations

import colorsys
import re
from typing import Any

from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Alignment, Border, Color, Font, NamedStyle, PatternFill, Side
from openpyxl.styles.colors import COLOR_INDEX
from openpyxl.styles.numbers import BUILTIN_FORMATS, BUILTIN_FORMATS_MAX_SIZE
from openpyxl.workbook import Workbook

from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import Across, Edges, Line, Upright
from dreieck.files.appearance import (
    FONT,
    USUAL_POINTS,
    Appearance,
    appearance_of,
    look_from,
    told_name,
)

_ACROSS: dict[str, Across] = {
    "left": "left", "center": "middle", "right": "right", "centerContinuous": "spanning",
    "distributed": "middle", "justify": "left",
}  # fmt: skip
_UPRIGHT: dict[str, Upright] = {"top": "top", "bottom": "bottom"}
_LINES: dict[str, Line] = {"medium": "thick", "thick": "thick", "double": "double"}
_THEME = ("lt1", "dk1", "lt2", "dk2", *(f"accent{number}" for number in range(1, 7)))
_SCHEME = re.compile(
    rb"<a:(dk1|lt1|dk2|lt2|accent[1-6])>\s*"
    rb"<a:(?:srgbClr val|sysClr[^>]*lastClr)=\"([0-9A-Fa-f]{6})\""
)


class Looks:
    """The looks of the cell formats of a file, by their number."""

    def __init__(self, book: Workbook) -> None:
        self._book = book
        self._theme = {
            name.decode(): colour.decode().lower()
            for name, colour in _SCHEME.findall(book.loaded_theme or b"")
        }
        fonts = book._fonts
        self._usual = float((fonts[0].sz if len(fonts) else 0) or USUAL_POINTS)
        self._known: dict[int, tuple[Look, bool]] = {}

    def at(self, number: int) -> tuple[Look, bool]:
        """The look of a cell format, and whether text is quoted in it."""
        known = self._known.get(number)
        if known is None:
            known = self._known[number] = self._look(number)
        return known

    def _look(self, number: int) -> tuple[Look, bool]:
        book: Any = self._book
        if number >= len(book._cell_styles):
            return PLAIN, False
        style = book._cell_styles[number]
        font, fill = book._fonts[style.fontId], book._fills[style.fillId]
        border, alignment = book._borders[style.borderId], book._alignments[style.alignmentId]
        names = book._named_styles
        name = names[style.xfId].name if style.xfId < len(names) else ""
        sides = (border.left, border.top, border.right, border.bottom)
        seen = Appearance(
            code=self._code(style.numFmtId),
            quoted=bool(style.quotePrefix),
            bold=bool(font.b),
            italic=bool(font.i),
            points=float(font.sz or self._usual),
            ink=self.colour(font.color),
            ground=self.ground(fill),
            across=_ACROSS.get(alignment.horizontal or "", "usual"),
            upright=_UPRIGHT.get(alignment.vertical or "", "middle"),
            wrap=bool(alignment.wrap_text),
            edges=Edges(*(_line(each) for each in sides)),
        )
        return look_from(seen, name or "", self._usual), seen.quoted

    def _code(self, number: int) -> str:
        formats: Any = self._book._number_formats
        if number < BUILTIN_FORMATS_MAX_SIZE:
            return str(BUILTIN_FORMATS.get(number, "General"))
        index = number - BUILTIN_FORMATS_MAX_SIZE
        return str(formats[index]) if index < len(formats) else "General"

    def ground(self, fill: Any) -> str | None:
        """The colour behind text."""
        if getattr(fill, "fill_type", None) in (None, "none"):
            return None
        return self.colour(fill.fgColor) or self.colour(fill.bgColor)

    def colour(self, colour: Color | None) -> str | None:
        """A colour as six hexadecimal digits, None for the usual one."""
        if colour is None or colour.type == "auto":
            return None
        found: str | None = None
        if colour.type == "rgb":
            found = str(colour.rgb)[-6:].lower()
        elif colour.type == "indexed" and colour.indexed < len(COLOR_INDEX):
            found = COLOR_INDEX[colour.indexed][-6:].lower()
        elif colour.type == "theme" and colour.theme < len(_THEME):
            found = self._theme.get(_THEME[colour.theme])
        if found is None or not re.fullmatch("[0-9a-f]{6}", found):
            return None
        return _tinted(found, float(colour.tint or 0))


def _line(side: Any) -> Line:
    style = getattr(side, "style", None)
    return _LINES.get(style, "thin") if style else "none"


def _tinted(colour: str, tint: float) -> str:
    """A colour made lighter or darker (18.8.19)."""
    if not tint:
        return colour
    red, green, blue = (int(colour[at : at + 2], 16) / 255 for at in (0, 2, 4))
    hue, light, strength = colorsys.rgb_to_hls(red, green, blue)
    light = light * (1 + tint) if tint < 0 else light * (1 - tint) + tint
    parts = colorsys.hls_to_rgb(hue, min(max(light, 0), 1), strength)
    return "".join(f"{round(part * 255):02x}" for part in parts)


class Styles:
    """The cell formats of a workbook that is written."""

    def __init__(self, book: Workbook) -> None:
        self._book = book
        self._numbers: dict[tuple[Look, bool | None], int] = {(PLAIN, None): 0}
        self._named: set[str] = set()

    def number(self, look: Look, *, quoted: bool | None = None) -> int:
        """The number of the cell format of a look; ``quoted`` as in ``appearance_of``."""
        known = self._numbers.get((look, quoted))
        if known is None:
            known = self._numbers[look, quoted] = self._made(look, quoted=quoted)
        return known

    def _made(self, look: Look, *, quoted: bool | None) -> int:
        seen = appearance_of(look, quoted=quoted)
        dressed = {
            "font": Font(
                name=FONT, size=seen.points, bold=seen.bold, italic=seen.italic, color=seen.ink
            ),
            "fill": PatternFill("solid", fgColor=seen.ground) if seen.ground else PatternFill(),
            "border": _border(seen.edges),
            "alignment": Alignment(
                horizontal=_named(_ACROSS, seen.across),
                vertical=_named(_UPRIGHT, seen.upright),
                wrap_text=seen.wrap or None,
            ),
        }
        cell: Any = WriteOnlyCell(self._book.worksheets[0])
        name = told_name(look, seen)
        if name:
            if name not in self._named:
                self._named.add(name)
                self._book.add_named_style(NamedStyle(name=name, **dressed))
            cell.style = name
        for what, value in dressed.items():
            setattr(cell, what, value)
        cell.number_format = seen.code
        cell.quotePrefix = seen.quoted
        return int(cell.style_id)


def _border(edges: Edges) -> Border:
    left, right = _side(edges.left), _side(edges.right)
    return Border(left=left, right=right, top=_side(edges.top), bottom=_side(edges.bottom))


def _side(line: Line) -> Side:
    return Side({"none": None, "thick": "medium"}.get(line, line))


def _named(known: dict[str, Any], value: str) -> str | None:
    return next((name for name, each in known.items() if each == value), None)
