"""Kills at random moments while several write: what was acknowledged is there afterwards."""

from __future__ import annotations

import threading
import time
from http.client import HTTPException
from pathlib import Path

from campaign.server import LostError, Page, Server, chance

_WRITERS = 3


def run(folder: Path, seconds: float) -> str:
    """Kill and start again for so long; what was counted."""
    drawn = chance("kills")
    server = Server(folder / "kills.db")
    workbook = server.make("Kills").workbook
    kept: dict[str, str] = {}
    kills = acknowledged = 0
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        writers = [_Writer(server, workbook, column) for column in "ABC"[:_WRITERS]]
        for writer in writers:
            writer.thread.start()
        time.sleep(drawn.uniform(0.2, 2.0))
        server.kill()
        kills += 1
        for writer in writers:
            writer.thread.join()
            kept |= writer.acknowledged
            acknowledged += writer.count
            writer.acknowledged.clear()
        server.start()
        on_their_way = {writer.on_its_way for writer in writers}
        _compare(server, workbook, kept, on_their_way)
        kept = {cell: number for cell, number in kept.items() if cell not in on_their_way}
    server.stop()
    return f"{kills} kills, {acknowledged} acknowledged entries, none lost"


class _Writer:
    """Writes numbers down one column, each for a revision that it has seen."""

    def __init__(self, server: Server, workbook: int, column: str) -> None:
        self.server, self.workbook, self.column = server, workbook, column
        self.acknowledged: dict[str, str] = {}
        self.on_its_way = ""
        self.count = 0
        self.thread = threading.Thread(target=self._run)

    def _run(self) -> None:
        try:
            page = Page(self.server, self.workbook)
            page.act("show")
            row = 1
            while True:
                number = time.monotonic_ns() % 1_000_000
                cell = f"{self.column}{row}"
                self.on_its_way = cell
                before = page.state["revision"]
                status = page.enter(cell, str(number))
                moved = int(str(page.state["revision"])) > int(str(before))
                if status == 200 and moved and page.state.get("text") is None:
                    self.acknowledged[cell] = str(number)
                    self.count += 1
                    row = row % 12 + 1
                else:
                    page.act("show", text=None, writing="")
        except (OSError, HTTPException, ValueError):
            return


def _compare(server: Server, workbook: int, kept: dict[str, str], on_their_way: set[str]) -> None:
    """What was acknowledged is there; what was on its way may have been kept or not."""
    page = Page(server, workbook)
    page.act("show", anchor="A1", focus="A1", text=None)
    for cell, number in kept.items():
        column, row = ord(cell[0]) - 64, int(cell[1:])
        if page.shown.get(f"{column},{row}") != number and cell not in on_their_way:
            raise LostError(f"{cell} held {number} and holds another after a kill")
