"""Outside figures: asked for on demand, distrusted, kept when the outside fails."""

import json
import re
import socket
import threading
import time
from contextlib import suppress
from html import unescape
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import ClassVar

import pytest
from starlette.testclient import TestClient
from web_page import Page

from dreieck import outside
from dreieck.core.sheet.feed import Reading
from dreieck.outside import create_outside
from dreieck.web import sources
from dreieck.web.sources import answer, asked

FEEDS = "/workbooks/1/feeds"


class Outside(BaseHTTPRequestHandler):
    """Answers with what a test says; otherwise as the outside world of the demo does."""

    says: ClassVar[dict[str, tuple[int, bytes]]] = {}
    asked: ClassVar[list[str]] = []
    world = TestClient(create_outside())

    def do_GET(self):
        self.asked.append(self.path)
        code = self.path.rpartition("/")[2]
        status, body = self.says.get(code, (None, None))
        if status is None:
            found = self.world.get(self.path)
            status, body = found.status_code, found.content
        self.send_response(status)
        if status == 302:
            self.send_header("Location", "/figures/fuel")
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, *_):
        """Say nothing."""


@pytest.fixture
def valley(client):
    server = ThreadingHTTPServer(("127.0.0.1", 0), Outside)
    Outside.says, Outside.asked = {}, []
    threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
    client.app.state.sources = {"valley": f"http://127.0.0.1:{server.server_port}"}
    yield client.app.state.sources
    server.shutdown()
    server.server_close()
    for code in outside.FIGURES:
        Outside.world.post(f"/manners/{code}/well")


def text(response):
    assert response.status_code == 200, response.text
    return re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", unescape(response.text)))


def say(value, at="2026-11-26T06:00:00Z", status=200):
    return status, json.dumps({"value": value, "at": at}).encode()


def test_opening_asks_nobody_and_a_refresh_tells_before_and_after(client, valley):
    page = Page(client, sheet=1).select("E15")
    assert "fuel : 1.71 of 2026-11-20 06:00 UTC, valley; old ." in page.text
    assert "rests on an old outside figure" in page.text
    client.get(FEEDS)
    assert Outside.asked == []
    Outside.says["fuel"] = say(2.5)
    told = text(client.post(FEEDS + "/refresh"))
    assert Outside.asked == ["/figures/fuel"]
    assert "1 figure asked for. On the workbench Ctrl+Z takes it back." in told
    assert "fuel 1.71 2.5" in told and "Prices!F15 68.40 100.00" in told
    assert "nothing has changed" in text(client.post(FEEDS + "/refresh"))
    page.act("show", revision=0).act("undo")
    assert page.notice.startswith("Taken back: refreshing feeds")
    assert page.shown("F15") == ["68.40"] and "1.71 of 2026-11-20" in text(client.get(FEEDS))


@pytest.mark.parametrize(
    ("manner", "why"),
    [
        ("failing", "valley answered with 503 instead of a figure."),
        ("nonsense", "valley answered with something that is no figure."),
        ("slow", "valley did not answer"),
    ],
)
def test_where_the_outside_fails_the_last_known_figure_stays_and_is_old(
    client, valley, monkeypatch, manner, why
):
    if manner == "slow":
        monkeypatch.setattr(sources, "SECONDS", 0.3)
        monkeypatch.setattr(outside, "SLOW", 0.9)
    Outside.says["fuel"] = say(2.5)
    client.post(FEEDS + "/refresh")
    Outside.says.clear()
    Outside.world.post(f"/manners/fuel/{manner}")
    told = text(client.post(FEEDS + "/refresh"))
    assert why in told and "1 could not be told, and the last ones that are known stay" in told
    page = Page(client, sheet=1).select("E15")
    assert page.shown("F15") == ["100.00"] and "old ." in page.text and why in page.text


@pytest.mark.parametrize(
    ("said", "why"),
    [
        (say("1.7"), '"1.7", which is no number'), (say(True), "no number"),
        (say(1, at="some day"), "did not say of when"), (say(1, at="2099-01-01"), "yet to come"),
        ((200, b"[1]"), "no figure"), ((200, b'{"value": NaN, "at": "2026-11-26"}'), "no number"),
        ((200, b"x" * 70_000), "more than a figure"), ((404, b""), "answered with 404"),
        ((302, b""), "answered with 302"), ((200, b"\xff\xfe"), "no figure"),
        (say(10**400), "no number"), ((200, b"[" * 60_000), "no figure"),
        ((200, b'{"value": ' + b"9" * 5_000 + b"}"), "no figure"),
        (say(1, at="0001-01-01T00:00:00+23:59"), "did not say of when"),
        (say(1, at="9999-12-31T23:59:59-23:59"), "did not say of when"),
    ],
)  # fmt: skip
def test_a_wrong_answer_is_told_in_words(valley, said, why):
    Outside.says["odd"] = said
    assert why in answer(valley, "odd")
    assert Outside.asked == ["/figures/odd"]


def test_only_listed_sources_are_asked_each_by_its_name(valley):
    Outside.says["a"] = say(1)
    assert answer(valley, "a") == answer(valley, "Valley:a")
    assert answer(valley, "a") == Reading(1.0, "2026-11-26T06:00:00+00:00", "valley")
    for codes, why in (("peak:a", "no source “peak”"), ("a/../b", "no code"), ("a b", "no code")):
        assert why in answer(valley, codes)
    assert "No source is listed" in answer({}, "a")
    assert "none of the web" in answer({"x": "file:///etc"}, "a")
    assert "cannot be reached" in answer({"x": "http://127.0.0.1:9"}, "a")
    assert asked(valley, {"a": "a", "b": "peak:b"})["b"].startswith("There is no source")
    assert set(Outside.asked) == {"/figures/a"}


def test_others_work_on_while_a_source_is_slow(client, valley, monkeypatch):
    monkeypatch.setattr(sources, "SECONDS", 2.0)
    monkeypatch.setattr(outside, "SLOW", 1.5)
    Outside.world.post("/manners/fuel/slow")
    refreshing = threading.Thread(target=client.post, args=(FEEDS + "/refresh",))
    refreshing.start()
    while not Outside.asked:
        time.sleep(0.01)
    page = Page(client, sheet=1).enter("B7", "2")
    assert refreshing.is_alive() and page.shown("B7") == ["2.00"]
    refreshing.join()
    assert "valley fresh Prices!E15" in text(client.get(FEEDS))


def test_a_feed_is_fixed_as_an_input_and_its_history_is_listed(client, valley):
    Outside.says["fuel"] = say(2.5)
    told = text(client.post(FEEDS + "/refresh"))
    assert "2026-11-26 06:00 2.5 valley 2026-11-20 06:00 1.71 valley" in told
    revision = client.app.state.library.open(1).revision
    refused = client.post(FEEDS + "/fix", data={"key": "gone", "revision": revision})
    assert "nothing to fix" in text(refused)
    fixed = client.post(FEEDS + "/fix", data={"key": "fuel", "revision": revision})
    assert "The feed is an input now." in text(fixed) and "No formula uses a feed" in text(fixed)
    page = Page(client, sheet=1).select("E15")
    assert page.scene["text"] == "2.5" and page.shown("F15") == ["100.00"]
    assert "nobody was asked" in text(client.post(FEEDS + "/refresh"))


def test_one_that_answers_drop_by_drop_is_cut_off_and_holds_up_nobody(valley, monkeypatch):
    monkeypatch.setattr(sources, "SECONDS", 1.0)
    Outside.says["a"] = say(1)
    ended = threading.Event()

    def drip(listener):
        connection, _ = listener.accept()
        with connection, suppress(OSError):
            connection.sendall(b"HTTP/1.1 200 OK\r\n")
            while True:
                connection.sendall(b"X: ")
                time.sleep(0.02)
        ended.set()

    with socket.create_server(("127.0.0.1", 0)) as listener:
        threading.Thread(target=drip, args=(listener,), daemon=True).start()
        slow = {**valley, "slow": f"http://127.0.0.1:{listener.getsockname()[1]}"}
        told = asked(slow, {"a": "a", "b": "slow:b"})
        assert told["a"].value == 1.0 and told["b"].startswith("slow did not answer within")
        assert ended.wait(5)
