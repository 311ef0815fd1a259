"""10,000 runs over 10,000 formulas that all depend on the input, against the array expression."""

from __future__ import annotations

import numpy as np

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.checking.sweeps.asked import asked
from dreieck.core.checking.sweeps.running import run
from dreieck.core.formula import Shape
from dreieck.core.sheet.stated import STANDS

ASKED = 3.0
TITLE = "10,000 runs over 10,000 formulas / the array expression 10,000 times"
ROWS = 10_000
RUNS = 10_000


def measure() -> float:
    """How many times longer the sweep takes."""
    numbers = [float(row % 97 + 1) for row in range(ROWS)]
    made = workbook(A=numbers, G=[2.0])
    fill(made, "B1", f"B1:B{ROWS}", "=A1*$G$1+2")
    fill(made, "C1", "C1:C1", f"=SUM(B1:B{ROWS})")
    calculation = Calculation(made)
    text = f"=SWEEP(OVER(Loads!G1,0,{RUNS - 1},1),Loads!C1)"
    wanted = asked(calculation, Shape.parse(text, STANDS))
    column = np.array(numbers)

    def plainly() -> None:
        for value in range(RUNS):
            (column * float(value) + 2).sum()

    return ratio(lambda: run(calculation, wanted), plainly, rounds=3)
