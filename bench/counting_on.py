"""Count on 100,000 numbers, landed and saved, against inserting as many plain rows."""

from __future__ import annotations

from itertools import count

from bench.kept import kept, plain_rows
from bench.timing import ratio
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN

ASKED = 0.2
TITLE = "count on 100,000 numbers, landed and saved / executemany"
ROWS = 100_000


def measure() -> float:
    """How many times longer the fill takes."""
    with kept() as opened, plain_rows(ROWS) as (insert, _):
        columns = count(1)

        def count_on() -> None:
            column, sheet = next(columns), opened.workbook.sheets[0]
            starts = {Cell(column, 1): (1.0, PLAIN), Cell(column, 2): (3.0, PLAIN)}
            opened.change("entry", [SetCells.of(sheet.id, starts)], opened.revision)
            source, target = Area(column, 1, column, 2), Area(column, 1, column, ROWS)
            fill = plan_fill(opened.workbook, sheet.id, source, target)
            opened.change("fill", [fill.edit()], opened.revision)

        return ratio(count_on, insert)
