"""Who may come in where Dreieck is served beyond its own machine: those who have its key.

Opening the address that holds the key signs a browser in by a signed cookie; scripts send the key
as ``Authorization: Bearer``. After a few wrong tries a client has to wait before the next one.
"""

from __future__ import annotations

import hmac
import math
import re
import time
from collections import OrderedDict
from threading import Lock
from typing import Annotated

from fastapi import APIRouter, Form, Request
from itsdangerous import TimestampSigner
from starlette.datastructures import Headers
from starlette.requests import HTTPConnection
from starlette.responses import RedirectResponse, Response
from starlette.types import ASGIApp, Receive, Scope, Send

from dreieck.web.answers import page
from dreieck.web.cookies import give, unsigned
from dreieck.web.refusing import refuse

router = APIRouter(include_in_schema=False)

COOKIE = "dreieck_key"
MAX_AGE = 30 * 24 * 3600
"""So many seconds a browser stays signed in."""
_FREE_TRIES = 3
_FIRST_PAUSE, _LONGEST_PAUSE = 1.0, 60.0
"""So many seconds one waits after the first try too many, and at the most."""
_FORGOTTEN = 3_600.0
"""After so many seconds without a try all begin anew."""
_MAX_CLIENTS = 20_000
_OPEN = re.compile(r"/(key(/.*)?|static/.*|healthz)")
_TARGET = re.compile(r"/workbooks/\d{1,19}")
_SAID = (
    "This Dreieck is open to those who have its key. Open the address that it printed when it was"
    " started, or type the key here; scripts send it as “Authorization: Bearer” with the key."
)


class Tries:
    """Tries by who makes them; each one after the first few doubles the pause before the next.

    A try is counted before it is known whether it is right, so that many at once are no way round.
    """

    def __init__(self, free: int = _FREE_TRIES) -> None:
        self._free = free
        self._lock = Lock()
        self._counted: OrderedDict[str, tuple[int, float]] = OrderedDict()

    def begin(self, who: str) -> float:
        """Count a try; one that comes too early is not counted, and so many seconds are left."""
        with self._lock:
            if pause := self.pause(who):
                return pause
            now = time.monotonic()
            count, last = self._counted.get(who, (0, now))
            self._counted[who] = (count + 1 if now - last < _FORGOTTEN else 1, now)
            self._counted.move_to_end(who)
            if len(self._counted) > _MAX_CLIENTS:
                self._counted.popitem(last=False)
            return 0.0

    def pause(self, who: str) -> float:
        """So many seconds until the next try; it is not counted."""
        count, last = self._counted.get(who, (0, 0.0))
        if count < self._free:
            return 0.0
        pause = min(_FIRST_PAUSE * 2.0 ** min(count - self._free, 10), _LONGEST_PAUSE)
        return max(last + pause - time.monotonic(), 0.0)

    def give_back(self, who: str) -> None:
        """One try was right, or was not made; those before it count on."""
        with self._lock:
            count, last = self._counted.get(who, (0, 0.0))
            if count > 1:
                self._counted[who] = (count - 1, last)
            else:
                self._counted.pop(who, None)

    def forget(self, who: str) -> None:
        """All tries of somebody are over: a right one ends them."""
        with self._lock:
            self._counted.pop(who, None)


class Keyring:
    """The key, and who showed it. Without a key everybody may come in."""

    def __init__(self, key: str) -> None:
        self.key = key
        self.tries = Tries()
        self._signer = TimestampSigner(key, salt="signed in") if key else None

    def fits(self, tried: str) -> bool:
        """Whether a key is the right one."""
        return hmac.compare_digest(tried.encode("utf-8", "replace"), self.key.encode())

    def cookie(self) -> str:
        """What a browser keeps that is signed in."""
        assert self._signer is not None
        return self._signer.sign("in").decode()

    def knows(self, cookie: str) -> bool:
        """Whether a cookie is one that was given."""
        assert self._signer is not None
        return unsigned(self._signer, cookie, MAX_AGE) is not None


class Gate:
    """Lets those in who showed the key, and answers 401 to all others."""

    def __init__(self, app: ASGIApp, keyring: Keyring) -> None:
        self.app = app
        self.keyring = keyring

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http" or self._may_pass(scope):
            await self.app(scope, receive, send)
        elif pause := self.keyring.tries.pause(client_of(HTTPConnection(scope))):
            await refuse(scope, send, 429, wait_said(pause))
        else:
            await refuse(scope, send, 401, _SAID, template="key.html")

    def _may_pass(self, scope: Scope) -> bool:
        if not self.keyring.key or _OPEN.fullmatch(scope["path"]):
            return True
        connection = HTTPConnection(scope)
        if self.keyring.knows(connection.cookies.get(COOKIE, "")):
            return True
        kind, _, tried = Headers(scope=scope).get("authorization", "").partition(" ")
        if kind.lower() != "bearer":
            return False
        tries, client = self.keyring.tries, client_of(connection)
        if tries.begin(client) or not self.keyring.fits(tried.strip()):
            return False
        tries.give_back(client)
        return True


@router.get("/key/{key}")
def sign_in(request: Request, key: str, to: str = "/") -> Response:
    """Sign a browser in by the address that Dreieck printed."""
    return _signed_in(request, key, to)


@router.post("/key")
def sign_in_typed(request: Request, key: Annotated[str, Form(max_length=200)] = "") -> Response:
    """Sign a browser in by a key that was typed."""
    return _signed_in(request, key.strip(), "/")


def _signed_in(request: Request, key: str, to: str) -> Response:
    keyring: Keyring = request.app.state.keyring
    target = to if _TARGET.fullmatch(to) else "/"
    if not keyring.key:
        return RedirectResponse(target, 303)
    client = client_of(request)
    if pause := keyring.tries.begin(client):
        return page(request, "key.html", status_code=429, said=wait_said(pause))
    if not keyring.fits(key):
        return page(request, "key.html", status_code=401, said=f"This key is not right. {_SAID}")
    keyring.tries.give_back(client)
    answer = RedirectResponse(target, 303)
    give(request, answer, COOKIE, keyring.cookie(), MAX_AGE)
    return answer


def client_of(connection: HTTPConnection) -> str:
    """From which address somebody asks."""
    return connection.client.host if connection.client else ""


def wait_said(pause: float) -> str:
    """What somebody is told who tried too often."""
    return f"There were too many tries. Wait {math.ceil(pause)} seconds, then try again."
