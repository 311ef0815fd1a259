"""Totals of ranges that grow: a running total costs one step a row, not one sum a row.

``SUM(B$4:B4)`` filled down reads a range that keeps its first row and grows at the end. Its
total is the one of the row above and one number more. Sums are kept exactly, as floats that
do not overlap (Shewchuk's method, which ``math.fsum`` uses too), so that the result is the
same however it was reached.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field

from dreieck.core.address import Area
from dreieck.core.values import Error, Value

MOST = 10_000
"""How many ranges are remembered; windows that slide would fill the memory otherwise."""


@dataclass(slots=True)
class Total:
    """What the numbers of a range come to; ``error`` is the first one that is met."""

    count: int = 0
    filled: int = 0
    low: float = math.inf
    high: float = -math.inf
    error: Error | None = None
    parts: list[float] = field(default_factory=list)

    @property
    def sum(self) -> float:
        """The sum, rounded once. Raises OverflowError."""
        return math.fsum(self.parts)

    def take(self, values: Iterable[Value]) -> None:
        """Count more values in."""
        for value in values:
            self.filled += 1
            if type(value) is float:
                self.count += 1
                self.low = min(self.low, value)
                self.high = max(self.high, value)
                _grow(self.parts, value)
            elif self.error is None and isinstance(value, Error):
                self.error = value


class Totals:
    """The totals of ranges, each remembered at its farthest row until values change."""

    def __init__(self) -> None:
        self._known: dict[tuple[str, int, int, int], tuple[int, Total]] = {}

    def clear(self) -> None:
        """Forget all totals."""
        self._known.clear()

    def known(self, sheet: str, area: Area) -> tuple[Total, Area | None]:
        """A total for an area, and the part of the area that it still lacks.

        Count that part in, and then tell ``reached``.
        """
        bottom, total = self._known.get(
            (sheet, area.left, area.right, area.top), (area.top - 1, Total())
        )
        if bottom > area.bottom:
            bottom, total = area.top - 1, Total()
        rest = Area(area.left, bottom + 1, area.right, area.bottom)
        return total, rest if rest.top <= rest.bottom else None

    def reached(self, sheet: str, area: Area, total: Total) -> None:
        """The total covers the whole area now."""
        if len(self._known) >= MOST:
            self._known.clear()
        self._known[sheet, area.left, area.right, area.top] = (area.bottom, total)


def _grow(parts: list[float], number: float) -> None:
    """Add a number to an exact sum, kept as floats that do not overlap."""
    kept = 0
    for part in parts:
        one, two = (number, part) if abs(number) >= abs(part) else (part, number)
        number = one + two
        rest = two - (number - one)
        if rest:
            parts[kept] = rest
            kept += 1
    parts[kept:] = [number]
