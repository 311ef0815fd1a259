"""A chain of 100,000 cells, each reading the one above, against a plain Python loop."""

from __future__ import annotations

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation

ASKED = 3.0
TITLE = "chain =A1*1.01+$B$1 of 100,000 cells / Python loop"
ROWS = 100_000


def measure() -> float:
    """How many times longer the chain takes."""
    made = workbook(A=[1.0], B=[-0.005])
    fill(made, "A2", f"A2:A{ROWS}", "=A1*1.01+$B$1")

    def loop() -> list[float]:
        found = [1.0]
        for _ in range(ROWS - 1):
            found.append(found[-1] * 1.01 + -0.005)
        return found

    def settle() -> None:
        Calculation(made).cells("Loads", 1, 1, ROWS)

    return ratio(settle, loop)
