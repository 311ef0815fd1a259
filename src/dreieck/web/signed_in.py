"""Who is signed in, where several people use one server: told by a signed cookie."""

from __future__ import annotations

import re
from urllib.parse import quote

from itsdangerous import TimestampSigner
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import HTTPConnection
from starlette.responses import RedirectResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dreieck.store import People, Person, Sessions
from dreieck.web.cookies import unsigned
from dreieck.web.refusing import refuse

COOKIE = "dreieck_person"
MAX_AGE = 30 * 24 * 3600
"""So many seconds one stays signed in."""
_OPEN = re.compile(r"/(sign-in|sign-up|key(/.*)?|static/.*|healthz)")
_SAID = "Sign in first: this Dreieck keeps the workbooks of several people apart."


def cookie_of(people: People, token: str) -> str:
    """What a browser keeps that is signed in: the token of its session, signed."""
    return TimestampSigner(people.cookie_key, salt="person").sign(token).decode()


def token_in(people: People, cookie: str) -> str | None:
    """The token of a cookie; None where it is not one that was given, or is too old."""
    return unsigned(TimestampSigner(people.cookie_key, salt="person"), cookie, MAX_AGE)


def known(people: People, sessions: Sessions, cookie: str) -> Person | None:
    """Who is signed in with a cookie; None where its session has ended, or never was."""
    token = token_in(people, cookie)
    number = sessions.who(token) if token else None
    return people.person(number) if number else None


class SignedIn:
    """Lets those in who are signed in, tells who they are, and leads all others to the page."""

    def __init__(self, app: ASGIApp, people: People, sessions: Sessions) -> None:
        self.app = app
        self.people = people
        self.sessions = sessions

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        person = known(self.people, self.sessions, HTTPConnection(scope).cookies.get(COOKIE, ""))
        if person:
            scope.setdefault("state", {})["person"] = person
        elif not _OPEN.fullmatch(scope["path"]):
            if scope["method"] == "GET" and "text/html" in Headers(scope=scope).get("accept", ""):
                await self._ask(scope, receive, send)
            else:
                await refuse(scope, send, 401, _SAID)
            return

        async def send_own(message: Message) -> None:
            if message["type"] == "http.response.start":
                # What belongs to one person is not shown to the next one by the way back.
                MutableHeaders(scope=message).setdefault("Cache-Control", "no-store")
            await send(message)

        await self.app(scope, receive, send_own)

    async def _ask(self, scope: Scope, receive: Receive, send: Send) -> None:
        wanted = scope["path"]
        if scope["query_string"]:
            wanted += "?" + scope["query_string"].decode("latin-1")
        await RedirectResponse(f"/sign-in?to={quote(wanted)}", 303)(scope, receive, send)
