"""Rows or columns that follow each other, and where a coordinate goes when they come or go."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.grid.address import LAST, Axis, column_letters
from dreieck.core.grid.area import EVERYWHERE, Area


@dataclass(frozen=True, slots=True)
class Lines:
    """Rows or columns of a sheet, counted from 1."""

    axis: Axis
    first: int
    count: int

    @classmethod
    def between(cls, axis: Axis, first: int, last: int) -> Lines:
        """The lines from one to another, both included."""
        return cls(axis, first, last - first + 1)

    @property
    def last(self) -> int:
        """The last one."""
        return self.first + self.count - 1

    @property
    def limit(self) -> int:
        """The number of the last row or column of a sheet."""
        return LAST[self.axis]

    @property
    def area(self) -> Area:
        """All cells of them."""
        return EVERYWHERE.spanning(self.axis, self.first, self.last)

    @property
    def text(self) -> str:
        """What they are called, such as ``rows 5 to 7`` or ``column C``."""
        ends = [self.first, self.last] if self.count > 1 else [self.first]
        numbers = [str(end) if self.axis == "row" else column_letters(end) for end in ends]
        return f"{self.axis}{'s' * (self.count > 1)} {' to '.join(numbers)}"


@dataclass(frozen=True, slots=True)
class LineMove:
    """Lines that move to where the line ``before`` stands; those between make room.

    ``before`` is none of them, nor the one behind them.
    """

    lines: Lines
    before: int

    @property
    def edges(self) -> frozenset[int]:
        """The coordinates from which on another rule holds."""
        borders = (self.lines.first, self.lines.last + 1, self.before)
        return frozenset(border + near for border in borders for near in (-1, 0, 1))

    @property
    def stops(self) -> range:
        """Where an end of a range stays while the other one moves: what leaves the range."""
        return range(self.lines.first, self.lines.last + 1)

    @property
    def first(self) -> int:
        """The first of the lines where they stand afterwards."""
        return self.before if self.before < self.lines.first else self.before - self.lines.count

    def where(self, at: int) -> int:
        """Where a coordinate stands afterwards."""
        lines = self.lines
        if lines.first <= at <= lines.last:
            return at + self.first - lines.first
        if self.before <= at < lines.first:
            return at + lines.count
        return at - lines.count if lines.last < at < self.before else at

    def area(self, area: Area) -> Area:
        """Where an area stands afterwards."""
        axis = self.lines.axis
        return area.spanning(axis, *self.span(*area.on(axis)))

    def span(self, low: int, high: int) -> tuple[int, int]:
        """Where a range stands afterwards.

        It has the same lines if they still follow each other. Otherwise those that move leave
        it, and what moves between its other lines comes to it.
        """
        ends = {low, high} | {at for at in self.edges if low <= at <= high}
        there = [self.where(at) for at in ends]
        if max(there) - min(there) == high - low:
            return min(there), max(there)
        lines = self.lines
        kept = {at for at in ends if not lines.first <= at <= lines.last}
        there = [self.where(at) for at in kept]
        return min(there), max(there)


@dataclass(frozen=True, slots=True)
class LineChange:
    """Lines that come or go, as seen by the coordinates on their axis."""

    lines: Lines
    comes: bool

    @property
    def beyond(self) -> int:
        """The first coordinate that moves."""
        return self.lines.first if self.comes else self.lines.last + 1

    @property
    def steps(self) -> int:
        """By how much the coordinates from ``beyond`` on move."""
        return self.lines.count if self.comes else -self.lines.count

    @property
    def edges(self) -> frozenset[int]:
        """The coordinates from which on another rule holds."""
        lines = self.lines
        pushed = lines.limit - lines.count + 1
        return frozenset({lines.first, lines.last + 1, pushed, lines.limit, lines.limit + 1})

    @property
    def stops(self) -> range:
        """Where an end of a range stays while the other one moves: what goes, or falls off."""
        lines = self.lines
        if self.comes:
            return range(lines.limit - lines.count + 1, lines.limit + 1)
        return range(lines.first, lines.last + 1)

    def where(self, at: int) -> int | None:
        """Where a coordinate stands afterwards; None where it is gone."""
        if at >= self.beyond:
            return at + self.steps if at + self.steps <= self.lines.limit else None
        return at if at < self.lines.first else None

    def area(self, area: Area) -> Area | None:
        """Where an area stands afterwards; None where all of it is gone."""
        axis = self.lines.axis
        span = self.span(*area.on(axis))
        return area.spanning(axis, *span) if span else None

    def span(self, low: int, high: int) -> tuple[int, int] | None:
        """Where a range from ``low`` to ``high`` stands afterwards; None where all of it is gone.

        A range to the very end of the sheet still ends there.
        """
        first = self.where(low)
        if first is None:
            first = self.lines.limit + 1 if self.comes else self.lines.first
        if high == self.lines.limit:
            last: int | None = high
        elif self.comes and self.where(high) is None:
            last = self.lines.limit
        else:
            last = self.where(high)
        if last is None:
            last = self.lines.first - 1
        return (first, last) if first <= last else None
