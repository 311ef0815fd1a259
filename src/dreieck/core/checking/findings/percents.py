"""The rule about a number without its percent sign, in a list of percents."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.editing.entering import entered
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.values import number_text

_AROUND = 4
_MOST = 2_000
_FAR = 5.0
"""As a percent, a number lies within so many times of the others."""
_LARGEST = 100 * _FAR


@sheet_rule("no-percent")
def no_percent(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """A typed number from 1 on, without the percent look that all beside it have."""
    looks = (look for column in sheet.dressed() for _, _, look in sheet.looks_of(column))
    if not any(look.form == "percent" for look in looks):
        return
    for cell, number in _typed(sheet):
        if number <= _LARGEST and any(
            _is_among_percents(sheet, cell, number, axis) for axis in AXES
        ):
            text = f"{number_text(number)}%"
            made = entered(calculation.workbook, cell, text, sheet.look(cell))
            run = Run(cell.column, cell.row, cell.row, made.content, made.look)
            yield Finding(
                "doubt",
                sheet.name,
                (Area.of(cell),),
                f"{cell.text} holds {number_text(number)} among percents: that is"
                f" {number_text(number * 100)} %.",
                "Without its sign a percent counts a hundred times.",
                None,
                (Mend(f"read it as {text}", number_text(number), text,
                      (SetCells(sheet.id, (run,)),)),),
                (f"all numbers beside it are percents, and {text} is of their size",),
                strength=2,
            )  # fmt: skip


def _typed(sheet: Sheet) -> Iterator[tuple[Cell, float]]:
    """The typed numbers from 1 on that are no percents, in columns or rows with percents."""
    left = _MOST
    for number, column in sheet.columns.items():
        extent = column.extent()
        if extent is None:
            continue
        cells = column.cells(*extent)
        sized = (cells.payload >= 1) & (cells.payload <= _LARGEST)
        where = ((cells.kinds == Kind.NUMBER) & sized).nonzero()[0]
        for index in where[:left].tolist():
            cell = Cell(number, extent[0] + index)
            if sheet.look(cell).form == "general":
                yield cell, float(cells.payload[index])
        left -= len(where[:left])


def _is_among_percents(sheet: Sheet, cell: Cell, number: float, axis: Axis) -> bool:
    found: list[float] = []
    for step in (-1, 1):
        at = cell.step(axis, step)
        while at.on_sheet and abs(at.on(axis) - cell.on(axis)) <= _AROUND:
            if sheet.look(at).form != "percent":
                if isinstance(sheet.content(at), float):
                    return False
                break
            content = sheet.content(at)
            if not isinstance(content, float):
                break
            found.append(content)
            at = at.step(axis, step)
    if len(found) < 3 or not all(0 < each <= 1 for each in found):
        return False
    return min(found) / _FAR <= number / 100 <= max(found) * _FAR
