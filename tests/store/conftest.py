import pytest

from dreieck.store import Database, Library


@pytest.fixture
def path(empty_data):
    return empty_data


@pytest.fixture
def library(path):
    opened = Library(Database(path))
    yield opened
    opened.close()
