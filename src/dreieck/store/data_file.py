"""A whole data file as one to carry away, and one that was brought."""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from dreieck.store.database import APPLICATION_ID, DAMAGE, Database, StoreError

MAGIC = b"SQLite format 3\0"
"""What such a file begins with."""


def copied(database: Database, to: Path) -> None:
    """Write a copy of a data file, as it is at one moment, to a place where none is.

    Raises StoreError.
    """
    database.check_there()
    try:
        _copied(database, to)
    except sqlite3.Error as error:
        raise StoreError(f"No copy of the data file could be made: {error}.") from error


def _copied(database: Database, to: Path) -> None:
    with closing(sqlite3.connect(database.path)) as source, closing(sqlite3.connect(to)) as target:
        source.backup(target)
        target.execute("PRAGMA journal_mode = DELETE")
        target.execute(f"PRAGMA application_id = {APPLICATION_ID}")


def checked(path: Path) -> None:
    """See that a data file that was brought is one of ours, with tables alone.

    Raises StoreError.
    """
    refusal = StoreError(
        "This is a database, but no data file of Dreieck, or it is damaged; it was left alone."
    )
    try:
        with closing(sqlite3.connect(f"file:{path}?mode=ro", uri=True)) as source:
            source.execute("PRAGMA trusted_schema = OFF")
            mark = source.execute("PRAGMA application_id").fetchone()[0]
            kinds = {row[0] for row in source.execute("SELECT type FROM sqlite_master")}
    except (sqlite3.Error, *DAMAGE):
        raise refusal from None
    if mark != APPLICATION_ID or not kinds <= {"table", "index"}:
        raise refusal
