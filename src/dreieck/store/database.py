"""The data file: opened safely, brought to the present schema, locked to one server."""

from __future__ import annotations

import fcntl
import sqlite3
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event, text
from sqlalchemy.exc import DatabaseError
from sqlmodel import Session

APPLICATION_ID = 0x44524549
"""Marks an SQLite file as ours ("DREI" in its header)."""

_MIGRATIONS = Path(__file__).parent / "migrations"


class StoreError(Exception):
    """The data file cannot be used; the text says why and what would do."""


class Database:
    """An open data file."""

    def __init__(self, path: Path) -> None:
        """Open or make the file at ``path``. Raises StoreError."""
        self.path = path
        _check_usable(path)
        self._lock = _locked(path)
        self.engine = _engine(path)
        try:
            _check_ours(self.engine, path)
            _migrate(self.engine, path)
        except DatabaseError as error:
            self.close()
            raise StoreError(f"{path} cannot be used: {error.orig}") from error
        except StoreError:
            self.close()
            raise

    def session(self) -> Session:
        """A new session; what it changes is one transaction."""
        return Session(self.engine)

    def close(self) -> None:
        """Close the file and let other servers have it."""
        self.engine.dispose()
        self._lock.close()


def _check_usable(path: Path) -> None:
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
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
        lock = path.with_name(path.name + ".lock").open("w")
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
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 15})

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


def _migrate(engine: Engine, path: Path) -> None:
    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    with engine.connect() as connection:
        connection.execute(text("PRAGMA journal_mode = WAL"))
        connection.execute(text(f"PRAGMA application_id = {APPLICATION_ID}"))
        connection.commit()
        if not _is_known(connection, config):
            raise StoreError(f"{path} was made by a newer Dreieck. Use that one to open it.")
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        connection.commit()


def _is_known(connection: Any, config: Config) -> bool:
    current = MigrationContext.configure(connection).get_current_revision()
    known = {script.revision for script in ScriptDirectory.from_config(config).walk_revisions()}
    return current is None or current in known
