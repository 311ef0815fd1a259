"""Open a workbook of 200,000 cells, ready to show, against sqlite3 fetching as many rows."""

from __future__ import annotations

from bench.kept import kept, plain_rows
from bench.timing import ratio
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN
from dreieck.store.open_workbook import OpenWorkbook

ASKED = 4.0
TITLE = "open a workbook of 200,000 cells, ready to show / fetching 200,000 rows"
ROWS = 100_000


def measure() -> float:
    """How many times longer it takes until the first screen's values are there."""
    with kept() as opened, plain_rows(2 * ROWS) as (_, fetch):
        sheet = opened.workbook.sheets[0]
        cells = {
            Cell(column, row): (float(row * column), PLAIN)
            for column in (1, 2)
            for row in range(1, ROWS + 1)
        }
        opened.change("entries", [SetCells.of(sheet.id, cells)], opened.revision)

        def open_again() -> None:
            again = OpenWorkbook(opened._database, opened.id)
            for _ in again.calculation.filled_values(sheet.name, Area.parse("A1:F40")):
                pass

        return ratio(open_again, fetch)
