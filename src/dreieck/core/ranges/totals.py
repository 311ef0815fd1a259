"""Totals of ranges, and what is remembered of them for ranges that are a little longer.

Sums are kept exactly, as floats that do not overlap (Shewchuk's method, which ``math.fsum``
uses too), so that the result is the same however it was reached.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

import numpy as np

from dreieck.core.grid import Area
from dreieck.core.ranges.beside import exact_parts
from dreieck.core.sheet.cells import Cells, Kind, Payload
from dreieck.core.values import Error, Value

MAX_RANGES = 10_000
"""How many ranges are remembered."""
_FEW = 16
"""So few numbers are added one by one."""
_MANY = 1024
"""For so many numbers it pays to add them in halves."""


@dataclass(slots=True)
class Total:
    """What the numbers of a range come to.

    ``error`` is the first one in reading order: row by row, from left to right.
    """

    count: int = 0
    filled: int = 0
    low: float = math.inf
    high: float = -math.inf
    error: Error | None = None
    parts: list[float] = field(default_factory=list)

    def copy(self) -> Total:
        """The same total, that changes on its own."""
        parts = self.parts.copy()
        return Total(self.count, self.filled, self.low, self.high, self.error, parts)

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
                grow(self.parts, value)
            elif self.error is None and isinstance(value, Error):
                self.error = value

    def take_numbers(self, numbers: Payload) -> None:
        """Count more numbers in."""
        self.filled += len(numbers)
        self.count += len(numbers)
        if len(numbers):
            # The first of several that are equal stays, as one by one.
            self.low = min(self.low, float(numbers[numbers.argmin()]))
            self.high = max(self.high, float(numbers[numbers.argmax()]))
        parts = exact_parts(numbers) if len(numbers) > _MANY else None
        if parts is None and len(numbers) > _FEW:
            self.parts = _exactly(self.parts + numbers.tolist())
        else:
            for number in parts or numbers.tolist():
                grow(self.parts, number)

    def less(self, number: float) -> None:
        """Take a number out of the count and the sum again."""
        self.count -= 1
        self.filled -= 1
        grow(self.parts, -number)


class Totals:
    """The totals of ranges, each remembered where it was asked last until values change."""

    def __init__(self, read: Callable[[str, Area], Iterable[Cells]]) -> None:
        self._read = read
        self._from_top: dict[tuple[str, int, int, int], tuple[int, Total]] = {}
        self._from_bottom: dict[tuple[str, int, int, int], tuple[int, Total]] = {}

    def clear(self) -> None:
        """Forget all totals."""
        for known in (self._from_top, self._from_bottom):
            known.clear()

    def of(self, sheet: str, area: Area) -> Total:
        """The total of an area. It is shared: use it before you ask for the next one."""
        while (total := self._tried(sheet, area)) is None:
            pass
        return total

    def _tried(self, sheet: str, area: Area) -> Total | None:
        """The total, or None where reading the cells has changed what is remembered."""
        left, top, right, bottom = area
        key = (sheet, left, right, top)
        known = self._from_top.get(key)
        if known and known[0] <= bottom:
            total = known[1]
            if known[0] < bottom:
                columns = list(self._read(sheet, Area(left, known[0] + 1, right, bottom)))
                if self._from_top.get(key) is not known:
                    return None
                add(total, columns)
                self._from_top[key] = (bottom, total)
            return total
        upwards = (sheet, left, right, bottom)
        known = self._from_bottom.get(upwards)
        if known and known[0] >= top:
            total = known[1]
            if known[0] > top:
                columns = list(self._read(sheet, Area(left, top, right, known[0] - 1)))
                if self._from_bottom.get(upwards) is not known:
                    return None
                add(total, columns, ahead=True)
                self._from_bottom[upwards] = (top, total)
            return total
        total = Total()
        add(total, list(self._read(sheet, area)))
        if len(self._from_top) >= MAX_RANGES:
            self.clear()
        self._from_top[key] = (bottom, total)
        self._from_bottom[upwards] = (top, total.copy())
        return total


def add(total: Total, columns: list[Cells], *, ahead: bool = False) -> None:
    """Count the columns of an area in that lies below, or ahead of, what the total covers."""
    for cells in columns:
        if len(cells) == 1:
            value = cells.value(0)
            if type(value) is float:
                total.take((value,))
            elif value is not None:
                total.filled += 1
            continue
        all_numbers = cells.all_numbers
        numbers = cells.payload if all_numbers else cells.payload[cells.kinds == Kind.NUMBER]
        total.take_numbers(numbers)
        total.filled += int(np.count_nonzero(cells.kinds)) - len(numbers)
    if (ahead or total.error is None) and (error := _first_error(columns)):
        total.error = error


def _first_error(columns: list[Cells]) -> Error | None:
    found: list[tuple[int, Error]] = []
    for cells in columns:
        errors = np.flatnonzero(cells.kinds == Kind.ERROR)
        if len(errors):
            value = cells.value(int(errors[0]))
            assert isinstance(value, Error)
            found.append((int(errors[0]), value))
    return min(found, key=lambda each: each[0])[1] if found else None


def _exactly(numbers: list[float]) -> list[float]:
    """Few floats whose exact sum is that of many: each is what the ones before it left over."""
    parts: list[float] = []
    try:
        while rest := math.fsum(numbers):
            parts.append(rest)
            if not math.isfinite(rest):
                break
            numbers = [*numbers, -rest]
    except (OverflowError, ValueError):
        return [math.inf]
    return parts


def grow(parts: list[float], number: float) -> None:
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
