"""Asking the sources of outside figures; only those that the settings list are ever asked."""

from __future__ import annotations

import json
import logging
import math
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor, wait
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from http.client import HTTPConnection, HTTPException, HTTPSConnection
from socket import SHUT_RDWR
from threading import Event, Timer
from typing import Any
from urllib.parse import quote, urlsplit

from dreieck.core.sheet.feed import MAX_FEEDS, Reading, is_code

log = logging.getLogger("dreieck")

SECONDS = 2.5
"""So long a source may take, from the first word to the last, and so all of them together."""
MAX_ANSWER = 65_536
_AT_ONCE = MAX_FEEDS
_GRACE = 0.3
_AHEAD = timedelta(days=1)


class Unanswered(Exception):
    """Raised where no figure came; the text says why."""


def asked(sources: Mapping[str, str], codes: Mapping[str, str]) -> dict[str, Reading | str]:
    """What the sources tell for codes, by their keys: a reading, or what was wrong in words."""
    pool = ThreadPoolExecutor(_AT_ONCE)
    coming = {key: pool.submit(answer, sources, code) for key, code in codes.items()}
    wait(coming.values(), timeout=SECONDS + _GRACE)
    pool.shutdown(wait=False, cancel_futures=True)
    late = f"The source did not answer within {SECONDS:g} seconds."
    return {
        key: each.result() if each.done() and not each.cancelled() else late
        for key, each in coming.items()
    }


def answer(sources: Mapping[str, str], code: str) -> Reading | str:
    """What a source tells for one code: a reading, or what was wrong."""
    name = ""
    try:
        name, address, figure = _source(sources, code)
        return _reading(_got(name, address, figure), name)
    except Unanswered as why:
        return str(why)
    except Exception:
        # What one source answers, whatever it is, does not end what is asked of the others.
        log.exception("the answer of %s to %s", name, code)
        return f"{name} answered with something that is no figure."


def _source(sources: Mapping[str, str], code: str) -> tuple[str, str, str]:
    """The name and address of the source of a code, and the figure that it is asked for."""
    if not sources:
        raise Unanswered("No source is listed in the settings (DREIECK_SOURCES).")
    if not is_code(code):
        raise Unanswered(f"“{code[:60]}” is no code of a feed.")
    name, colon, figure = code.partition(":")
    if not colon:
        name, figure = next(iter(sources)), code
    known = {each.casefold(): each for each in sources}
    if name.casefold() not in known:
        raise Unanswered(f"There is no source “{name}” in the settings; only those are asked.")
    name = known[name.casefold()]
    return name, sources[name], figure


def _got(name: str, address: str, figure: str) -> Any:
    """The answer of a source as JSON. Raises Unanswered."""
    if urlsplit(address).scheme not in ("http", "https"):
        raise Unanswered(f"The address of {name} in the settings is none of the web.")
    told = urlsplit(address)
    kind = HTTPSConnection if told.scheme == "https" else HTTPConnection
    # Neither proxies nor redirects lead elsewhere.
    connection = kind(told.hostname or "", told.port, timeout=SECONDS)
    late = Event()
    timer = Timer(SECONDS, _cut, (connection, late))
    timer.start()
    try:
        path = f"{told.path.rstrip('/')}/figures/{quote(figure, safe='')}"
        connection.request("GET", path, headers={"Connection": "close"})
        response = connection.getresponse()
        if response.status != 200:
            raise Unanswered(f"{name} answered with {response.status} instead of a figure.")
        data = response.read(MAX_ANSWER + 1)
    except (OSError, HTTPException) as error:
        if late.is_set() or isinstance(error, TimeoutError):
            raise Unanswered(f"{name} did not answer within {SECONDS:g} seconds.") from None
        raise Unanswered(f"{name} cannot be reached.") from None
    finally:
        timer.cancel()
        connection.close()
    if late.is_set():
        raise Unanswered(f"{name} did not answer within {SECONDS:g} seconds.")
    if len(data) > MAX_ANSWER:
        raise Unanswered(f"{name} answered with more than a figure.")
    try:
        return json.loads(data)
    except (ValueError, RecursionError):
        raise Unanswered(f"{name} answered with something that is no figure.") from None


def _cut(connection: HTTPConnection, late: Event) -> None:
    """End a request whose time is up, also one whose answer comes drop by drop."""
    late.set()
    with suppress(OSError):
        if connection.sock:
            connection.sock.shutdown(SHUT_RDWR)


def _reading(said: Any, source: str) -> Reading:
    """The figure of an answer, distrusted. Raises Unanswered."""
    if not isinstance(said, dict):
        raise Unanswered(f"{source} answered with something that is no figure.")
    value, at = said.get("value"), said.get("at")
    number = _number(value)
    if number is None:
        raise Unanswered(f"{source} answered with {_short(value)}, which is no number.")
    try:
        moment = datetime.fromisoformat(str(at))
        moment = (moment if moment.tzinfo else moment.replace(tzinfo=UTC)).astimezone(UTC)
    except (ValueError, OverflowError):
        raise Unanswered(f"{source} did not say of when its figure is.") from None
    if moment > datetime.now(UTC) + _AHEAD:
        raise Unanswered(f"{source} answered with a figure of {_short(at)}, which is yet to come.")
    return Reading(number, moment.isoformat(timespec="seconds"), source)


def _number(value: object) -> float | None:
    """A number that a calculation can use; None for anything else."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        return None
    try:
        number = float(value)
    except OverflowError:
        return None
    return number if math.isfinite(number) else None


def _short(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 40 else text[:40] + "…"
