"""The data file: opened safely, brought to the present schema, locked to one server."""

from __future__ import annotations

import fcntl
import logging
import os
import sqlite3
import stat
from collections.abc import Iterator
from contextlib import contextmanager
from functools import cache
from pathlib import Path
from threading import Lock
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from sqlalchemy import Engine, create_engine, event, text
from sqlalchemy.exc import DatabaseError
from sqlmodel import Session

log = logging.getLogger("dreieck")

APPLICATION_ID = 0x44524549
"""Marks an SQLite file as ours ("DREI" in its header)."""

DAMAGE = (DatabaseError, CommandError, UnicodeDecodeError)
"""What reading a damaged file raises: its own texts may be no text any more."""
_PATIENCE = 2.0
"""So many seconds a write waits for another program that holds the file."""
_OWN_FILE, _OWN_FOLDER = 0o600, 0o700
_OTHERS = stat.S_IRWXG | stat.S_IRWXO
_MIGRATIONS = Path(__file__).parent / "migrations"


class StoreError(Exception):
    """The data file cannot be used; the text says why and what would do."""


class Database:
    """An open data file."""

    def __init__(self, path: Path) -> None:
        """Open or make the file at ``path``. Raises StoreError."""
        # Another way to the same file must lead to the same lock.
        path = path.resolve()
        self.path = path
        self._turns = Lock()
        _check_usable(path)
        _keep_private(path)
        self._lock = _locked(path)
        self.engine = _engine(path)
        try:
            _check_ours(self.engine, path)
            _migrate(self.engine, path)
            self._file = _identity(path)
        except DAMAGE as error:
            self.close()
            raise StoreError(damaged(path, error)) from error
        except StoreError:
            self.close()
            raise

    def session(self) -> Session:
        """A new session; what it changes is one transaction."""
        return Session(self.engine)

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """A session for a short change: those who write wait for each other in turn.

        SQLite has one writer at a time; it lets the others ask again and again, and sleep between.
        """
        with self._turns, self.session() as session:
            yield session

    def check_there(self) -> None:
        """See that the file is still the one that was opened. Raises StoreError."""
        try:
            there = _identity(self.path) == self._file
        except OSError:
            there = False
        if not there:
            raise StoreError(
                f"The data file {self.path.name} was deleted or replaced while Dreieck is running,"
                " so no change can be kept. Put it back, or start Dreieck again."
            )

    def close(self) -> None:
        """Close the file and let other servers have it."""
        self.engine.dispose()
        self._lock.close()


def reason(error: DatabaseError) -> str:
    """Why the data file did not take or tell something."""
    said = str(error.orig)
    if "locked" in said:
        return "another program holds the data file just now"
    return "the disk is full" if "full" in said else said


def damaged(path: Path, error: Exception) -> str:
    """What to say of a file that cannot be read as it should."""
    return (
        f"{path} cannot be used: {getattr(error, 'orig', error)}. If it is damaged, put a copy of"
        " it back, or choose another file with --data."
    )


def _identity(path: Path) -> tuple[int, int]:
    found = path.stat()
    return found.st_dev, found.st_ino


def _keep_private(path: Path) -> None:
    """See that nobody else on this machine can read a data file and what stands beside it.

    SQLite gives the files that it puts beside it the same mode.
    """
    folder = path.parent
    beside = [path.with_name(path.name + end) for end in ("-wal", "-shm", ".lock")]
    try:
        os.close(os.open(path, os.O_CREAT | os.O_RDWR, _OWN_FILE))
        is_ours = all(each.name.startswith(path.name) for each in folder.iterdir())
        for each in (path, *beside, *([folder] if is_ours else ())):
            if each.exists() and (mode := stat.S_IMODE(each.stat().st_mode)) & _OTHERS:
                each.chmod(mode & ~_OTHERS)
                log.warning("%s could be read by others on this machine; it cannot now.", each)
        if not is_ours and folder.stat().st_mode & _OTHERS:
            log.warning("Others on this machine can look into %s, where the data file is.", folder)
    except OSError as error:
        raise StoreError(
            f"{path} cannot be kept from others on this machine: {error.strerror}."
            " Choose another place with --data."
        ) from error


def _check_usable(path: Path) -> None:
    try:
        path.parent.mkdir(mode=_OWN_FOLDER, parents=True, exist_ok=True)
        if not path.exists():
            return
        if not path.is_file():
            raise StoreError(f"{path} is not a file. Give the path of a data file with --data.")
        if not path.stat().st_mode & 0o222:
            raise StoreError(
                f"{path} is read-only, so no change could be kept."
                " Make it writable, or choose another file with --data."
            )
        with path.open("r+b") as file:
            head = file.read(16)
    except OSError as error:
        raise StoreError(
            f"{path} cannot be opened for writing: {error.strerror}."
            " Choose another file with --data."
        ) from error
    if head and head != b"SQLite format 3\0":
        raise StoreError(
            f"{path} is not a Dreieck data file; it was left as it is."
            " Choose another file with --data."
        )


def _locked(path: Path) -> Any:
    try:
        at = os.open(path.with_name(path.name + ".lock"), os.O_CREAT | os.O_WRONLY, _OWN_FILE)
        lock = os.fdopen(at, "w")
    except OSError as error:
        raise StoreError(
            f"The folder of {path} cannot be written to: {error.strerror}."
            " Choose another place with --data."
        ) from error
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        lock.close()
        raise StoreError(
            f"{path} is in use by another Dreieck. Stop that one, or choose another"
            " file with --data."
        ) from None
    return lock


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": _PATIENCE})

    @event.listens_for(engine, "connect")
    def prepare(connection: sqlite3.Connection, _: object) -> None:
        connection.execute("PRAGMA foreign_keys = ON")
        connection.execute("PRAGMA synchronous = FULL")

    return engine


def _check_ours(engine: Engine, path: Path) -> None:
    with engine.connect() as connection:
        mark = connection.execute(text("PRAGMA application_id")).scalar()
        tables = connection.execute(text("SELECT count(*) FROM sqlite_master")).scalar()
    if tables and mark != APPLICATION_ID:
        raise StoreError(
            f"{path} holds the data of another program; it was left as it is."
            " Choose another file with --data."
        )


@cache
def _revisions() -> tuple[str, ...]:
    """All revisions of the schema, the newest first."""
    scripts = ScriptDirectory(str(_MIGRATIONS)).walk_revisions()
    return tuple(script.revision for script in scripts)


def _migrate(engine: Engine, path: Path) -> None:
    with engine.connect() as connection:
        connection.execute(text("PRAGMA journal_mode = WAL"))
        connection.execute(text(f"PRAGMA application_id = {APPLICATION_ID}"))
        connection.commit()
        current = MigrationContext.configure(connection).get_current_revision()
        if current == _revisions()[0]:
            return
        if current not in (None, *_revisions()):
            raise StoreError(f"{path} was made by a newer Dreieck. Use that one to open it.")
        config = Config()
        config.set_main_option("script_location", str(_MIGRATIONS))
        config.attributes["connection"] = connection
        # Tables that are made anew must not take with them what refers to them.
        connection.exec_driver_sql("PRAGMA foreign_keys = OFF")
        connection.commit()
        command.upgrade(config, "head")
        connection.commit()
        connection.exec_driver_sql("PRAGMA foreign_keys = ON")
