"""Feeds as JSON, and back."""

from __future__ import annotations

from typing import Any

from dreieck.core.sheet.feed import Feed, Reading


def feed_said(feed: Feed | None) -> dict[str, Any] | None:
    """A feed as JSON says it."""
    if feed is None:
        return None
    readings = [[each.value, each.at, each.source] for each in feed.readings]
    return {"code": feed.code, "readings": readings, "problem": feed.problem}


def feed_of(said: dict[str, Any] | None) -> Feed | None:
    """The feed that ``feed_said`` said."""
    if said is None:
        return None
    readings = (Reading(float(value), str(at), str(by)) for value, at, by in said["readings"])
    return Feed(str(said["code"]), tuple(readings), str(said["problem"]))
