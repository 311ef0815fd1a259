"""Where workbooks are kept: one SQLite file, each user action one transaction."""

from dreieck.store.accounts import Accounts
from dreieck.store.database import Database, StoreError
from dreieck.store.groups import Group, Groups, Handout, Share
from dreieck.store.library import Library, Listed, Losses, NewSheet
from dreieck.store.lock import BusyError, all_locked
from dreieck.store.open_workbook import OpenWorkbook, OutOfDate
from dreieck.store.own_keys import OwnKeys
from dreieck.store.people import NameTaken, People, Person, name_key
from dreieck.store.practised import Answered, Practised, Taking
from dreieck.store.revisions import Piece
from dreieck.store.sessions import Sessions
from dreieck.store.tables import NOBODY

__all__ = [
    "NOBODY",
    "Accounts",
    "Answered",
    "BusyError",
    "Database",
    "Group",
    "Groups",
    "Handout",
    "Library",
    "Listed",
    "Losses",
    "NameTaken",
    "NewSheet",
    "OpenWorkbook",
    "OutOfDate",
    "OwnKeys",
    "People",
    "Person",
    "Piece",
    "Practised",
    "Sessions",
    "Share",
    "StoreError",
    "Taking",
    "all_locked",
    "name_key",
]
