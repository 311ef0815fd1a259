"""Functions that count days as interest is counted: months of 30 days, years of 360 or so."""

from __future__ import annotations

from calendar import isleap, monthrange
from datetime import date

from dreieck.core.functions.families.dates import day_of
from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NUM


@function("DAYS360")
def _days360(first: float, last: float, european: bool = False) -> float:
    begin, end = day_of(first), day_of(last)
    if begin > end:
        return -float(_of_30(end, begin, european=european))
    return float(_of_30(begin, end, european=european))


@function("YEARFRAC")
def _yearfrac(first: float, last: float, basis: int = 0) -> float:
    begin, end = sorted((day_of(first), day_of(last)))
    days = (end - begin).days
    match basis:
        case 0:
            return _of_30(begin, end, european=False, both_ends=True) / 360
        case 1:
            return days / _year_length(begin, end)
        case 2:
            return days / 360
        case 3:
            return days / 365
        case 4:
            return _of_30(begin, end, european=True) / 360
        case _:
            raise Failure(NUM, "The basis is a number from 0 to 4.")


def _of_30(begin: date, end: date, *, european: bool, both_ends: bool = False) -> int:
    """Days in months of 30; ``both_ends`` makes the end of February a 30th at both of them."""
    first, last = begin.day, end.day
    if european:
        first, last = min(first, 30), min(last, 30)
    else:
        if both_ends and _ends_february(begin) and _ends_february(end):
            last = 30
        if first == 31 or _ends_february(begin):
            first = 30
        if last == 31 and first == 30:
            last = 30
    return (end.year - begin.year) * 360 + (end.month - begin.month) * 30 + last - first


def _ends_february(day: date) -> bool:
    return day.month == 2 and day.day == monthrange(day.year, 2)[1]


def _year_length(begin: date, end: date) -> float:
    """How many days the years between two dates have on average."""
    if (end.year, end.month, end.day) > (begin.year + 1, begin.month, begin.day):
        years = end.year - begin.year + 1
        return ((date(end.year, 12, 31) - date(begin.year, 1, 1)).days + 1) / years
    if begin.year == end.year:
        return 366 if isleap(begin.year) else 365
    leap_day = next((date(y, 2, 29) for y in (begin.year, end.year) if isleap(y)), None)
    return 366 if leap_day and begin <= leap_day <= end else 365
