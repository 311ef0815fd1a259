import logging
import os
import shutil
import sys

import effort  # noqa: F401  # the profiles have to be there before a test is read
import pytest
from argon2 import PasswordHasher
from argon2.profiles import CHEAPEST

from dreieck import demo
from dreieck.store import Database, Library

if "MUTANT_UNDER_TEST" in os.environ:
    # Each call goes through another one there.
    sys.setrecursionlimit(10_000)


@pytest.fixture(autouse=True)
def no_fault_is_logged(request, caplog):
    """What is caught so that nobody is held up is a fault all the same."""
    yield
    faults = [r for r in caplog.get_records("call") if r.levelno >= logging.ERROR]
    if not request.node.get_closest_marker("logs_a_fault"):
        assert [record.getMessage() for record in faults] == []


@pytest.fixture(scope="session")
def made_data(tmp_path_factory):
    """A data file as it is made, without and with the demo: made once, and copied."""
    folder = tmp_path_factory.mktemp("made")
    for name in ("empty", "demo"):
        library = Library(Database(folder / name))
        if name == "demo":
            demo.make(library)
        library.close()
    return folder


@pytest.fixture
def quick_passphrases(monkeypatch):
    """What makes guessing dear makes every test of people slow."""
    quick = PasswordHasher.from_parameters(CHEAPEST)
    monkeypatch.setattr("dreieck.store.people.PasswordHasher", lambda: quick)


@pytest.fixture
def empty_data(made_data, tmp_path):
    """A fresh data file."""
    return shutil.copy(made_data / "empty", tmp_path / "data.db")


@pytest.fixture
def demo_data(made_data, tmp_path):
    """A fresh data file with the demo."""
    return shutil.copy(made_data / "demo", tmp_path / "data.db")
