"""A workbook that is kept in a data file, and what plain rows cost there."""

from __future__ import annotations

import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.store.database import Database
from dreieck.store.library import Library
from dreieck.store.open_workbook import OpenWorkbook


@contextmanager
def kept() -> Iterator[OpenWorkbook]:
    """A new workbook in a data file of its own."""
    with tempfile.TemporaryDirectory() as folder:
        library = Library(Database(Path(folder) / "data.db"))
        yield library.open(library.create("Figures"))
        library.close()


def land(opened: OpenWorkbook, column: int, formula: str, rows: int) -> None:
    """Fill a formula down a column of the first sheet, as one change."""
    sheet, start = opened.workbook.sheets[0], Cell(column, 1)
    content = opened.workbook.read_entry(formula, start).content
    target = Area(column, 1, column, rows)
    fill = plan_fill(opened.workbook, sheet.id, Area.of(start), target, {start: content})
    opened.change("fill", [fill.edit()], opened.revision)


@contextmanager
def plain_rows(count: int) -> Iterator[tuple[Callable[[], object], Callable[[], object]]]:
    """What inserts so many plain rows of numbers into a table, and what fetches those there."""
    with tempfile.TemporaryDirectory() as folder:
        plain = sqlite3.connect(Path(folder) / "plain.db")
        plain.execute("PRAGMA journal_mode=WAL")
        plain.execute("CREATE TABLE cell (column INT, row INT, number REAL)")

        def insert() -> None:
            with plain:
                plain.execute("DELETE FROM cell")
                rows = [(1, row, float(row)) for row in range(count)]
                plain.executemany("INSERT INTO cell VALUES (?, ?, ?)", rows)

        def fetch() -> object:
            return plain.execute("SELECT * FROM cell").fetchall()

        insert()
        yield insert, fetch
        plain.close()
