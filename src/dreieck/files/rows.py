"""The cells of a sheet row by row, as most files hold them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import EVERYWHERE, Area
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.layout import USUAL
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Value
from dreieck.core.values.look import PLAIN, Look

_BAND = 1_024
_BEYOND = 10_000
"""So many rows below the last cell are told that look otherwise than usual."""


class Held(NamedTuple):
    """A cell of a row: what it holds, how it looks, and what its formula comes to.

    One that a formula elsewhere fills holds nothing, and has a value.
    """

    column: int
    content: Content | None
    look: Look
    value: Value


def last_row(sheet: Sheet) -> int:
    """The last row that a file tells something of."""
    end = sheet.end("row")
    runs = sheet.layout.rows.runs
    return max(end, min(runs[-1].last, end + _BEYOND) if runs else 0)


def rows_of(calculation: Calculation, sheet: Sheet) -> Iterator[tuple[int, list[Held]]]:
    """The rows that hold or show something, in order."""
    fanned = calculation.fans_in(sheet.name, EVERYWHERE)
    filled = {number for area in fanned for number in range(area.left, area.right + 1)}
    numbers = sorted({*sheet.columns, *sheet.dressed(), *filled})
    looks = sheet.layout.rows
    end = max(last_row(sheet), *(area.bottom for area in fanned), 0)
    for top in range(1, end + 1, _BAND):
        bottom = min(top + _BAND - 1, end)
        rows: list[list[Held]] = [[] for _ in range(top, bottom + 1)]
        for column in numbers:
            values: list[Value] | None = None
            for run in sheet.runs(Area(column, top, column, bottom)):
                is_filled = run.content is None and column in filled
                if run.content is None and run.look == PLAIN and not is_filled:
                    continue
                if values is None and (is_filled or isinstance(run.content, Shape)):
                    values = calculation.cells(sheet.name, column, top, bottom).values()
                for row in range(run.top, run.bottom + 1):
                    worked_out = values and (is_filled or isinstance(run.content, Shape))
                    value = values[row - top] if values and worked_out else None
                    if is_filled and value is None and run.look == PLAIN:
                        continue
                    rows[row - top].append(Held(column, run.content, run.look, value))
        for number, cells in enumerate(rows, top):
            if cells or looks.at(number) != USUAL:
                yield number, cells
