"""A running total over 100,000 rows, against one over 10,000 rows."""

from __future__ import annotations

from bench.sheets import fill, workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.sheet.workbook import Workbook

ASKED = 15.0
TITLE = "running total over 100,000 rows / over 10,000 rows"


def measure() -> float:
    """How many times longer ten times as many rows take."""
    many, few = _running(100_000), _running(10_000)
    return ratio(lambda: _settle(many, 100_000), lambda: _settle(few, 10_000), rounds=3)


def _running(rows: int) -> Workbook:
    made = workbook(B=[float(row % 97) / 10 for row in range(rows)])
    fill(made, "C1", f"C1:C{rows}", "=SUM(B$1:B1)")
    return made


def _settle(made: Workbook, rows: int) -> None:
    Calculation(made).cells("Loads", 3, 1, rows)
