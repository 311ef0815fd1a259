"""Plan and land a fill of 100,000 cells, saved, against inserting as many plain rows."""

from __future__ import annotations

from itertools import count

from bench.kept import kept, land, plain_rows
from bench.timing import ratio
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN

ASKED = 3.0
TITLE = "plan, land and save a fill of 100,000 / executemany of 100,000 rows"
ROWS = 100_000


def measure() -> float:
    """How many times longer the fill takes."""
    with kept() as opened, plain_rows(ROWS) as (insert, _):
        numbers = {Cell(1, row): (float(row), PLAIN) for row in range(1, ROWS + 1)}
        edit = SetCells.of(opened.workbook.sheets[0].id, numbers)
        opened.change("entry", [edit], opened.revision)
        columns = count(3)
        return ratio(lambda: land(opened, next(columns), "=$A1*2", ROWS), insert)
