"""Where workbooks are kept: one SQLite file, each user action one transaction."""

from dreieck.store.database import Database, StoreError
from dreieck.store.library import Library, Listed, Losses, NewSheet
from dreieck.store.lock import BusyError, all_locked
from dreieck.store.open_workbook import OpenWorkbook, OutOfDate
from dreieck.store.practised import NOBODY, Answered, Practised, Taking

__all__ = [
    "NOBODY",
    "Answered",
    "BusyError",
    "Database",
    "Library",
    "Listed",
    "Losses",
    "NewSheet",
    "OpenWorkbook",
    "OutOfDate",
    "Practised",
    "StoreError",
    "Taking",
    "all_locked",
]
