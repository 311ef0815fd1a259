import pytest

from dreieck.store import Database, Library


@pytest.fixture
def path(tmp_path):
    return tmp_path / "data.db"


@pytest.fixture
def library(path):
    opened = Library(Database(path))
    yield opened
    opened.close()
