"""Writing a sheet as a table of text."""

from __future__ import annotations

import csv
import io
import re
import unicodedata
from collections.abc import Iterator

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Unreadable, typed_text
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error, Value, number_text
from dreieck.core.values.look import Look, shown_text
from dreieck.files.progress import Progress

_BEGINS_FORMULA = "-=+@|%－＝＋＠｜％−"
_UNSEEN = {"Cc", "Cf", "Zs", "Zl", "Zp"}
"""Kinds of characters in front that show nothing, which some programs read over."""
_NUMBER = re.compile(r"-?[\d.,]*\d[\d.,]*(E[-+]?\d+)?%?")
_BAND = 2_048


def guarded(text: str) -> str:
    """Text that no program that opens the table takes for a formula; a number stays one."""
    first = next((each for each in text if unicodedata.category(each) not in _UNSEEN), "")
    is_risky = first and first in _BEGINS_FORMULA and not _NUMBER.fullmatch(text)
    return "'" + text if is_risky else text


def write(
    calculation: Calculation,
    sheet: Sheet,
    progress: Progress,
    separator: str = ",",
    *,
    formulas: bool = False,
    safe: bool = True,
) -> tuple[bytes, int]:
    """A sheet as UTF-8 text: its values, or its formulas where it has some.

    ``safe`` sees that no text is taken for a formula by who opens it; how many were changed for
    that is the second thing that is given.
    """
    stream = io.StringIO(newline="")
    writer = csv.writer(stream, delimiter=separator)
    used = calculation.used(sheet.name)
    changed = 0
    if used:
        area = Area(1, 1, used.right, used.bottom)
        for row in text_rows(calculation, sheet, area, progress, formulas=formulas):
            told = [guarded(text) for text in row] if safe else row
            changed += sum(one is not other for one, other in zip(row, told, strict=True))
            writer.writerow(told)
    return stream.getvalue().encode(), changed


def text_rows(
    calculation: Calculation, sheet: Sheet, area: Area, progress: Progress, *, formulas: bool
) -> Iterator[list[str]]:
    """The rows of an area as texts that say exactly what stands there."""
    for top in range(area.top, area.bottom + 1, _BAND):
        bottom = min(top + _BAND - 1, area.bottom)
        progress.at((top - area.top) / area.height)
        columns = [
            _column(calculation, sheet, Area(column, top, column, bottom), formulas=formulas)
            for column in range(area.left, area.right + 1)
        ]
        for row in zip(*columns, strict=True):
            yield list(row)


def _column(calculation: Calculation, sheet: Sheet, area: Area, *, formulas: bool) -> list[str]:
    if area.left not in sheet.columns and not calculation.fans_in(sheet.name, area):
        return [""] * area.height
    values = calculation.cells(sheet.name, area.left, area.top, area.bottom).values()
    looks = [look for first, last, look in sheet.looks_between(area.left, area.top, area.bottom)
             for _ in range(first, last + 1)]  # fmt: skip
    found = [
        exact_text(value, look_of(sheet.content(Cell(area.left, row)), look))
        if look.form == "general"
        else exact_text(value, look)
        for row, (value, look) in enumerate(zip(values, looks, strict=True), area.top)
    ]
    if formulas:
        for cell, content in sheet.filled(area):
            if isinstance(content, Shape | Unreadable):
                found[cell.row - area.top] = typed_text(content, cell)
    return found


def exact_text(value: Value, look: Look) -> str:
    """A value as text, with all its digits; dates and times as in ISO 8601."""
    match value:
        case None:
            return ""
        case bool():
            return "TRUE" if value else "FALSE"
        case str():
            return value
        case Error():
            return value.code
    if look.form in ("date", "time", "datetime", "duration"):
        return shown_text(value, look)
    return number_text(value)
