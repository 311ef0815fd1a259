"""The same change, against a plain Python loop over a dictionary of cells."""

from __future__ import annotations

from bench.changing import ROWS, prepared
from bench.timing import ratio

ASKED = 1 / 30
TITLE = "the same / a Python loop over a dictionary of cells"


def measure() -> float:
    """How much of the loop's time the change takes."""
    change, one, two = prepared()
    cells = {("A", row): value for row, value in enumerate(one.tolist(), 1)}
    cells |= {("B", row): value for row, value in enumerate(two.tolist(), 1)}
    cells["G", 1] = 1.5

    def loop() -> None:
        for row in range(1, ROWS + 1):
            cells["C", row] = cells["A", row] * cells["B", row] * cells["G", 1]

    return ratio(change, loop, rounds=3)
