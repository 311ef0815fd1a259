"""Checking many blocks: 8,000 formulas that alternate, against 4,000."""

from __future__ import annotations

from bench.sheets import workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_sheet
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.values.look import PLAIN

TITLE = "check 8,000 alternating formulas / 4,000"
ASKED = 2.5


def measure() -> float:
    """How many times longer the larger sheet takes."""
    large, small = _alternating(8_000), _alternating(4_000)
    return ratio(lambda: _check(large), lambda: _check(small), rounds=3)


def _alternating(rows: int) -> Calculation:
    """Formulas below each other, none like the one above it, worked out."""
    made = workbook(A=[float(row % 97) for row in range(rows)])
    shapes = [Shape.parse("=A1*2", Cell(2, 1)), Shape.parse("=A1+3", Cell(2, 1))]
    for row in range(1, rows + 1):
        made.sheets[0].put(Cell(2, row), shapes[row % 2], PLAIN)
    calculation = Calculation(made)
    calculation.cells("Loads", 2, 1, rows)
    return calculation


def _check(calculation: Calculation) -> None:
    assert len(list(check_sheet(calculation, calculation.workbook.sheets[0]))) > 1
