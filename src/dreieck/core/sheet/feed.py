"""Feeds: outside figures by code, with what they were and when."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

MAX_FEEDS = 100
"""How many feeds a workbook can have."""
MAX_READINGS = 200
"""So many figures of a feed are remembered, the last ones."""
MAX_CODE = 80
OLD = timedelta(days=3)
"""A figure that is older than this is old."""
_CODE = re.compile(r"[\w.-]+(:[\w.-]+)?")


@dataclass(frozen=True, slots=True)
class Reading:
    """A figure as it was: when it was so, and who told it."""

    value: float
    at: str
    source: str


@dataclass(frozen=True, slots=True)
class Feed:
    """An outside figure: its code, its readings, the last one at the end, and a problem.

    The problem says what was wrong when it was asked for last; empty if nothing was.
    """

    code: str
    readings: tuple[Reading, ...] = ()
    problem: str = ""

    @property
    def key(self) -> str:
        """The code without case."""
        return self.code.casefold()

    @property
    def last(self) -> Reading | None:
        """The last figure that is known."""
        return self.readings[-1] if self.readings else None

    def told(self, reading: Reading) -> Feed:
        """The feed after another figure was told."""
        last = self.last
        if last and (last.value, last.at) == (reading.value, reading.at):
            return replace(self, problem="")
        readings = (*self.readings, reading)[-MAX_READINGS:]
        return Feed(self.code, readings, "")

    def failed(self, problem: str) -> Feed:
        """The feed after no figure, or a wrong one, was told: the last one that is known stays."""
        return replace(self, problem=problem)

    def age(self, now: datetime) -> timedelta | None:
        """How old the last figure is; None where there is none, or its time cannot be read."""
        if self.last is None:
            return None
        try:
            at = datetime.fromisoformat(self.last.at)
        except ValueError:
            return None
        return now - (at if at.tzinfo else at.replace(tzinfo=UTC))

    def is_old(self, now: datetime | None = None) -> bool:
        """Whether the last figure is old: it could not be asked for again, or long ago was."""
        age = self.age(now or datetime.now(UTC))
        return bool(self.problem) or age is None or age > OLD


def is_code(text: str) -> bool:
    """Whether a text can be the code of a feed: ``fuel``, or ``valley:fuel`` with its source."""
    return len(text) <= MAX_CODE and bool(_CODE.fullmatch(text))
