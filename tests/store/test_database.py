import sqlite3

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlmodel import SQLModel

from dreieck.store import Database, StoreError


def test_the_migrations_lead_to_the_tables_of_the_code(path):
    database = Database(path)
    with database.engine.connect() as connection:
        differences = compare_metadata(MigrationContext.configure(connection), SQLModel.metadata)
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
    database.close()
    assert differences == []


def test_a_file_that_is_no_database_is_left_alone(path):
    path.write_text("our shopping list, flour and lentils")
    with pytest.raises(StoreError, match="not a Dreieck data file"):
        Database(path)
    assert path.read_text() == "our shopping list, flour and lentils"


def test_a_database_of_another_program_is_left_alone(path):
    with sqlite3.connect(path) as other:
        other.execute("CREATE TABLE hut (name)")
    with pytest.raises(StoreError, match="data of another program"):
        Database(path)
    assert sqlite3.connect(path).execute("SELECT name FROM sqlite_master").fetchall() == [("hut",)]


def test_a_read_only_file_a_folder_and_a_missing_place_are_told(path, tmp_path):
    path.write_bytes(b"")
    path.chmod(0o444)
    with pytest.raises(StoreError, match="read-only"):
        Database(path)
    with pytest.raises(StoreError, match="not a file"):
        Database(tmp_path)
    with pytest.raises(StoreError, match="cannot be"):
        Database(path / "below" / "data.db")


def test_a_file_in_use_is_told_and_free_again_after_closing(path):
    first = Database(path)
    with pytest.raises(StoreError, match="in use by another Dreieck"):
        Database(path)
    first.close()
    Database(path).close()


def test_a_file_of_a_newer_dreieck_is_told(path):
    Database(path).close()
    with sqlite3.connect(path) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(StoreError, match="newer Dreieck"):
        Database(path)


def test_a_damaged_file_is_told(path):
    path.write_bytes(b"SQLite format 3\0" + b"\xff" * 4000)
    with pytest.raises(StoreError, match="cannot be used"):
        Database(path)
