"""COUNTIF and SUMIF for 1,000 keys over 300,000 rows, against one Counter pass over the list."""

from __future__ import annotations

from collections import Counter

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.grid import Area

ASKED = 3.0
TITLE = "COUNTIF and SUMIF, 1,000 keys over 300,000 rows / Counter pass"
ROWS, KEYS = 300_000, 1_000


def measure() -> float:
    """How many times longer the formulas take than one pass over the list."""
    keys = [f"item {row % KEYS}" for row in range(ROWS)]
    made = workbook(A=keys, B=[float(row) for row in range(ROWS)], D=keys[:KEYS])
    fill(made, "E1", f"E1:E{KEYS}", f"=COUNTIF($A$1:$A${ROWS},D1)")
    fill(made, "F1", f"F1:F{KEYS}", f"=SUMIF($A$1:$A${ROWS},D1,$B$1:$B${ROWS})")

    def settled() -> None:
        for _ in Calculation(made).filled_values("Loads", Area(5, 1, 6, KEYS)):
            pass

    return ratio(settled, lambda: Counter(keys), rounds=5)
