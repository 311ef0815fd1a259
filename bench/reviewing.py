"""Reviewing a workbook of 40 sheets with 15 filled columns each, whole and after a change."""

from __future__ import annotations

import statistics
from collections.abc import Iterator

from bench import checking_sheet
from bench.timing import Figure, seconds
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.workbook import Workbook

_SHEETS = 40
_ROWS = 500
_ROUNDS = 5


def figures() -> Iterator[Figure]:
    """Both figures."""
    yield Figure("review a workbook of 300,000 formulas / its calculation", 5.0, _whole)
    yield Figure("review it again after a change / its calculation", 0.1, _changed)


def _whole() -> float:
    made = _workbook()

    def once() -> float:
        known = Calculation(made)
        calculated = seconds(lambda: _calculate(known))
        return seconds(lambda: list(check_workbook(known))) / calculated

    return statistics.median(once() for _ in range(_ROUNDS))


def _changed() -> float:
    made = _workbook()
    known = Calculation(made)
    list(check_workbook(known))

    def once(number: int) -> float:
        sheet = made.sheets[number * 7 % _SHEETS]
        cell = Cell(5, 70 + number)
        edit = SetCells.of(sheet.id, {cell: (float(number), sheet.look(cell))})
        edit.apply(made)
        known.edited([edit])
        _calculate(known)
        reviewed = seconds(lambda: list(check_workbook(known)))
        return reviewed / seconds(lambda: _calculate(Calculation(made)))

    return statistics.median(once(number) for number in range(_ROUNDS))


def _workbook() -> Workbook:
    sheets = [checking_sheet.sheet(_ROWS).sheets[0] for _ in range(_SHEETS)]
    made = Workbook("Figures")
    for number, sheet in enumerate(sheets, 1):
        sheet.id, sheet.name = number, f"Loads {number}"
        made.sheets.append(sheet)
    return made


def _calculate(known: Calculation) -> None:
    for sheet in known.workbook.sheets:
        if used := sheet.used():
            list(known.columns(sheet.name, used))
