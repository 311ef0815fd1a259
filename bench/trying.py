"""Try an input with 500,000 dependants, shown, against recalculating them."""

from __future__ import annotations

import itertools

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.checking.trial import tried
from dreieck.core.grid import Cell

ASKED = 2.0
TITLE = "try an input with 500,000 dependants / recalculate them"
ROWS = 500_000


def measure() -> float:
    """How many times longer the trial takes."""
    made = workbook(A=[float(row % 97 + 1) for row in range(ROWS)], G=[2.0])
    fill(made, "B1", f"B1:B{ROWS}", "=ROUND(A1*$G$1,2)")
    calculation = Calculation(made)
    calculation.cells("Loads", 2, 1, ROWS)
    values = itertools.cycle((3.0, 4.0))

    def attempt() -> None:
        trial = tried(calculation, made.sheets[0], Cell.parse("G1"), next(values))
        trial.calculation.cells("Loads", 2, 1, 30)

    return ratio(attempt, lambda: Calculation(made).cells("Loads", 2, 1, ROWS))
