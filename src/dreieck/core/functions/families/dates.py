"""Functions of dates and times. A date is a number of days, a time a part of a day."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date, datetime, timedelta

import numpy as np

from dreieck.core.functions.registry import (
    Failure,
    at_once,
    function,
)
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import NUM, VALUE
from dreieck.core.values.calendar import (
    Days,
    day_in_month,
    days_of_month,
    later_in_calendar,
    months_later,
    months_of,
    on_calendar,
    weekdays_of,
    years_of,
)
from dreieck.core.values.decimals import exact, quantized
from dreieck.core.values.formats import read_numeral
from dreieck.core.values.numerals import date_of, serial
from dreieck.core.values.roundings import Numbers

_NO_DATE = "The calendar goes from year 1 to year 9999."


@function("DATE")
def _date(year: int, month: int, day: int) -> float:
    years, months = divmod(month - 1, 12)
    try:
        return serial(date(year + years, months + 1, 1) + timedelta(days=day - 1))
    except (ValueError, OverflowError):
        raise Failure(NUM, _NO_DATE) from None


@at_once("DATE")
def _date_in_rows(year: Numbers, month: Numbers, day: Numbers) -> Payload:
    months = np.asarray(year * 12.0 + (month - 1))
    return later_in_calendar(months, day - 1)


@function("TIME")
def _time(hours: float, minutes: float, seconds: float) -> float:
    return (hours * 3600 + minutes * 60 + seconds) / 86400


at_once("TIME")(_time)


def _part(name: str, compute: Callable[[date], int], form: Callable[[Days], Days]) -> None:
    """Register a function that takes a part out of a date."""

    def computed(number: float) -> float:
        return float(compute(day_of(number)))

    function(name)(computed)
    at_once(name)(lambda numbers: on_calendar(numbers, form))


_part("YEAR", lambda day: day.year, years_of)
_part("MONTH", lambda day: day.month, months_of)
_part("DAY", lambda day: day.day, days_of_month)


def _clock_part(name: str, unit: int, turn: int) -> None:
    """Register a function that takes a part out of a time; ``unit`` is its length in seconds."""

    def computed(number: float) -> float:
        return float(_seconds_passed(number) // unit % turn)

    function(name)(computed)


def _seconds_passed(number: float) -> int:
    """The whole seconds of a time, also where a number misses one by its last bits."""
    seconds = exact(number) * 86400
    nearest = quantized(seconds, 0)
    is_whole = abs(seconds - nearest) <= max(_MICROSECOND, 2 * 86400 * math.ulp(number))
    return int(nearest) if is_whole else math.floor(seconds)


_MICROSECOND = 1e-6
_clock_part("HOUR", 3600, 24)
_clock_part("MINUTE", 60, 60)
_clock_part("SECOND", 1, 60)


@function("WEEKDAY")
def _weekday(number: float, count: int = 1) -> float:
    monday_is_0 = day_of(number).weekday()
    if count == 3:
        return float(monday_is_0)
    return float((monday_is_0 - _first_day(count)) % 7 + 1)


@at_once("WEEKDAY")
def _weekday_in_rows(number: Payload, count: Numbers = 1.0) -> Payload | None:
    if isinstance(count, np.ndarray) or count not in (1, 2, 3):
        return None
    first = {1: 6, 2: 0, 3: 0}[int(count)]
    return on_calendar(number, lambda days: (weekdays_of(days) - first) % 7 + (count != 3))


def _first_day(count: int) -> int:
    """The weekday, Monday being 0, with which a week begins that is counted so."""
    if count in (1, 2):
        return (6, 0)[count - 1]
    if not 11 <= count <= 17:
        raise Failure(NUM, "There is no such way of counting.")
    return count - 11


@function("TODAY")
def _today() -> float:
    return serial(date.today())


@function("NOW")
def _now() -> float:
    now = datetime.now()
    return serial(now.date()) + (now.hour * 3600 + now.minute * 60 + now.second) / 86400


def day_of(number: float) -> date:
    """The date of a number. Raises Failure."""
    day = date_of(number)
    if day is None:
        raise Failure(VALUE, "The number is no date: the calendar goes from year 1 to 9999.")
    return day


@function("DATEVALUE")
def _datevalue(text: str) -> float:
    numeral = read_numeral(text)
    if numeral is None or numeral.form not in ("date", "datetime"):
        raise Failure(VALUE, "The text is no date such as 2026-03-01.")
    return float(math.floor(numeral.value))


@function("TIMEVALUE")
def _timevalue(text: str) -> float:
    numeral = read_numeral(text)
    if numeral is None or numeral.form not in ("time", "datetime"):
        raise Failure(VALUE, "The text is no time such as 9:30.")
    return numeral.value % 1


@function("DAYS")
def _days(last: float, first: float) -> float:
    return float(math.floor(last) - math.floor(first))


@at_once("DAYS")
def _days_in_rows(last: Numbers, first: Numbers) -> Payload:
    found: Payload = np.floor(last) - np.floor(first)
    return found


@function("DATEDIF")
def _datedif(first: float, last: float, unit: str) -> float:
    begin, end = day_of(first), day_of(last)
    if begin > end:
        raise Failure(NUM, "The first date lies behind the second one.")
    months = (end.year - begin.year) * 12 + end.month - begin.month - (end.day < begin.day)
    match unit.lower():
        case "y":
            return float(months // 12)
        case "m":
            return float(months)
        case "d":
            return float((end - begin).days)
        case "ym":
            return float(months % 12)
        case "md":
            return float((end - _months_on(begin, months)).days)
        case "yd":
            return float((end - _months_on(begin, months // 12 * 12)).days)
        case _:
            raise Failure(NUM, "The unit is y, m, d, ym, md or yd.")


@function("EDATE")
def _edate(number: float, months: int) -> float:
    return serial(_months_on(day_of(number), months))


@at_once("EDATE")
def _edate_in_rows(number: Numbers, months: Numbers) -> Payload:
    return months_later(number, months, last_day=False)


@function("EOMONTH")
def _eomonth(number: float, months: int) -> float:
    return serial(_months_on(day_of(number).replace(day=1), months, last_day=True))


@at_once("EOMONTH")
def _eomonth_in_rows(number: Numbers, months: Numbers) -> Payload:
    return months_later(number, months, last_day=True)


def _months_on(day: date, months: int, *, last_day: bool = False) -> date:
    """The date so many months later, on the same day of the month if that has it."""
    years, month = divmod(day.month - 1 + months, 12)
    year = day.year + years
    if not 1 <= year <= 9999:
        raise Failure(NUM, _NO_DATE)
    return day_in_month(year, month + 1, 31 if last_day else day.day)


@function("ISOWEEKNUM")
def _isoweeknum(number: float) -> float:
    return float(day_of(number).isocalendar().week)


@function("WEEKNUM")
def _weeknum(number: float, count: int = 1) -> float:
    day = day_of(number)
    if count == 21:
        return float(day.isocalendar().week)
    new_year = date(day.year, 1, 1)
    before = (new_year.weekday() - _first_day(count)) % 7
    return float(((day - new_year).days + before) // 7 + 1)
