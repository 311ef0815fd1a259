"""Open a workbook of 200,000 cells, ready to show, against sqlite3 fetching the same rows."""

from __future__ import annotations

import sqlite3
import tempfile
from pathlib import Path

from bench.timing import ratio
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import PLAIN
from dreieck.store.database import Database
from dreieck.store.library import Library
from dreieck.store.open_workbook import OpenWorkbook

ASKED = 4.0
TITLE = "open a workbook of 200,000 cells, ready to show / fetching its rows"
ROWS = 100_000


def measure() -> float:
    """How many times longer it takes until the first screen's values are there."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "data.db"
        database = Database(path)
        library = Library(database)
        id = library.create("Figures")
        opened = library.open(id)
        sheet = opened.workbook.sheets[0]
        cells = {
            Cell(column, row): (float(row * column), PLAIN)
            for column in (1, 2)
            for row in range(1, ROWS + 1)
        }
        opened.change("entries", [SetCells.of(sheet.id, cells)], opened.revision)

        def open_again() -> None:
            again = OpenWorkbook(database, id)
            for _ in again.calculation.filled_values(sheet.name, Area.parse("A1:F40")):
                pass

        def fetch() -> None:
            plain = sqlite3.connect(path)
            plain.execute("SELECT * FROM run").fetchall()
            plain.close()

        found = ratio(open_again, fetch)
        library.close()
        return found
