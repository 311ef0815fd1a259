"""Functions of dates and times. A date is a number of days, a time a part of a day."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date, datetime, timedelta

import numpy as np

from dreieck.core.functions.registry import (
    Failure,
    Takes,
    Trait,
    arg,
    at_once,
    function,
    optional,
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

_DATE = arg("date", Takes.NUMBER, "a date")
_TIME = arg("time", Takes.NUMBER, "a time, or a date with a time")
_FIRST = arg("from", Takes.NUMBER, "the earlier date")
_LAST = arg("to", Takes.NUMBER, "the later date")
_CLOCK = (Trait.READS_ELSEWHERE, Trait.MOVES_ALONG)
_NO_DATE = "The calendar goes from year 1 to year 9999."


@function(
    "DATE",
    "6.10.2",
    "The date of a year, month and day; what is too large runs on into the next.",
    arg("year", Takes.WHOLE, "with four digits"),
    arg("month", Takes.WHOLE, "1 to 12, or beyond"),
    arg("day", Takes.WHOLE, "1 to 31, or beyond"),
    words="the date of year {0}, month {1}, day {2}",
    example=("=DATE(2026,3,1)", 46082.0),
    gives="date",
)
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


@function(
    "TIME",
    "6.10.17",
    "The time of hours, minutes and seconds, as a part of a day.",
    arg("hours", Takes.NUMBER, "hours"),
    arg("minutes", Takes.NUMBER, "minutes"),
    arg("seconds", Takes.NUMBER, "seconds"),
    words="the time of {0} hours, {1} minutes and {2} seconds",
    example=("=TIME(9,30,0)", 9.5 / 24),
    gives="time",
)
def _time(hours: float, minutes: float, seconds: float) -> float:
    return (hours * 3600 + minutes * 60 + seconds) / 86400


at_once("TIME")(_time)


def _part(
    name: str,
    section: str,
    what: str,
    example: tuple[str, float],
    compute: Callable[[date], int],
    form: Callable[[Days], Days],
) -> None:
    """Register a function that takes a part out of a date."""

    def computed(number: float) -> float:
        return float(compute(day_of(number)))

    function(name, section, f"The {what} of a date.", _DATE, words=f"the {what} of {{0}}",
             example=example)(computed)  # fmt: skip
    at_once(name)(lambda numbers: on_calendar(numbers, form))


_part("YEAR", "6.10.23", "year", ('=YEAR("2026-03-01")', 2026.0), lambda day: day.year, years_of)
_part("MONTH", "6.10.13", "month", ('=MONTH("2026-03-01")', 3.0), lambda day: day.month, months_of)
_part(
    "DAY",
    "6.10.5",
    "day of the month",
    ('=DAY("2026-03-01")', 1.0),
    lambda day: day.day,
    days_of_month,
)


def _clock_part(
    name: str, section: str, what: str, example: tuple[str, float], unit: int, turn: int
) -> None:
    """Register a function that takes a part out of a time; ``unit`` is its length in seconds."""

    def computed(number: float) -> float:
        return float(_seconds_passed(number) // unit % turn)

    function(name, section, f"The {what} of a time.", _TIME, words=f"the {what} of {{0}}",
             example=example)(computed)  # fmt: skip


def _seconds_passed(number: float) -> int:
    """The whole seconds of a time, also where a number misses one by its last bits."""
    seconds = exact(number) * 86400
    nearest = quantized(seconds, 0)
    is_whole = abs(seconds - nearest) <= max(_MICROSECOND, 2 * 86400 * math.ulp(number))
    return int(nearest) if is_whole else math.floor(seconds)


_MICROSECOND = 1e-6
_clock_part("HOUR", "6.10.10", "hour", ('=HOUR("9:30")', 9.0), 3600, 24)
_clock_part("MINUTE", "6.10.12", "minute", ('=MINUTE("9:30")', 30.0), 60, 60)
_clock_part("SECOND", "6.10.16", "second", ('=SECOND("9:30:15")', 15.0), 1, 60)


@function(
    "WEEKDAY",
    "6.10.20",
    "The day of the week as a number.",
    _DATE,
    optional("count", Takes.WHOLE, "1: Sunday is 1; 2: Monday is 1; 3: Monday is 0; 11 to 17"),
    words="the weekday of {0}",
    example=('=WEEKDAY("2026-03-01",2)', 7.0),
)
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


@function(
    "TODAY",
    "6.10.19",
    "The date of today.",
    words="today",
    example=("=TODAY()=INT(NOW())", True),
    gives="date",
    traits=_CLOCK,
)
def _today() -> float:
    return serial(date.today())


@function(
    "NOW",
    "6.10.15",
    "The date and time of this moment.",
    words="now",
    example=("=INT(NOW())=TODAY()", True),
    gives="datetime",
    traits=_CLOCK,
)
def _now() -> float:
    now = datetime.now()
    return serial(now.date()) + (now.hour * 3600 + now.minute * 60 + now.second) / 86400


def day_of(number: float) -> date:
    """The date of a number. Raises Failure."""
    day = date_of(number)
    if day is None:
        raise Failure(VALUE, "The number is no date: the calendar goes from year 1 to 9999.")
    return day


@function(
    "DATEVALUE",
    "6.10.4",
    "The date that a text says.",
    arg("text", Takes.TEXT, "a date such as 2026-03-01"),
    words="the date in {0}",
    example=('=DATEVALUE("2026-03-01")', 46082.0),
    gives="date",
)
def _datevalue(text: str) -> float:
    numeral = read_numeral(text)
    if numeral is None or numeral.form not in ("date", "datetime"):
        raise Failure(VALUE, "The text is no date such as 2026-03-01.")
    return float(math.floor(numeral.value))


@function(
    "TIMEVALUE",
    "6.10.18",
    "The time of day that a text says.",
    arg("text", Takes.TEXT, "a time such as 9:30"),
    words="the time in {0}",
    example=('=TIMEVALUE("9:30")', 9.5 / 24),
    gives="time",
)
def _timevalue(text: str) -> float:
    numeral = read_numeral(text)
    if numeral is None or numeral.form not in ("time", "datetime"):
        raise Failure(VALUE, "The text is no time such as 9:30.")
    return numeral.value % 1


@function(
    "DAYS",
    "6.10.6",
    "How many days lie between two dates.",
    _LAST,
    _FIRST,
    words="the days from {1} to {0}",
    example=('=DAYS("2026-03-01","2026-02-01")', 28.0),
)
def _days(last: float, first: float) -> float:
    return float(math.floor(last) - math.floor(first))


@at_once("DAYS")
def _days_in_rows(last: Numbers, first: Numbers) -> Payload:
    found: Payload = np.floor(last) - np.floor(first)
    return found


@function(
    "DATEDIF",
    "6.10.3",
    "How many whole years, months or days lie between two dates.",
    _FIRST,
    _LAST,
    arg("unit", Takes.TEXT, '"y", "m", "d"; "ym", "md", "yd" for what is left over'),
    words="the {2} from {0} to {1}",
    example=('=DATEDIF("2026-01-31","2026-03-30","m")', 1.0),
)
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


@function(
    "EDATE",
    "6.10.8",
    "The date so many months later, at the latest on the last day of the month.",
    _DATE,
    arg("months", Takes.WHOLE, "below 0 for earlier"),
    words="the date {1} months after {0}",
    example=('=EDATE("2026-01-31",1)', 46081.0),
    gives="date",
)
def _edate(number: float, months: int) -> float:
    return serial(_months_on(day_of(number), months))


@at_once("EDATE")
def _edate_in_rows(number: Numbers, months: Numbers) -> Payload:
    return months_later(number, months, last_day=False)


@function(
    "EOMONTH",
    "6.10.9",
    "The last day of the month so many months later.",
    _DATE,
    arg("months", Takes.WHOLE, "0 for the same month"),
    words="the end of the month {1} months after {0}",
    example=('=EOMONTH("2026-02-10",0)', 46081.0),
    gives="date",
)
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


@function(
    "ISOWEEKNUM",
    "6.10.11",
    "The number of the week by ISO 8601: week 1 has the first Thursday, weeks begin on Monday.",
    _DATE,
    words="the week of {0}",
    example=('=ISOWEEKNUM("2026-01-01")', 1.0),
)
def _isoweeknum(number: float) -> float:
    return float(day_of(number).isocalendar().week)


@function(
    "WEEKNUM",
    "6.10.21",
    "The number of the week; week 1 has the first of January.",
    _DATE,
    optional("count", Takes.WHOLE, "1: from Sunday; 2 or 11: from Monday; 21: by ISO 8601"),
    words="the week of {0}",
    example=('=WEEKNUM("2026-03-01")', 10.0),
)
def _weeknum(number: float, count: int = 1) -> float:
    day = day_of(number)
    if count == 21:
        return float(day.isocalendar().week)
    new_year = date(day.year, 1, 1)
    before = (new_year.weekday() - _first_day(count)) % 7
    return float(((day - new_year).days + before) // 7 + 1)
