"""What an answer of the workbench weighs on the line, over a session of 200 mixed acts."""

from __future__ import annotations

import gzip
import json
import random
import re
import statistics
import tempfile
from html import unescape
from pathlib import Path
from typing import Any

from fastapi.testclient import TestClient

from dreieck.web.app import create_app
from dreieck.web.settings import Settings

ASKED = 3.0
TITLE = "an answer, compressed, at the median of 200 mixed acts / 1,000 bytes"
_ACTS = 200


class _Page:
    """A page that keeps its state as the browser does, and weighs what it is answered."""

    def __init__(self, client: TestClient, workbook: int, sheet: int) -> None:
        self.client, self.at = client, f"/workbooks/{workbook}/act/"
        self.state: dict[str, Any] = {"sheet": sheet, "width": 880, "height": 520}
        self.picture = 0
        self.revision = 0
        self.weights: list[int] = []
        self.act("show")

    def act(self, action: str, **wish: object) -> None:
        form = {name: value for name, value in {**self.state, **wish}.items() if value is not None}
        sent = {**form, "picture": self.picture, "revision": self.revision}
        with self.client.stream("POST", self.at + action, data=sent) as answer:
            raw = b"".join(answer.iter_raw())
            self.weights.append(len(raw))
        packed = answer.headers.get("content-encoding") == "gzip"
        text = (gzip.decompress(raw) if packed else raw).decode()
        scene = json.loads(unescape(re.findall(r'data-scene="([^"]*)"', text)[0]))
        kept = {name: form[name] for name in form if name in self.state or name in scene["state"]}
        self.state = {**(kept if scene["since"] else self.state), **scene["state"]}
        self.picture, self.revision = scene["picture"], scene["revision"]


def measure() -> float:
    """How many thousands of bytes an answer has."""
    chance = random.Random(34)
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder) / "data.db", hosts=["testserver"], demo=True))
        library = app.state.library
        opened = library.open(library.listed()[0].id)
        loads = opened.workbook.sheet("Loads").id
        with TestClient(app) as client:
            page = _Page(client, opened.id, loads)
            while len(page.weights) < _ACTS:
                _do_something(page, chance)
            return statistics.median(page.weights[1:]) / 1_000


def _do_something(page: _Page, chance: random.Random) -> None:
    column, row = chance.choice("ABCDEFGH"), chance.randint(3, 14)
    cell = f"{column}{row}"
    match chance.randrange(5):
        case 0 | 1:
            for step in range(5):
                at = f"{column}{row + step}"
                page.act("show", anchor=at, focus=at, inner="", also="", step="", reveal=at)
        case 2:
            entry = chance.choice(["12.5", "Tarn", "=C5*2", "=SUM(C5:F5)", "=$B5*C$4"])
            for end in range(1, len(entry) + 1):
                page.act(
                    "show", anchor=cell, focus=cell, writing=cell, text=entry[:end], caret=end
                )
            page.act("enter", move="down")
        case 3:
            page.act("show", anchor="C5", focus="C5", inner="", also="")
            page.act("walk", rows=1)
            page.act("stretch", rows=1)
            page.act("show", target="", source="", landing="", step="")
        case _:
            page.act("undo")
