"""The bodies of requests: taken in whole within bounds, large ones on the disk, and handed on.

Those of files may be large. So many may come at once of one who asks, and of all together; who
begins one more is told to try it again, before anything of it is taken in.
"""

from __future__ import annotations

import asyncio
from collections import Counter
from contextlib import ExitStack
from tempfile import SpooledTemporaryFile

from starlette.requests import HTTPConnection
from starlette.types import Message, Receive, Scope

LARGE = 1_000_000
"""A body of more bytes is held on the disk, and counts among those of which few come at once."""
OF_ONE = 4
"""So many large bodies may come at once of one who asks."""
OF_ALL = 16
"""And so many of all together."""
_PART = 65_536

Body = SpooledTemporaryFile[bytes]


class TooManyError(Exception):
    """More large bodies are on their way than may be."""


class Arrivals:
    """The large bodies on their way in, by who sends them."""

    def __init__(self) -> None:
        self._coming: Counter[str] = Counter()

    def begin(self, scope: Scope, size: int) -> ExitStack:
        """A body of so many bytes comes, until what is given is closed. Raises TooManyError."""
        ends = ExitStack()
        if size > LARGE:
            who = _who(scope)
            if self._coming[who] >= OF_ONE or self._coming.total() >= OF_ALL:
                raise TooManyError
            self._coming[who] += 1
            ends.callback(self._end, who)
        return ends

    def _end(self, who: str) -> None:
        self._coming[who] -= 1
        if not self._coming[who]:
            del self._coming[who]


def _who(scope: Scope) -> str:
    person = scope.get("state", {}).get("person")
    client = HTTPConnection(scope).client
    return f"person {person.id}" if person else f"address {client.host if client else ''}"


async def taken_in(receive: Receive, limit: int) -> Body | None:
    """The body of a request, None where it is longer than it may be or breaks off.

    Raises OSError where there is no room for it.
    """
    with ExitStack() as given_up:
        body: Body = given_up.enter_context(SpooledTemporaryFile(max_size=LARGE))
        size = 0
        while (message := await receive())["type"] != "http.disconnect":
            part = message.get("body", b"")
            size += len(part)
            if size > limit:
                break
            body.write(part)
            if not message.get("more_body", False):
                body.seek(0)
                given_up.pop_all()
                return body
    return None


def handed_out(body: Body, listening: asyncio.Task[None]) -> Receive:
    """Hand out a body in parts, so that others have a turn between; then wait for the end."""
    ended = False

    async def receive() -> Message:
        nonlocal ended
        if not ended:
            await asyncio.sleep(0)
            part = body.read(_PART)
            ended = len(part) < _PART
            return {"type": "http.request", "body": part, "more_body": not ended}
        await asyncio.wait([listening])
        return {"type": "http.disconnect"}

    return receive
