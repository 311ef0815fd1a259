"""Plan and land a fill of 100,000 cells, saved, against inserting as many plain rows."""

from __future__ import annotations

import sqlite3
import tempfile
from itertools import count
from pathlib import Path

from bench.timing import ratio
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN
from dreieck.store.database import Database
from dreieck.store.library import Library

ASKED = 3.0
TITLE = "plan, land and save a fill of 100,000 / executemany of 100,000 rows"
ROWS = 100_000


def measure() -> float:
    """How many times longer the fill takes."""
    with tempfile.TemporaryDirectory() as folder:
        library = Library(Database(Path(folder) / "data.db"))
        opened = library.open(library.create("Figures"))
        sheet = opened.workbook.sheets[0]
        numbers = {Cell(1, row): (float(row), PLAIN) for row in range(1, ROWS + 1)}
        opened.change("entry", [SetCells.of(sheet.id, numbers)], opened.revision)
        columns = count(3)
        plain = sqlite3.connect(Path(folder) / "plain.db")
        plain.execute("PRAGMA journal_mode=WAL")
        plain.execute("CREATE TABLE cell (column INT, row INT, number REAL)")

        def land() -> None:
            start = Cell(next(columns), 1)
            content = opened.workbook.read_entry("=$A1*2", start).content
            target = Area(start.column, 1, start.column, ROWS)
            fill = plan_fill(opened.workbook, sheet.id, Area.of(start), target, {start: content})
            opened.change("fill", [fill.edit()], opened.revision)

        def insert() -> None:
            rows = [(1, row, float(row)) for row in range(ROWS)]
            with plain:
                plain.executemany("INSERT INTO cell VALUES (?, ?, ?)", rows)

        found = ratio(land, insert)
        library.close()
        return found
