"""Change one cell with 1,000,000 dependants, against the NumPy expression on ready arrays."""

from __future__ import annotations

import itertools

import numpy as np

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN

ASKED = 5.0
TITLE = "change G1 with 1,000,000 dependants =A1*B1*$G$1 / NumPy expression"
ROWS = 1_000_000


def measure() -> float:
    """How many times longer the change takes until all dependants are worked out."""
    change, one, two = prepared()
    return ratio(change, lambda: one * two * 1.5, rounds=9)


def prepared() -> tuple[object, np.ndarray, np.ndarray]:  # type: ignore[type-arg]
    """The change, and the arrays that it reads."""
    one, two = np.arange(ROWS, dtype=np.float64), np.arange(ROWS, dtype=np.float64) % 97
    made = workbook(A=one, B=two, G=[2.0])
    fill(made, "C1", f"C1:C{ROWS}", "=A1*B1*$G$1")
    calculation = Calculation(made)
    calculation.cells("Loads", 3, 1, ROWS)
    factors = itertools.cycle((1.5, 2.5))
    place = Cell.parse("G1")

    def change() -> None:
        edit = SetCells.of(made.sheets[0].id, {place: (next(factors), PLAIN)})
        edit.apply(made)
        calculation.edited([edit])
        calculation.cells("Loads", 3, 1, ROWS)

    return change, one, two
