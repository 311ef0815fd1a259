"""A running total over 100,000 rows, against one over 10,000 rows."""

from __future__ import annotations

from bench.timing import ratio
from dreieck.core.address import Area, Cell
from dreieck.core.calculate import Calculation
from dreieck.core.fill import plan_fill
from dreieck.core.look import PLAIN
from dreieck.core.sheet import Sheet
from dreieck.core.workbook import Workbook

ASKED = 15.0
TITLE = "running total over 100,000 rows / over 10,000 rows"


def measure() -> float:
    """How many times longer ten times as many rows take."""
    many, few = _running(100_000), _running(10_000)
    return ratio(lambda: _settle(many), lambda: _settle(few), rounds=3)


def _running(rows: int) -> tuple[Workbook, int]:
    workbook = Workbook()
    sheet = Sheet(1, "Season")
    workbook.sheets.append(sheet)
    for row in range(1, rows + 1):
        sheet.put(Cell(2, row), float(row % 97) / 10, PLAIN)
    start = Cell(3, 1)
    sheet.put(start, workbook.read_entry("=SUM(B$1:B1)", start).content, PLAIN)
    plan_fill(workbook, 1, Area.of(start), Area(3, 1, 3, rows)).edit().apply(workbook)
    return workbook, rows


def _settle(made: tuple[Workbook, int]) -> None:
    workbook, rows = made
    for _ in Calculation(workbook).filled_values("Season", Area(3, 1, 3, rows)):
        pass
