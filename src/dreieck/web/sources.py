"""Asking the sources of outside figures; only those that the settings list are ever asked."""

from __future__ import annotations

import json
import math
import time
from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor, wait
from datetime import UTC, datetime, timedelta
from http.client import HTTPException
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.parse import quote, urlsplit
from urllib.request import HTTPHandler, HTTPSHandler, OpenerDirector, Request

from dreieck.core.sheet.feed import Reading, is_code

SECONDS = 2.5
"""So long a source may take."""
MAX_ANSWER = 65_536
_AT_ONCE = 50
_PART = 8_192
_AHEAD = timedelta(days=1)


class Unanswered(Exception):
    """Raised where no figure came; the text says why."""


def asked(sources: Mapping[str, str], codes: Mapping[str, str]) -> dict[str, Reading | str]:
    """What the sources tell for codes, by their keys: a reading, or what was wrong in words."""
    pool = ThreadPoolExecutor(_AT_ONCE)
    coming = {key: pool.submit(answer, sources, code) for key, code in codes.items()}
    wait(coming.values(), timeout=2 * SECONDS)
    pool.shutdown(wait=False, cancel_futures=True)
    late = f"The source did not answer within {2 * SECONDS:g} seconds."
    return {
        key: each.result() if each.done() and not each.cancelled() else late
        for key, each in coming.items()
    }


def answer(sources: Mapping[str, str], code: str) -> Reading | str:
    """What a source tells for one code: a reading, or what was wrong."""
    try:
        name, address, figure = _source(sources, code)
        return _reading(_got(name, address, figure), name)
    except Unanswered as why:
        return str(why)


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
    ends = time.monotonic() + SECONDS
    # Neither proxies nor redirects lead elsewhere.
    opener = OpenerDirector()
    opener.add_handler(HTTPHandler())
    opener.add_handler(HTTPSHandler())
    request = Request(f"{address.rstrip('/')}/figures/{quote(figure, safe='')}")
    try:
        with opener.open(request, timeout=SECONDS) as response:
            if response.status != 200:
                raise Unanswered(f"{name} answered with {response.status} instead of a figure.")
            data = b""
            while len(data) <= MAX_ANSWER and (part := response.read1(_PART)):
                data += part
                if time.monotonic() > ends:
                    raise TimeoutError
    except TimeoutError:
        raise Unanswered(f"{name} did not answer within {SECONDS:g} seconds.") from None
    except HTTPError as error:
        raise Unanswered(f"{name} answered with {error.code} instead of a figure.") from None
    except (OSError, URLError, HTTPException) as error:
        slow = isinstance(getattr(error, "reason", None), TimeoutError)
        why = "did not answer in time" if slow else "cannot be reached"
        raise Unanswered(f"{name} {why}.") from None
    if len(data) > MAX_ANSWER:
        raise Unanswered(f"{name} answered with more than a figure.")
    try:
        return json.loads(data)
    except ValueError:
        raise Unanswered(f"{name} answered with something that is no figure.") from None


def _reading(said: Any, source: str) -> Reading:
    """The figure of an answer, distrusted. Raises Unanswered."""
    if not isinstance(said, dict):
        raise Unanswered(f"{source} answered with something that is no figure.")
    value, at = said.get("value"), said.get("at")
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise Unanswered(f"{source} answered with {_short(value)}, which is no number.")
    try:
        moment = datetime.fromisoformat(str(at))
    except ValueError:
        raise Unanswered(f"{source} did not say of when its figure is.") from None
    if moment.tzinfo is None:
        moment = moment.replace(tzinfo=UTC)
    if moment > datetime.now(UTC) + _AHEAD:
        raise Unanswered(f"{source} answered with a figure of {_short(at)}, which is yet to come.")
    moment = moment.astimezone(UTC)
    return Reading(float(value), moment.isoformat(timespec="seconds"), source)


def _short(value: object) -> str:
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 40 else text[:40] + "…"
