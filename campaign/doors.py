"""Guessing at the door, files sent by halves, and every action with whatever wishes there are."""

from __future__ import annotations

import re
import socket
import time
import typing
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path
from random import Random

from campaign.server import LONGEST, Client, LostError, Server, chance
from dreieck.web.workbench.actions import ACTIONS
from dreieck.web.workbench.page_state import Asked, PageState

_WORDS = "four odd words"
_TRIES, _FREE = 60, 3
_HALVES, _HALF = 24, 40_000_000
_MOST = 400
"""So many megabytes more at most while files come in."""
_TEXTS = (
    "", "A1", "B5:C9", "ZZZ1000000", "A1:ZZZ1000000", "A:A", "'", "=", "=A1", "=SUM(A:A)", "A0",
    "Prices!B3", "x" * 300, "-1", "1e9", "9" * 25, "null", "{}", "B5,C7,D9:E10", "\u200b", "down",
    "right", "row", "inv20261201",
)  # fmt: skip
_NUMBERS = ("0", "1", "-1", "2", "7", "1000000", "18278", "-5", "999999999", "9" * 25)


def run(folder: Path, seconds: float) -> str:
    """All three; the last one goes on for so long."""
    return "; ".join((_guesses(folder), _halves(folder), _wishes(folder, seconds)))


def _guesses(folder: Path) -> str:
    """Sixty wrong passphrases at once get no more answers than three."""
    server = Server(folder / "guesses.db", None, "--people")
    ada = Client(server.port)
    ada.location("POST", "/sign-up", {"name": "Ada", "passphrase": _WORDS})
    form: dict[str, object] = {"name": "Ada", "passphrase": "not the words"}
    begun = time.monotonic()
    with ThreadPoolExecutor(_TRIES) as pool:
        tries = pool.map(
            lambda _: Client(server.port).post("/sign-in", dict(form))[0], range(_TRIES)
        )
        answered = sum(status == 401 for status in tries)
    # One more is free a second after the third, where the machine is slow.
    if answered > _FREE + int(time.monotonic() - begun):
        raise LostError(f"{answered} of {_TRIES} guesses at once were answered")
    server.stop()
    return f"{answered} of {_TRIES} guesses at once were answered"


def _halves(folder: Path) -> str:
    """Files that stop halfway take no memory, and others come in meanwhile."""
    server = Server(folder / "halves.db")
    before = server.memory()
    head = (
        f"POST /files HTTP/1.1\r\nHost: 127.0.0.1:{server.port}\r\n"
        "Content-Type: multipart/form-data; boundary=x\r\n"
        f"Content-Length: {_HALF * 5 // 4}\r\n\r\n"
    ).encode()
    halves = [socket.create_connection(("127.0.0.1", server.port)) for _ in range(_HALVES)]
    for half in halves:
        with suppress(OSError):
            half.sendall(head)
            for _ in range(_HALF // 1_000_000):
                half.sendall(b"x" * 1_000_000)
    taken = server.memory() - before
    status, _ = server.ask("GET", "/healthz")
    refused = sum(map(_is_refused, halves))
    server.stop()
    if taken > _MOST or status != 200 or refused < _HALVES // 2:
        raise LostError(f"{_HALVES} halves of files take {taken} MB; {refused} were refused")
    return f"{_HALVES} halves of files take {taken} MB, {refused} were refused"


def _is_refused(half: socket.socket) -> bool:
    with half:
        half.settimeout(0.2)
        try:
            return half.recv(20).startswith(b"HTTP/1.1 503")
        except OSError:
            return False


def _wishes(folder: Path, seconds: float) -> str:
    """Actions with wishes by chance: each ends, none is a fault, the workbook is drawn."""
    server = Server(folder / "wishes.db", None, "--demo")
    drawn = chance("wishes")
    names = sorted(ACTIONS)
    count, slowest = 0, 0.0
    ends = time.monotonic() + seconds
    while time.monotonic() < ends:
        name = drawn.choice(names)
        shown = server.ask("GET", "/workbooks/1/take-back")[1]
        found = re.search(r'name="revision" value="(\d+)"', shown)
        form = {"revision": found[1] if found else "0", "sheet": str(drawn.randrange(1, 5))}
        for model, share in ((PageState, 0.15), (ACTIONS[name].wish, 0.8), (Asked, 0.1)):
            form |= _drawn(model, share, drawn)
        status, text = server.post(f"/workbooks/1/act/{name}", dict(form))
        slowest = max(slowest, server.took)
        if status not in (200, 404, 422) or server.took > LONGEST:
            raise LostError(f"{name} {form}: {status} after {server.took:.1f} s: {text[:300]}")
        count += 1
    if server.post("/workbooks/1/act/show", {"revision": 0, "sheet": 1})[0] != 200:
        raise LostError("the workbook cannot be drawn any more")
    said = server.stop()
    if "Traceback" in said:
        raise LostError(said[-2000:])
    return f"{count} actions with wishes by chance, the longest {slowest:.1f} s"


def _drawn(model: type, share: float, drawn: Random) -> dict[str, str]:
    """Some fields of a form, filled with whatever there is."""
    form = {}
    for name, field in model.model_fields.items():  # type: ignore[attr-defined]
        if drawn.random() > share or name == "piece":
            continue
        kind = str(field.annotation)
        known = [each for each in typing.get_args(field.annotation) if isinstance(each, str)]
        if "int" in kind and drawn.random() < 0.9:
            form[name] = drawn.choice(_NUMBERS)
        elif "bool" in kind and drawn.random() < 0.9:
            form[name] = drawn.choice(("true", "false"))
        else:
            form[name] = drawn.choice(known if known and drawn.random() < 0.8 else _TEXTS)
    return form
