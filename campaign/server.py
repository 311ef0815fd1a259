"""A server of its own for each attack, the requests to it, and a watch on how it is."""

from __future__ import annotations

import json
import os
import random
import re
import resource
import socket
import subprocess
import sys
import threading
import time
from concurrent.futures import ThreadPoolExecutor
from html import unescape
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from urllib.parse import urlencode

SEED = int(os.environ.get("SEED") or time.time_ns() % 10**9)
"""What is drawn by chance follows from this; another one each time."""
SLOWEST = 1.0
"""So many seconds at the most another page may take."""
BEHIND = 0.3
"""So many seconds more than a quiet server, asked at the same moment, may it take to say that it
is well, 99 times of 100: a machine that is shared stands still now and then."""
LONGEST = 13.0
"""So many seconds a request may last: ten of work, and what is left to draw with what is known."""
MAX_MEMORY = 2_000
"""So many megabytes at the most it may take."""


def chance(purpose: str) -> random.Random:
    """Chance for one attack."""
    return random.Random(f"{SEED} {purpose}")


class LostError(AssertionError):
    """Something was lost, held up, or answered without words."""


class Client:
    """Asks a server, as one browser does; ``cookie`` tells who is signed in."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.cookie = ""
        self.took = 0.0
        """So many seconds the last answer took."""

    def ask(
        self, method: str, path: str, body: bytes | None = None, kind: str = "", wait: float = 60
    ) -> tuple[int, str]:
        """Ask something; the status and the text of the answer."""
        connection = HTTPConnection("127.0.0.1", self.port, timeout=wait)
        headers = {"Content-Type": kind} if kind else {}
        if self.cookie:
            headers["Cookie"] = self.cookie
        begun = time.perf_counter()
        try:
            connection.request(method, path, body, headers)
            answer = connection.getresponse()
            data = answer.read()
            self.took = time.perf_counter() - begun
            return answer.status, data.decode("utf-8", "replace")
        finally:
            connection.close()

    def post(self, path: str, form: dict[str, object], wait: float = 60) -> tuple[int, str]:
        """Send a form."""
        body = urlencode({key: str(value) for key, value in form.items()}).encode()
        return self.ask("POST", path, body, "application/x-www-form-urlencoded", wait)

    def api(self, name: str, asked: object, wait: float = 60) -> tuple[int, str]:
        """Ask the JSON interface."""
        return self.ask(
            "POST", f"/api/v1/{name}", json.dumps(asked).encode(), "application/json", wait
        )

    def location(self, method: str, path: str, form: dict[str, str] | None = None) -> str:
        """Where an answer sends the browser."""
        connection = HTTPConnection("127.0.0.1", self.port, timeout=60)
        headers = {"Content-Type": "application/x-www-form-urlencoded"} if form else {}
        if self.cookie:
            headers["Cookie"] = self.cookie
        connection.request(method, path, urlencode(form) if form else None, headers)
        answer = connection.getresponse()
        answer.read()
        connection.close()
        given = answer.getheader("set-cookie") or ""
        self.cookie = given.partition(";")[0] or self.cookie
        return answer.getheader("location") or ""

    def make(self, name: str) -> Page:
        """A new workbook, and a page on it."""
        made = self.location("POST", "/workbooks", {"name": name})
        return Page(self, int(made.rpartition("/")[2]))


class Server(Client):
    """``dreieck serve`` on a data file, and who asks it without signing in."""

    def __init__(self, data: Path, largest_file: int | None = None, *options: str) -> None:
        self.data = data
        self.log = data.with_suffix(".log")
        self.largest_file = largest_file
        self.options = options
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            super().__init__(probe.getsockname()[1])
        self.start()

    def start(self) -> None:
        """Start it and wait until it answers."""
        self.process = subprocess.Popen(
            [sys.executable, "-m", "dreieck.cli.main", "serve", "--port", str(self.port),
             "--data", str(self.data), *self.options],
            stdout=subprocess.DEVNULL, stderr=self.log.open("a"),
        )  # fmt: skip
        if self.largest_file is not None:
            limits = (self.largest_file, self.largest_file)
            resource.prlimit(self.process.pid, resource.RLIMIT_FSIZE, limits)
        while True:
            try:
                self.ask("GET", "/healthz")
                return
            except OSError:
                if self.process.poll() is not None:
                    raise LostError(f"the server did not start: {self.log.read_text()}") from None
                time.sleep(0.05)

    def kill(self) -> None:
        """End it at once, as a power cut would."""
        self.process.kill()
        self.process.wait()

    def stop(self) -> str:
        """End it, and return what it said on the way."""
        self.process.terminate()
        self.process.wait(timeout=30)
        return self.log.read_text()

    def memory(self) -> int:
        """How many megabytes it takes."""
        status = Path(f"/proc/{self.process.pid}/status").read_text()
        found = re.search(r"VmRSS:\s+(\d+)", status)
        return int(found[1]) // 1024 if found else 0


class Page:
    """One open page of a workbook: keeps its state as the browser does."""

    def __init__(self, server: Client, workbook: int) -> None:
        self.server = server
        self.workbook = workbook
        place = server.location("GET", f"/workbooks/{workbook}")
        number = int(place.rpartition("/")[2])
        self.state: dict[str, object] = {"revision": 0, "sheet": number}
        self.shown: dict[str, str] = {}
        self.notice = ""
        self.unfinished = False

    def act(self, action: str, **wish: object) -> int:
        """Do something and take over the state that it led to; the status of the answer."""
        form = {k: v for k, v in {**self.state, **wish}.items() if v is not None}
        status, text = self.server.post(f"/workbooks/{self.workbook}/act/{action}", form)
        found = re.search(r'data-scene="([^"]*)"', text)
        told = re.search(r'<p class="notice[^>]*>(.*?)</p>', text, re.DOTALL)
        self.notice = unescape(told[1]) if told else ""
        if status == 200 and found:
            scene = json.loads(unescape(found[1]))
            self.state = {**scene["state"], "revision": scene["revision"]}
            self.unfinished = scene["unfinished"]
            self.shown = {f"{c['column']},{c['row']}": c["shown"] for c in scene["cells"]}
        return status

    def enter(self, cell: str, text: str) -> int:
        """Keep an entry."""
        return self.act("enter", anchor=cell, focus=cell, writing=cell, text=text)


class Watch:
    """Asks again and again whether the server is well, and how much memory it takes.

    A quiet server beside it is asked at the same time: what slows both is the machine's own.
    """

    def __init__(self, server: Server, *paths: str) -> None:
        self.server = server
        self.paths = paths
        self.slowest: dict[str, float] = dict.fromkeys(paths, 0.0)
        self._behind: list[float] = []
        self.memory = 0
        self._quiet = Server(server.data.with_name("quiet.db"))
        self._servers = (server, self._quiet)
        self._ends = threading.Event()
        self._threads = [
            threading.Thread(target=self._beside),
            *(threading.Thread(target=self._run, args=(path,)) for path in paths),
        ]

    def __enter__(self) -> Watch:
        for thread in self._threads:
            thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._ends.set()
        for thread in self._threads:
            thread.join()
        self._quiet.stop()

    def _beside(self) -> None:
        with ThreadPoolExecutor(2) as pool:
            while not self._ends.wait(0.1):
                both = [pool.submit(self._took, each, "/healthz") for each in self._servers]
                watched, quiet = (each.result() for each in both)
                self._behind.append(watched - quiet)
                self.memory = max(self.memory, self.server.memory())

    @property
    def behind(self) -> float:
        """How much longer than the quiet server it took, but for one time of a hundred."""
        return sorted(self._behind)[len(self._behind) * 99 // 100 - 1] if self._behind else 0.0

    def _run(self, path: str) -> None:
        while not self._ends.wait(0.1):
            self.slowest[path] = max(self.slowest[path], self._took(self.server, path))

    def _took(self, server: Server, path: str) -> float:
        begun = time.monotonic()
        try:
            status, _ = server.ask("GET", path, wait=30)
        except (OSError, HTTPException):
            status = 0
        return time.monotonic() - begun if status == 200 else 99.0

    def check(self) -> None:
        """Raise LostError where an answer took too long, or too much memory was taken."""
        if self.behind > BEHIND:
            raise LostError(
                f"/healthz took {self.behind:.2f} s longer than that of a quiet server"
            )
        for path, took in self.slowest.items():
            if took > SLOWEST:
                raise LostError(f"{path} took {took:.2f} s")
        if self.memory > MAX_MEMORY:
            raise LostError(f"the server took {self.memory} MB")

    @property
    def figures(self) -> str:
        """What was measured."""
        took = "".join(f", {path} {each * 1000:.0f} ms" for path, each in self.slowest.items())
        behind = (
            f"/healthz {self.behind * 1000:.0f} ms behind a quiet server, once"
            f" {max(self._behind, default=0.0) * 1000:.0f} ms"
        )
        return f"{len(self._behind)} looks, {behind}{took}; at most {self.memory} MB"
