import pytest
from fastapi.testclient import TestClient
from golden import Told
from web_page import Page

from dreieck.web.app import create_app
from dreieck.web.settings import Settings


@pytest.fixture
def client(demo_data):
    settings = Settings(data=demo_data, demo=True, hosts=["testserver"])
    with TestClient(create_app(settings), raise_server_exceptions=False) as opened:
        yield opened


@pytest.fixture
def page(client):
    return Page(client)


@pytest.fixture
def second_page(client):
    return Page(client)


@pytest.fixture
def broken(client):
    """A page on the sheet that has something to mend."""
    return Page(client, sheet=4)


@pytest.fixture
def tells(request):
    """Holds what is told, one after the other, against ``sayings.txt``."""
    told = Told("web/sayings.txt", f"{request.path.stem}: {request.node.name}")
    yield told
    told.ends()
