"""Many dates at once: their parts, and dates so many months later.

Days are counted as serial numbers are. What the calendar, from year 1 to 9999, does not reach is
left open: it is no number.
"""

from __future__ import annotations

from calendar import monthrange
from collections.abc import Callable
from datetime import date

import numpy as np
from numpy.typing import NDArray

from dreieck.core.values.numerals import EPOCH, serial
from dreieck.core.values.roundings import Floats, Numbers

Days = NDArray[np.int64]
"""Whole days, or what is told of them."""
_FIRST, _LAST = serial(date.min), serial(date.max)
_TO_1970 = (date(1970, 1, 1) - EPOCH).days
_MONTHS_TO_1970 = 1970 * 12
_SATURDAY = 5
"""The weekday of the date 0, Monday being 0."""


def on_calendar(numbers: Floats, tell: Callable[[Days], Days]) -> Floats:
    """What is told of the days of serial numbers, where they are dates."""
    days = np.floor(numbers)
    known = (days >= _FIRST) & (days <= _LAST)
    if known.all():
        return tell(days.astype(np.int64)).astype(np.float64)
    found = np.full(len(days), np.nan)
    found[known] = tell(days[known].astype(np.int64))
    return found


def day_in_month(year: int, month: int, day: int) -> date:
    """The date on a day of a month, on the last day of it where that comes before."""
    return date(year, month, min(day, monthrange(year, month)[1]))


def years_of(days: Days) -> Days:
    """The years of days."""
    return _months(days) // 12


def months_of(days: Days) -> Days:
    """The months of days, from 1 to 12."""
    return _months(days) % 12 + 1


def days_of_month(days: Days) -> Days:
    """The days of the month, from 1."""
    return days - _first_days(_months(days)) + 1


def weekdays_of(days: Days) -> Days:
    """The weekdays of days, Monday being 0."""
    return (days + _SATURDAY) % 7


def months_later(numbers: Numbers, months: Numbers, *, last_day: bool) -> Floats:
    """The dates so many months later: on the same day, the last of the month at the latest."""
    numbers, months = np.broadcast_arrays(
        np.asarray(numbers, np.float64), np.asarray(months, np.float64)
    )
    days = np.floor(numbers)
    known = (days >= _FIRST) & (days <= _LAST) & (np.abs(months) < 12 * 9999)
    held = np.where(known, days, 0).astype(np.int64)
    before = _months(held)
    after = before + np.where(known, months, 0).astype(np.int64)
    known = known & (after >= 12) & (after < 12 * 10_000)
    first = _first_days(after)
    length = _first_days(after + 1) - first
    day = length if last_day else np.minimum(held - _first_days(before) + 1, length)
    return np.where(known, first + day - 1, np.nan)


def later_in_calendar(months: Floats, days: Numbers) -> Floats:
    """The dates so many days after the first of a month, which is counted from year 0."""
    known = (months >= 12) & (months < 12 * 10_000)
    # A whole number can have more digits than those of an array.
    days = np.asarray(days, np.float64)
    found = _first_days(np.where(known, months, 12).astype(np.int64)) + days
    return np.where(known & (found >= _FIRST) & (found <= _LAST), found, np.nan)


def _months(days: Days) -> Days:
    """The months of days, counted from January of year 0."""
    found: Days = (
        (days - _TO_1970).astype("datetime64[D]").astype("datetime64[M]").astype(np.int64)
    )
    return found + _MONTHS_TO_1970


def _first_days(months: Days) -> Days:
    """The first days of months."""
    found: Days = (
        (months - _MONTHS_TO_1970).astype("datetime64[M]").astype("datetime64[D]").astype(np.int64)
    )
    return found + _TO_1970
