"""Plain values that count on: what stands at each position, for one cell or for many."""

from __future__ import annotations

import calendar
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import NamedTuple

import numpy as np

from dreieck.core.sheet.cells import Cells
from dreieck.core.values.calendar import day_in_month, months_later
from dreieck.core.values.numerals import date_of, serial

NAMES = (
    ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"),
    ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"),
    tuple(calendar.month_name[1:]),
    tuple(calendar.month_abbr[1:]),
)
"""The names that follow each other, in rounds."""
SPELLINGS: dict[str, Callable[[str], str]] = {"": str, "capitals": str.upper, "small": str.lower}
_MOST_DECIMALS, _MOST_DIGITS = 9, 1e15


@dataclass(frozen=True, slots=True)
class Steps:
    """Numbers with one step between them, each the decimal that people would count to."""

    first: float
    step: float

    def value(self, position: int) -> float:
        """The number at a position; the first one is at 0, others may lie before it."""
        units = self._units(abs(position))
        if units is None:
            return float(f"{self.first + self.step * position:.15g}")
        first, step, power = units
        return (first + step * position) / power

    def cells(self, position: int, count: int) -> Cells:
        """The numbers from a position on."""
        units = self._units(abs(position) + count)
        if units is None:
            return _one_by_one(self, position, count)
        first, step, power = units
        return Cells.numbers((first + step * np.arange(position, position + count)) / power)

    def _units(self, farthest: int) -> tuple[int, int, float] | None:
        """Both numbers in whole units of a power of ten, and how many of them make 1.

        None where what is counted to, so many steps away, has too many digits for that.
        """
        decimals = max(_decimals(self.first), _decimals(self.step))
        power = 10.0 ** min(decimals, _MOST_DECIMALS)
        first, step = round(self.first * power), round(self.step * power)
        if decimals > _MOST_DECIMALS or abs(first) + abs(step) * farthest >= _MOST_DIGITS:
            return None
        return first, step, power


@dataclass(frozen=True, slots=True)
class Months:
    """Dates on one day of the month, so many months apart; at the latest on its last day.

    Those at the ``ends`` of their months are always on the last day.
    """

    first: float
    step: int
    ends: bool = False

    def value(self, position: int) -> float:
        """The date at a position."""
        first = date_of(self.first)
        assert first is not None
        year, month = divmod(first.year * 12 + first.month - 1 + self.step * position, 12)
        year = min(max(year, 1), 9999)
        return serial(day_in_month(year, month + 1, 31 if self.ends else first.day))

    def cells(self, position: int, count: int) -> Cells:
        """The dates from a position on."""
        months = np.arange(position, position + count, dtype=np.float64) * self.step
        found = months_later(self.first, months, last_day=self.ends)
        if np.isfinite(found).all():
            return Cells.numbers(found)
        return _one_by_one(self, position, count)


@dataclass(frozen=True, slots=True)
class Names:
    """Names of days or months, of one of ``NAMES``, spelled as one of ``SPELLINGS`` says."""

    names: int
    first: int
    step: int
    spelling: str

    def value(self, position: int) -> str:
        """The name at a position."""
        names = NAMES[self.names]
        return SPELLINGS[self.spelling](names[(self.first + self.step * position) % len(names)])

    def cells(self, position: int, count: int) -> Cells:
        """The names from a position on."""
        return _one_by_one(self, position, count)


@dataclass(frozen=True, slots=True)
class Numbered:
    """Texts with a number in them, of so many digits at least.

    ``place`` says that the number tells a place in an order, as 1st does: its spelling.
    """

    before: str
    after: str
    first: int
    step: int
    digits: int
    place: str | None = None

    def value(self, position: int) -> str:
        """The text at a position."""
        number = self.first + self.step * position
        minus, digits = "-" * (number < 0), f"{abs(number):0{self.digits}d}"
        suffix = "" if self.place is None else SPELLINGS[self.place](place_suffix(number))
        return f"{self.before}{minus}{digits}{suffix}{self.after}"

    def cells(self, position: int, count: int) -> Cells:
        """The texts from a position on."""
        return _one_by_one(self, position, count)


def place_suffix(number: int) -> str:
    """What stands behind the number of a place in an order: st of 1st, th of 11th."""
    tens, ones = divmod(abs(number) % 100, 10)
    return "th" if tens == 1 else {1: "st", 2: "nd", 3: "rd"}.get(ones, "th")


Series = Steps | Months | Names | Numbered
KINDS: dict[str, type[Series]] = {kind.__name__: kind for kind in (Steps, Months, Names, Numbered)}


class Counted(NamedTuple):
    """What cells below each other hold that count on, the first of them from a position."""

    series: Series
    position: int

    def cells(self, count: int) -> Cells:
        """What so many cells hold."""
        return self.series.cells(self.position, count)


def _one_by_one(series: Series, position: int, count: int) -> Cells:
    return Cells.of([series.value(at) for at in range(position, position + count)])


def _decimals(number: float) -> int:
    exponent = Decimal(repr(number)).normalize().as_tuple().exponent
    return max(-exponent, 0) if isinstance(exponent, int) else 0
