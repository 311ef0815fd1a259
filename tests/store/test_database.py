import os
import sqlite3
import stat
from contextlib import closing

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import create_engine
from sqlmodel import SQLModel

from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.layout import Layout
from dreieck.core.values.look import PLAIN
from dreieck.store import Database, Library, NewSheet, StoreError, database
from dreieck.store.database import APPLICATION_ID


@pytest.fixture
def path(tmp_path):
    """Where no file is yet."""
    return tmp_path / "data.db"


def refused(path):
    """Why a data file cannot be opened."""
    with pytest.raises(StoreError) as refusal:
        Database(path)
    return str(refusal.value)


def test_the_migrations_lead_to_the_tables_of_the_code(path):
    database = Database(path)
    with database.engine.connect() as connection:
        differences = compare_metadata(MigrationContext.configure(connection), SQLModel.metadata)
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
    database.close()
    assert differences == []


def test_a_file_that_is_no_database_is_left_alone(path):
    path.write_text("our shopping list, flour and lentils")
    assert refused(path) == (
        f"{path} is not a Dreieck data file; it was left as it is."
        " Choose another file with --data."
    )
    assert path.read_text() == "our shopping list, flour and lentils"


def test_a_database_of_another_program_is_left_alone(path):
    with closing(sqlite3.connect(path)) as other, other:
        other.execute("CREATE TABLE hut (name)")
    assert refused(path) == (
        f"{path} holds the data of another program; it was left as it is."
        " Choose another file with --data."
    )
    with closing(sqlite3.connect(path)) as other:
        assert other.execute("SELECT name FROM sqlite_master").fetchall() == [("hut",)]


def test_a_read_only_file_a_folder_and_a_missing_place_are_told(path, tmp_path):
    path.write_bytes(b"")
    path.chmod(0o444)
    assert refused(path) == (
        f"{path} is read-only, so no change could be kept. Make it writable, or choose another"
        " file with --data."
    )
    assert refused(tmp_path) == (
        f"{tmp_path} is not a file. Give the path of a data file with --data."
    )
    below = path / "below" / "data.db"
    assert refused(below) == (
        f"{below} cannot be opened for writing: Not a directory. Choose another file with --data."
    )


def test_the_folders_of_a_data_file_are_made(tmp_path):
    Database(tmp_path / "plans" / "huts" / "data.db").close()
    assert (tmp_path / "plans" / "huts" / "data.db").exists()


def test_a_file_in_use_is_told_and_free_again_after_closing(path):
    first = Database(path)
    assert refused(path) == (
        f"{path} is in use by another Dreieck. Stop that one, or choose another file with --data."
    )
    first.close()
    Database(path).close()


def test_a_file_of_a_newer_dreieck_is_told(path):
    Database(path).close()
    with closing(sqlite3.connect(path)) as connection, connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    assert refused(path) == f"{path} was made by a newer Dreieck. Use that one to open it."


def test_a_damaged_file_is_told(path):
    path.write_bytes(b"SQLite format 3\0" + b"\xff" * 4000)
    with pytest.raises(StoreError, match="cannot be used"):
        Database(path)


def test_another_way_to_the_same_file_is_told_too(path, tmp_path):
    first = Database(path)
    (tmp_path / "link.db").symlink_to(path)
    (tmp_path / "folder").symlink_to(tmp_path, target_is_directory=True)
    for other in ("link.db", "folder/data.db"):
        with pytest.raises(StoreError, match="in use by another Dreieck"):
            Database(tmp_path / other)
    first.close()


@pytest.mark.logs_a_fault
def test_damage_beyond_the_first_pages_is_told(path):
    library = Library(Database(path))
    id = library.create("Loads", [NewSheet("Loads", {"A1": "1"})])
    library.close()
    with closing(sqlite3.connect(path)) as connection, connection:
        connection.execute("UPDATE run SET kind = 4, shape = 99")
        connection.commit()
        connection.execute("PRAGMA wal_checkpoint(TRUNCATE)")
    library = Library(Database(path))
    library.check()
    with pytest.raises(StoreError, match="“Loads” cannot be read"):
        library.open(id)
    library.close()
    with path.open("r+b") as file:
        file.seek(4096)
        file.write(b"\xff" * (path.stat().st_size - 4096))
    with pytest.raises(StoreError, match=r"cannot be used.*put a copy"):
        Library(Database(path)).check()


def test_older_files_keep_all_that_they_hold(path):
    with closing(sqlite3.connect(path)) as connection, connection:
        connection.execute(f"PRAGMA application_id = {APPLICATION_ID}")
    engine = create_engine(f"sqlite:///{path}")
    config = Config()
    config.set_main_option("script_location", str(database._MIGRATIONS))
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0003")
        for statement in (
            "INSERT INTO workbook VALUES (7, 'Loads', 0, 3, 1, NULL, '2026-03-01')",
            """INSERT INTO sheet VALUES (9, 7, 'Loads', 0, '{"3": 130, "2": 90}')""",
            "INSERT INTO run VALUES (9, 1, 1, 2, 1, 5.0, NULL, NULL, 'number 2 input')",
            "INSERT INTO run VALUES (9, 1, 3, 3, 2, NULL, '1/2', NULL, 'text  plain')",
            "INSERT INTO change VALUES (7, 1, 'entry', '2026-03-01', '[]', '[]')",
            """INSERT INTO change VALUES (7, 2, 'sheet', '2026-03-01',
                '[{"edit":"AddSheet","sheet":12,"name":"Plans","position":1,"widths":[[2,70]],
                   "cells":[]}]',
                '[{"edit":"RemoveSheet","sheet":12}]')""",
        ):
            connection.exec_driver_sql(statement)
        connection.commit()
    engine.dispose()
    library = Library(Database(path))
    opened = library.open(7)
    sheet = opened.workbook.sheets[0]
    assert len(sheet) == 3 and sheet.look(Cell(1, 3)).form == "typed-text"
    assert opened.history() == ("entry", "sheet")
    assert sheet.layout == Layout.wide({2: 90, 3: 130}) and sheet.look(Cell(1, 2)).role == "input"
    assert opened.redo(opened.revision) == "sheet"
    assert opened.workbook.sheets[1].layout == Layout.wide({2: 70})
    library.delete(7)
    assert library.create("Prices") == 8
    library.close()


def mode(path):
    return stat.S_IMODE(path.stat().st_mode)


def test_nobody_else_on_the_machine_can_read_it(tmp_path, caplog):
    """Not even what stands beside it while it is in use; whoever could before is told of."""
    path = tmp_path / "own" / "data.db"
    old = os.umask(0)
    try:
        library = Library(Database(path))
        library.create("Plans")
        beside = sorted(each.name for each in path.parent.iterdir())
        assert beside == ["data.db", "data.db-shm", "data.db-wal", "data.db.lock"]
        assert {mode(each) for each in path.parent.iterdir()} == {0o600}
        assert mode(path.parent) == 0o700 and caplog.messages == []
        library.close()
    finally:
        os.umask(old)
    path.chmod(0o644)
    path.parent.chmod(0o755)
    Database(path).close()
    assert (mode(path), mode(path.parent)) == (0o600, 0o700)
    assert [each.partition(" ")[0] for each in caplog.messages] == [str(path), str(path.parent)]
    # A folder that others use for other things stays as it is, and is told of.
    (path.parent / "notes.txt").touch()
    path.parent.chmod(0o755)
    Database(path).close()
    assert mode(path.parent) == 0o755 and "can look into" in caplog.messages[-1]


def test_a_file_that_another_program_holds_is_told_soon(path, monkeypatch):
    monkeypatch.setattr(database, "_PATIENCE", 0.05)
    library = Library(Database(path))
    opened = library.open(library.create("Plans"))
    other = sqlite3.connect(path)
    other.execute("BEGIN IMMEDIATE")
    edits = [SetCells.of(opened.workbook.sheets[0].id, {Cell(1, 1): (1.0, PLAIN)})]
    with pytest.raises(StoreError, match="another program holds the data file just now"):
        opened.change("entering", edits, opened.revision)
    other.rollback()
    opened.change("entering", edits, opened.revision)
    other.close()
    library.close()
