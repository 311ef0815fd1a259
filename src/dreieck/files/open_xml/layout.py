"""Sizes of columns and rows (18.3.1.13 and 18.3.1.73), read and written."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from dreieck.core.grid import MAX_COLUMN, MAX_ROW
from dreieck.core.sheet.layout import MAX_SIZE, MIN_SIZE, LineLook, LineLooks, LineRun

_PER_DIGIT = 7
"""So many pixels a digit of the usual letters is wide."""
_PER_POINT = 4 / 3


def columns_of(said: Mapping[str, Mapping[str, Any]]) -> LineLooks:
    """The widths of columns; they are told in digits."""
    runs: list[tuple[int, int, LineLook]] = []
    for each in said.values():
        first, last = int(each["min"]), min(int(each["max"]), MAX_COLUMN)
        size = _size(each.get("width"), _PER_DIGIT)
        hidden = _is_on(each.get("hidden"))
        if first <= last:
            # Who makes all columns as wide means those that are used.
            runs.append((first, last, LineLook(size if last < 16_384 else None, hidden)))
    return _ordered(runs)


def rows_of(said: Mapping[str, Mapping[str, Any]]) -> LineLooks:
    """The heights of rows; they are told in points."""
    runs: list[tuple[int, int, LineLook]] = []
    for number, each in said.items():
        own = _is_on(each.get("customHeight"))
        size = _size(each.get("ht"), _PER_POINT) if own else None
        row = int(number)
        if row <= MAX_ROW:
            runs.append((row, row, LineLook(size, _is_on(each.get("hidden")))))
    return _ordered(runs)


def column_attributes(run: LineRun) -> dict[str, str]:
    """How a run of columns is written."""
    size = {} if run.look.size is None else _width(run.look.size)
    return {"min": str(run.first), "max": str(run.last)} | size | _hidden(run.look)


def row_attributes(look: LineLook) -> dict[str, str]:
    """How a row is written."""
    size = {} if look.size is None else {"ht": repr(look.size * 0.75), "customHeight": "1"}
    return size | _hidden(look)


def _width(size: int) -> dict[str, str]:
    return {"width": f"{size / _PER_DIGIT:.6g}", "customWidth": "1"}


def _hidden(look: LineLook) -> dict[str, str]:
    return {"hidden": "1"} if look.hidden else {}


def _size(text: Any, factor: float) -> int | None:
    if text is None:
        return None
    size = round(float(text) * factor)
    return min(max(size, MIN_SIZE), MAX_SIZE) if size > 0 else None


def _is_on(text: Any) -> bool:
    return str(text).lower() in ("1", "true")


def _ordered(runs: list[tuple[int, int, LineLook]]) -> LineLooks:
    """The runs in order; where they overlap the first one counts."""
    found: list[tuple[int, int, LineLook]] = []
    for first, last, look in sorted(runs, key=lambda run: run[:2]):
        start = max(first, found[-1][1] + 1) if found else first
        if start <= last:
            found.append((start, last, look))
    return LineLooks.of(found)
