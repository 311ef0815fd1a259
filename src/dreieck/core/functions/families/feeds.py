"""Functions that give outside figures."""

from __future__ import annotations

from collections.abc import Mapping

from dreieck.core.functions.registry import Failure, function
from dreieck.core.sheet.feed import Feed, is_code
from dreieck.core.values import NA, VALUE


@function("FEED")
def _feed(feeds: Mapping[str, Feed], code: str) -> float:
    if not is_code(code):
        raise Failure(VALUE, "The code of a feed has letters, digits, dots and dashes.")
    feed = feeds.get(code.casefold())
    if feed is None or feed.last is None:
        why = feed.problem if feed and feed.problem else "Refresh it on the page of feeds."
        raise Failure(NA, f"No figure of the feed “{code}” is known. {why}")
    return feed.last.value
