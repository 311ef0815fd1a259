"""Totals of ranges that grow or slide: a running total costs one step a row, not one sum a row.

``SUM(B$4:B4)`` filled down reads a range that keeps its first row and grows at the end;
``SUM(B4:B$99)`` one that keeps its last row; ``AVERAGE(B2:B8)`` one that slides. Their totals
are the one of the row before with few numbers more or less. Sums are kept exactly, as floats
that do not overlap (Shewchuk's method, which ``math.fsum`` uses too), so that the result is
the same however it was reached.
"""

from __future__ import annotations

import math
from collections import deque
from collections.abc import Callable, Iterable
from dataclasses import dataclass, field

import numpy as np

from dreieck.core.address import Area
from dreieck.core.cells import Cells, Kind
from dreieck.core.values import Error, Value

MOST = 10_000
"""How many ranges are remembered."""
_FEW = 16
"""So few numbers are added one by one."""

Read = Callable[[Area], Iterable[Cells]]
"""Hands out the cells of an area, column by column."""


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

    def take_numbers(self, numbers: list[float]) -> None:
        """Count more numbers in."""
        self.filled += len(numbers)
        self.count += len(numbers)
        if numbers:
            low, high = min(numbers), max(numbers)
            self.low, self.high = min(self.low, low), max(self.high, high)
        if len(numbers) <= _FEW:
            for number in numbers:
                _grow(self.parts, number)
        else:
            self.parts = _exactly(self.parts + numbers)

    def less(self, number: float) -> None:
        """Take a number out of the count and the sum again."""
        self.count -= 1
        self.filled -= 1
        _grow(self.parts, -number)


@dataclass(slots=True)
class _Slide:
    """A window of one column that moves down: numbers waiting to be the least or the largest."""

    top: int
    total: Total
    lows: deque[tuple[int, float]] = field(default_factory=deque)
    highs: deque[tuple[int, float]] = field(default_factory=deque)

    def enter(self, row: int, number: float) -> None:
        while self.lows and self.lows[-1][1] >= number:
            self.lows.pop()
        while self.highs and self.highs[-1][1] <= number:
            self.highs.pop()
        self.lows.append((row, number))
        self.highs.append((row, number))

    def leave(self, row: int) -> None:
        for waiting in (self.lows, self.highs):
            if waiting and waiting[0][0] <= row:
                waiting.popleft()
        self.total.low = self.lows[0][1] if self.lows else math.inf
        self.total.high = self.highs[0][1] if self.highs else -math.inf


class Totals:
    """The totals of ranges, each remembered where it was asked last until values change."""

    def __init__(self, read: Callable[[str, Area], Iterable[Cells]]) -> None:
        self._read = read
        self._from_top: dict[tuple[str, int, int, int], tuple[int, Total]] = {}
        self._from_bottom: dict[tuple[str, int, int, int], tuple[int, Total]] = {}
        self._slides: dict[tuple[str, int, int], _Slide] = {}

    def clear(self) -> None:
        """Forget all totals."""
        for known in (self._from_top, self._from_bottom, self._slides):
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
                _add(total, columns)
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
                _add(total, columns, ahead=True)
                self._from_bottom[upwards] = (top, total)
            return total
        if left == right and area.height > _FEW and (slid := self._slid(sheet, area)):
            return slid
        total = Total()
        _add(total, list(self._read(sheet, area)))
        if len(self._from_top) >= MOST:
            self.clear()
        if not self._slide_begins(sheet, area, total):
            self._from_top[key] = (bottom, total)
            other = Total(total.count, total.filled, total.low, total.high, total.error)
            other.parts = total.parts.copy()
            self._from_bottom[upwards] = (top, other)
        return total

    def _slide_begins(self, sheet: str, area: Area, total: Total) -> bool:
        """Whether a window one row further up was asked before, so that this one slides on."""
        before = (sheet, area.left, area.right, area.top - 1)
        known = self._from_top.get(before)
        if area.height <= _FEW or area.left != area.right or not known:
            return False
        if known[0] != area.bottom - 1:
            return False
        (cells,) = self._read(sheet, area)
        slide = _Slide(area.top, total)
        for index in np.flatnonzero(cells.kinds == Kind.NUMBER).tolist():
            slide.enter(area.top + index, float(cells.payload[index]))
        self._slides[sheet, area.left, area.height] = slide
        return True

    def _slid(self, sheet: str, area: Area) -> Total | None:
        slide = self._slides.get((sheet, area.left, area.height))
        if slide is None or slide.top > area.top or area.top - slide.top > 1:
            return None
        total = slide.total
        if slide.top == area.top:
            return total
        (gone,) = self._read(sheet, Area(area.left, slide.top, area.left, slide.top))
        (come,) = self._read(sheet, Area(area.left, area.bottom, area.left, area.bottom))
        if slide.top != area.top - 1:
            return None
        out, new = gone.value(0), come.value(0)
        if any(value is not None and type(value) is not float for value in (out, new)):
            del self._slides[sheet, area.left, area.height]
            return None
        if isinstance(out, float):
            total.less(out)
        if isinstance(new, float):
            total.count += 1
            total.filled += 1
            _grow(total.parts, new)
            slide.enter(area.bottom, new)
        slide.leave(slide.top)
        slide.top = area.top
        return total


def _add(total: Total, columns: list[Cells], *, ahead: bool = False) -> None:
    """Count the cells of an area in that lies below, or ahead of, what the total covers."""
    for cells in columns:
        if len(cells) == 1:
            value = cells.value(0)
            if type(value) is float:
                total.take((value,))
            elif value is not None:
                total.filled += 1
            continue
        numbers = cells.payload[cells.kinds == Kind.NUMBER]
        total.take_numbers(numbers.tolist())
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
