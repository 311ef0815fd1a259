"""Feeds in words: what is known of them, and how old it is."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.editing.feeding import codes_in
from dreieck.core.formula import Shape
from dreieck.core.sheet.feed import Feed
from dreieck.core.values import number_text
from dreieck.web.workbench.situation import Situation


@dataclass(frozen=True)
class FeedShown:
    """A feed: its code, its last figure, of when and from where, its state and its problem."""

    key: str
    code: str
    value: str
    at: str
    source: str
    state: str
    problem: str


def feed_shown(feed: Feed) -> FeedShown:
    """A feed as pages show it."""
    last = feed.last
    state = "missing" if last is None else "old" if feed.is_old() else "fresh"
    return FeedShown(
        feed.key,
        feed.code,
        number_text(last.value) if last else "–",
        moment(last.at) if last else "",
        last.source if last else "",
        state,
        feed.problem,
    )


def moment(at: str) -> str:
    """A moment as pages show it."""
    return at[:16].replace("T", " ")


def feeds_here(situation: Situation) -> list[FeedShown]:
    """The feeds that the formula in question uses, itself or by a name."""
    shapes: list[Shape] = [situation.shape] if situation.shape else []
    shapes += [named.shape for named in situation.names]
    return [feed_shown(situation.workbook.feed(code)) for code in codes_in(*shapes)]
