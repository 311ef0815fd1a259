"""COUNTIF and SUMIF for 1,000 keys over 300,000 rows, against one Counter pass over the list."""

from __future__ import annotations

from collections import Counter

from bench.timing import ratio
from dreieck.core.address import Area, Cell
from dreieck.core.calculate import Calculation
from dreieck.core.fill import plan_fill
from dreieck.core.look import PLAIN
from dreieck.core.sheet import Sheet
from dreieck.core.workbook import Workbook

ASKED = 3.0
TITLE = "COUNTIF and SUMIF, 1,000 keys over 300,000 rows / Counter pass"
ROWS, KEYS = 300_000, 1_000


def measure() -> float:
    """How many times longer the formulas take than one pass over the list."""
    keys = [f"item {row % KEYS}" for row in range(ROWS)]
    workbook = Workbook()
    sheet = Sheet(1, "Loads")
    workbook.sheets.append(sheet)
    for row, key in enumerate(keys, 1):
        sheet.put(Cell(1, row), key, PLAIN)
        sheet.put(Cell(2, row), float(row), PLAIN)
    for row in range(1, KEYS + 1):
        sheet.put(Cell(4, row), f"item {row - 1}", PLAIN)
    for column, formula in (
        (5, f"=COUNTIF($A$1:$A${ROWS},D1)"),
        (6, f"=SUMIF($A$1:$A${ROWS},D1,$B$1:$B${ROWS})"),
    ):
        start = Cell(column, 1)
        sheet.put(start, workbook.read_entry(formula, start).content, PLAIN)
        target = Area(column, 1, column, KEYS)
        plan_fill(workbook, 1, Area.of(start), target).edit().apply(workbook)

    def settled() -> None:
        for _ in Calculation(workbook).filled_values("Loads", Area(5, 1, 6, KEYS)):
            pass

    return ratio(settled, lambda: Counter(keys), rounds=3)
