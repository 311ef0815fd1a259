"""A hundred people at once: each signs in, practises, and writes into a workbook of their own."""

from __future__ import annotations

import re
import statistics
import threading
import time
from pathlib import Path

from campaign.server import Client, LostError, Page, Server, chance

PEOPLE = 100
THOUGHT = 2.0
"""So many seconds somebody thinks between two actions, on average."""
ASKED = 5.0
"""So many bare round trips the median answer is to take at the most; it is told, not enforced."""
_PAUSE = 0.1
_ROWS = 15
"""So many rows are written in: those that a page shows at once."""


def run(folder: Path, seconds: float) -> str:
    """Let them work for so long; what was measured. Raises LostError."""
    server = Server(folder / "classroom.db", None, "--people")
    people = [_Person(server.port, number) for number in range(PEOPLE)]
    for person in people:
        person.sign_up()
    ends = time.monotonic() + seconds
    jobs = [threading.Thread(target=person.work, args=(ends,)) for person in people]
    for job in jobs:
        job.start()
    # The yardstick is taken while they work: what a request takes that does nothing.
    bares: list[float] = []
    while time.monotonic() < ends:
        server.ask("GET", "/healthz")
        bares.append(server.took)
        time.sleep(_PAUSE)
    for job in jobs:
        job.join(timeout=60)
    bare = statistics.median(bares)
    lost = [said for person in people for said in person.lost()]
    said = server.stop()
    took = [each for person in people for each in person.took]
    if lost or "Traceback" in said or any(job.is_alive() for job in jobs):
        raise LostError(f"{lost[:3]} {said[-1000:]}")
    median = statistics.median(took)
    worst = statistics.quantiles(took, n=100)[-1]
    return (
        f"{PEOPLE} people, {len(took)} answers, none lost, median {median * 1000:.0f} ms"
        f" ({median / bare:.1f} bare round trips of {bare * 1000:.1f} ms; asked: {ASKED:.0f}),"
        f" one in a hundred took {worst * 1000:.0f} ms or more"
    )


class _Person:
    """Somebody with a browser."""

    def __init__(self, port: int, number: int) -> None:
        self.client = Client(port)
        self.name = f"Person {number}"
        self.rng = chance(f"pupil {number}")
        self.took: list[float] = []
        self.wrong: list[str] = []
        self.written: dict[str, str] = {}
        self.answered = 0

    def sign_up(self) -> None:
        """Sign up, and make a workbook."""
        form = {"name": self.name, "passphrase": f"four odd words of {self.name}"}
        self.client.location("POST", "/sign-up", form)
        self.page = self.client.make(f"Table of {self.name}")

    def work(self, ends: float) -> None:
        """Think, act, think, until the time is over."""
        time.sleep(self.rng.random() * THOUGHT)
        while time.monotonic() < ends:
            self.rng.choice((self._practise, self._write, self._write, self._look))()
            time.sleep(THOUGHT * (0.5 + self.rng.random()))

    def _answered(self, what: str, status: int) -> None:
        self.took.append(self.client.took)
        if status != 200:
            self.wrong.append(f"{self.name}: {what} {status}")

    def _write(self) -> None:
        row = self.rng.randint(1, _ROWS)
        cell, text = f"A{row}", str(self.rng.randrange(1_000))
        status = self.page.enter(cell, text)
        self._answered("enter", status)
        if status == 200:
            self.written[f"1,{row}"] = text

    def _look(self) -> None:
        cell = f"B{self.rng.randint(1, 30)}"
        status = self.page.act("show", anchor=cell, focus=cell)
        self._answered("show", status)

    def _practise(self) -> None:
        code = f"{self.rng.choice(('predict', 'lock', 'write', 'explain'))}-1-{self.answered}"
        status, text = self.client.ask("GET", f"/practice/drills/{code}")
        self._answered(code, status)
        time.sleep(THOUGHT)
        form: dict[str, object] = {"choice": 0, "cell": "B5", "formula": "=B5*B2"}
        status, text = self.client.post(f"/practice/drills/{code}", form)
        self._answered(f"answer to {code}", status)
        self.answered += re.search('id="verdict"', text) is not None

    def lost(self) -> list[str]:
        """What went wrong, and what was written or answered and is not there."""
        opened = Page(self.client, self.page.workbook)
        opened.act("show")
        shown = {at: opened.shown.get(at) for at in self.written}
        told = self.wrong
        if shown != self.written:
            told = [*told, f"{self.name}: entries are missing"]
        _, text = self.client.ask("GET", "/practice")
        kept = sum(int(count) for count in re.findall(r"\d+ of (\d+) right", text))
        return told if kept >= self.answered else [*told, f"{self.name}: answers are missing"]
