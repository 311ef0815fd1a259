"""Whose turn it is: no request may hold up the server, another workbook, or itself for ever.

A body is taken in whole, within bounds, before anything is done with it. Requests to one workbook
go one after the other; those that wait cost a task, no thread. Each has a budget that ends its
work after some seconds, or as soon as its client has gone, and only a few that take long work at
once, so that short ones find the processor free.
"""

from __future__ import annotations

import asyncio
import math
import re
import time
from collections.abc import Callable, Iterator
from contextlib import ExitStack, contextmanager
from threading import BoundedSemaphore
from typing import TypeVar
from weakref import WeakValueDictionary

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dreieck.core.budget import Budget, WorkEnded, current, working
from dreieck.files.zipped import MAX_FILE
from dreieck.web.bodies import Arrivals, Body, TooManyError, handed_out, taken_in
from dreieck.web.refusing import refuse

LONGEST = 10.0
"""After so many seconds work for a request ends."""
DRAWING = 1.0
"""So many seconds of that may go into values that a page shows; the page asks for the rest."""
AT_WORK = 0.15
"""And so many of the processor's own, which others that are at work do not make longer."""
PATIENT = 6.0
"""So many when the page asks for the rest and nobody's hands wait for it."""
MAX_BODY = 2_000_000
"""How many bytes a request can have."""
MAX_PASTE = 12_000_000
"""How many bytes a paste can have."""
MAX_UPLOAD = MAX_FILE + 100_000
"""How many bytes a request can have that brings a file."""
Answer = TypeVar("Answer")
_SLOWEST_BODY = 20.0
_SHORT = 0.2
_PATIENCE = 0.1
_AT_ONCE = 16
# Who waits for others, and holds the workbook only for a moment, keeps nobody waiting.
_WORKBOOK = re.compile(r"/workbooks/(\d{1,19})/(?!(news|feeds/refresh)$)")
_TOO_MANY = "Many files are on their way in just now; nothing of this one was taken. Try it again."
_TOO_LONG = (
    f"This took longer than {LONGEST:.0f} seconds, so it was ended; nothing that was kept is lost."
    " Try it with less at once."
)


def max_body(path: str) -> int:
    """How many bytes a request to a path can have."""
    if path == "/files" or path.startswith("/api/v1/files"):
        return MAX_UPLOAD
    return MAX_PASTE if path.endswith(("/act/paste", "/act/paste-as")) else MAX_BODY


class Lanes:
    """How many requests that take long may work at the same time."""

    def __init__(self, count: int) -> None:
        self.free = BoundedSemaphore(count)


class RequestBudget(Budget):
    """The work for one request: it ends by the clock, or when the client has gone."""

    def __init__(self, lanes: Lanes) -> None:
        super().__init__()
        self.gone = False
        self._lanes = lanes
        self._begun = time.monotonic()
        self.ends = self._begun + LONGEST
        self.work_ends = math.inf
        """When the work ends by the processor's time in this thread."""
        self._in_lane = False

    def watch(self) -> None:
        """End the work where its time is up; after a short while wait for a lane."""
        now = time.monotonic()
        while now - self._begun > _SHORT and not self._in_lane:
            self._check(now)
            self._in_lane = self._lanes.free.acquire(timeout=_PATIENCE)
            now = time.monotonic()
        self._check(now)

    def go_on(self) -> None:
        """The answer goes out bit by bit: it may take long, and lets others work between."""
        self._begun = self.ends = math.inf

    def leave(self) -> None:
        """Let others have the lane."""
        if self._in_lane:
            self._in_lane = False
            self._lanes.free.release()

    def _check(self, now: float) -> None:
        if self.gone:
            raise WorkEnded("Nobody waits for this any more.")
        if now > self.ends or time.thread_time() > self.work_ends:
            raise WorkEnded(_TOO_LONG, by_clock=True)


@contextmanager
def time_for_drawing(*, patient: bool = False) -> Iterator[None]:
    """Give the work inside no more time than a page may take to be drawn."""
    budget = current()
    if not isinstance(budget, RequestBudget):
        yield
        return
    seconds = PATIENT if patient else DRAWING
    before, budget.ends = budget.ends, min(budget.ends, time.monotonic() + seconds)
    budget.work_ends = math.inf if patient else time.thread_time() + AT_WORK
    try:
        yield
    finally:
        budget.ends, budget.work_ends = before, math.inf


@contextmanager
def in_a_hurry() -> Iterator[None]:
    """Let values that are not known count as unfinished inside."""
    budget = current()
    budget.hurried = True
    if isinstance(budget, RequestBudget):
        budget.ends = max(budget.ends, time.monotonic() + DRAWING)
    try:
        yield
    finally:
        budget.hurried = False


def in_time(draw: Callable[[], Answer]) -> Answer:
    """What is drawn; where that takes too long, with the values that are known by then."""
    try:
        with time_for_drawing(patient=True):
            return draw()
    except WorkEnded as ended:
        if not ended.by_clock:
            raise
    with in_a_hurry():
        return draw()


class Turns:
    """Lets requests in when their turn has come."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._queues: WeakValueDictionary[str, asyncio.Lock] = WeakValueDictionary()
        self._others = asyncio.Semaphore(_AT_ONCE)
        self._arrivals = Arrivals()
        self._lanes = {"workbook": Lanes(2), "other": Lanes(1)}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Serve one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        told = Headers(scope=scope).get("content-length", "")
        try:
            coming = self._arrivals.begin(scope, int(told) if told.isdecimal() else 0)
        except TooManyError:
            await refuse(scope, send, 503, _TOO_MANY)
            return
        with coming:
            body = await _taken_in(scope, receive, send)
            if body:
                with body:
                    await self._answered(scope, receive, send, body)

    async def _answered(self, scope: Scope, receive: Receive, send: Send, body: Body) -> None:
        match = _WORKBOOK.match(scope["path"])
        budget = RequestBudget(self._lanes["workbook" if match else "other"])
        listening = asyncio.create_task(_listen(receive, budget))
        try:
            async with asyncio.timeout(LONGEST):
                turn = await self._turn(scope["path"], match, budget)
        except TimeoutError:
            listening.cancel()
            await refuse(scope, send, 503, "The server is busy with other work; try it again.")
            return

        async def answer(message: Message) -> None:
            # Who reads an answer slowly keeps nobody waiting.
            turn.close()
            await send(message)

        try:
            with turn, working(budget):
                await self.app(scope, handed_out(body, listening), answer)
        finally:
            listening.cancel()
            budget.leave()

    async def _turn(
        self, path: str, match: re.Match[str] | None, budget: RequestBudget
    ) -> ExitStack:
        """Wait for the turn of a request; closing it lets the next one in."""
        turn = ExitStack()
        turn.callback(budget.leave)
        if match:
            queue = self._queues.setdefault(match[1], asyncio.Lock())
            await queue.acquire()
            turn.callback(queue.release)
        elif path.startswith("/api/") or path == "/four-ways":
            await self._others.acquire()
            turn.callback(self._others.release)
        return turn


async def _taken_in(scope: Scope, receive: Receive, send: Send) -> Body | None:
    """The body of a request; None where it was refused."""
    limit = max_body(scope["path"])
    try:
        async with asyncio.timeout(_SLOWEST_BODY):
            body = await taken_in(receive, limit)
    except TimeoutError:
        await refuse(scope, send, 408, "The request did not arrive in time.")
        return None
    except OSError as error:
        said = f"The request cannot be held here: {error.strerror}. Nothing was changed."
        await refuse(scope, send, 503, said)
        return None
    if body is None:
        await refuse(scope, send, 413, f"A request can have {limit:,} bytes here.")
    return body


async def _listen(receive: Receive, budget: RequestBudget) -> None:
    """Tell the budget when the client has gone."""
    while (await receive())["type"] != "http.disconnect":
        pass
    budget.gone = True
