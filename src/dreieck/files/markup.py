"""Sheets as tables of HTML and of Markdown, to be read, not to be opened again."""

from __future__ import annotations

from collections.abc import Callable
from html import escape

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Unreadable, typed_text
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import shown_text
from dreieck.files.arrived import Leavings
from dreieck.files.exceptions import FileRefused
from dreieck.files.format import Format, Wish, Write
from dreieck.files.progress import Progress

MAX_CELLS = 200_000
"""How many cells such a table can have."""
_HEADING = ("heading", "title")


def as_html(
    calculation: Calculation, sheets: list[Sheet], progress: Progress, *, formulas: bool = False
) -> bytes:
    """A page with a table for each sheet."""
    name = escape(calculation.workbook.name or "Workbook")
    parts = [
        "<!doctype html>",
        f'<html lang="en"><head><meta charset="utf-8"><title>{name}</title>',
        "<style>body{font-family:sans-serif}table{border-collapse:collapse;margin-bottom:2em}"
        "td,th{border:1px solid #ccc;padding:.2em .5em;text-align:left}"
        ".number{text-align:right}</style></head><body>",
        f"<h1>{name}</h1>",
    ]
    for number, sheet in enumerate(sheets):
        progress.at(number / len(sheets))
        parts.append(f"<h2>{escape(sheet.name)}</h2>\n<table>")
        area = _area(calculation, sheet)
        for row in area.lines("row") if area else ():
            cells = "".join(
                _cell(calculation, sheet, cell, formulas=formulas) for cell in row.cells()
            )
            parts.append(f"<tr>{cells}</tr>")
        parts.append("</table>")
    return "\n".join([*parts, "</body></html>", ""]).encode()


def as_markdown(
    calculation: Calculation, sheets: list[Sheet], progress: Progress, *, formulas: bool = False
) -> bytes:
    """A table for each sheet; the first row stands as its head, as the notation wants it."""
    parts: list[str] = []
    for number, sheet in enumerate(sheets):
        progress.at(number / len(sheets))
        parts.append(f"## {_plain(sheet.name)}\n")
        area = _area(calculation, sheet)
        for index, row in enumerate(area.lines("row") if area else ()):
            cells = [_text(calculation, sheet, cell, formulas=formulas) for cell in row.cells()]
            parts.append("| " + " | ".join(_plain(text) for text in cells) + " |")
            if index == 0 and area:
                parts.append("|" + " --- |" * area.width)
        parts.append("")
    return "\n".join(parts).encode()


def _area(calculation: Calculation, sheet: Sheet) -> Area | None:
    used = calculation.used(sheet.name)
    if used is None:
        return None
    area = Area(1, 1, used.right, used.bottom)
    if area.size > MAX_CELLS:
        raise FileRefused(
            f"The sheet {sheet.name} reaches to {used.last.text}: a table to be read can have"
            f" {MAX_CELLS:,} cells. CSV can have more."
        )
    return area


def _cell(calculation: Calculation, sheet: Sheet, cell: Cell, *, formulas: bool) -> str:
    value = calculation.value(sheet.name, cell)
    tag = "th" if sheet.look(cell).role in _HEADING else "td"
    is_number = isinstance(value, float) and not formulas
    kind = ' class="number"' if is_number else ""
    text = escape(_text(calculation, sheet, cell, formulas=formulas)).replace("\n", "<br>")
    return f"<{tag}{kind}>{text}</{tag}>"


def _text(calculation: Calculation, sheet: Sheet, cell: Cell, *, formulas: bool) -> str:
    content = sheet.content(cell)
    if formulas and isinstance(content, Shape | Unreadable):
        return typed_text(content, cell)
    look = look_of(content, sheet.look(cell))
    return shown_text(
        calculation.value(sheet.name, cell), look, locale=calculation.workbook.locale
    )


def _plain(text: str) -> str:
    """Text in which nothing counts as notation."""
    for sign in "\\|`*_<[]":
        text = text.replace(sign, "\\" + sign)
    return " ".join(text.split())


def _writing(make: Callable[..., bytes]) -> Write:
    def write(calculation: Calculation, progress: Progress, _: Leavings, wish: Wish) -> bytes:
        sheets = [wish.sheet] if wish.sheet else calculation.workbook.sheets
        return make(calculation, sheets, progress, formulas=wish.formulas)

    return write


FORMATS = (
    Format("html", "HTML table", (".html", ".htm"), "text/html", place=6, write=_writing(as_html)),
    Format(
        "md", "Markdown table", (".md",), "text/markdown", place=7, write=_writing(as_markdown)
    ),
)
