"""Checking a sheet of 300 rows and 30 columns, half of them filled formulas of many kinds."""

from __future__ import annotations

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.checking.findings import check_sheet
from dreieck.core.grid import Area, column_letters
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place

TITLE = "check a sheet of 300 by 30 / its formulas one by one"
ASKED = 3.0
_ROWS = 300
_FORMULAS = (
    "=$B1*{before}1",
    "=SUM($B1:$O1)*2",
    "=IF($C1>50,$D1,$E1)+{before}1",
    '=IFERROR(ROUND({before}1/$D1,2),"")',
    "=SUMIF($A$1:$A${rows},$A1,{before}$1:{before}${rows})",
)


def measure() -> float:
    """How many times longer the check takes."""
    made = sheet(_ROWS)
    known = Calculation(made)
    list(known.columns("Loads", Area(1, 1, 30, _ROWS)))
    formulas = list(made.sheets[0].formulas(Area(1, 1, 30, _ROWS)))

    def one_by_one() -> None:
        for cell, shape in formulas:
            result_at(shape, Place("Loads", cell), known)

    return ratio(lambda: _check(known), one_by_one, rounds=5)


def sheet(rows: int) -> Workbook:
    """A column of texts, fourteen of numbers, fifteen of formulas."""
    columns: dict[str, object] = {"A": [f"Hut {row % 40}" for row in range(rows)]}
    for number in range(2, 16):
        numbers = [float((row * number * 37) % 101 + 1) for row in range(rows)]
        columns[column_letters(number)] = numbers
    made = workbook(**columns)
    for number in range(16, 31):
        letters, before = column_letters(number), column_letters(number - 1)
        formula = _FORMULAS[number % len(_FORMULAS)].format(before=before, rows=rows)
        fill(made, f"{letters}1", f"{letters}1:{letters}{rows}", formula)
    return made


def _check(calculation: Calculation) -> None:
    assert len(list(check_sheet(calculation, calculation.workbook.sheets[0]))) > 10
