"""Peak memory of 1,000,000 numbers and 1,000,000 filled formulas, against two float64 arrays."""

from __future__ import annotations

import tracemalloc

import numpy as np

from bench.sheets import fill, workbook
from dreieck.core.calculate import Calculation

ASKED = 6.0
TITLE = "peak memory, 1,000,000 numbers and as many formulas / two arrays"
ROWS = 1_000_000


def measure() -> float:
    """How many times as many bytes are in use at most."""
    numbers = np.arange(ROWS, dtype=np.float64)
    tracemalloc.start()
    made = workbook(A=numbers)
    fill(made, "B1", f"B1:B{ROWS}", "=A1*2+1")
    Calculation(made).cells("Loads", 2, 1, ROWS)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    return peak / (2 * numbers.nbytes)
