"""Functions of dates and times. A date is a number of days, a time a part of a day."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date, datetime, timedelta

from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.numerals import date_of, serial
from dreieck.core.values import NUM, VALUE

_DATE = arg("date", Takes.NUMBER, "a date")
_TIME = arg("time", Takes.NUMBER, "a time, or a date with a time")


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
        raise Failure(NUM, "The calendar goes from year 1 to year 9999.") from None


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


def _part(
    name: str,
    section: str,
    what: str,
    example: tuple[str, float],
    compute: Callable[[date], int],
) -> None:
    """Register a function that takes a part out of a date."""

    def computed(number: float) -> float:
        return float(compute(_day(number)))

    function(name, section, f"The {what} of a date.", _DATE, words=f"the {what} of {{0}}",
             example=example)(computed)  # fmt: skip


_part("YEAR", "6.10.23", "year", ('=YEAR("2026-03-01")', 2026.0), lambda day: day.year)
_part("MONTH", "6.10.13", "month", ('=MONTH("2026-03-01")', 3.0), lambda day: day.month)
_part("DAY", "6.10.5", "day of the month", ('=DAY("2026-03-01")', 1.0), lambda day: day.day)


def _clock_part(
    name: str, section: str, what: str, example: tuple[str, float], unit: int, turn: int
) -> None:
    """Register a function that takes a part out of a time; ``unit`` is its length in seconds."""

    def computed(number: float) -> float:
        seconds = round((number - math.floor(number)) * 86400, 6)
        return float(int(seconds // unit) % turn)

    function(name, section, f"The {what} of a time.", _TIME, words=f"the {what} of {{0}}",
             example=example)(computed)  # fmt: skip


_clock_part("HOUR", "6.10.10", "hour", ('=HOUR("9:30")', 9.0), 3600, 24)
_clock_part("MINUTE", "6.10.12", "minute", ('=MINUTE("9:30")', 30.0), 60, 60)
_clock_part("SECOND", "6.10.16", "second", ('=SECOND("9:30:15")', 15.0), 1, 60)


@function(
    "WEEKDAY",
    "6.10.20",
    "The day of the week as a number.",
    _DATE,
    optional("count", Takes.WHOLE, "1: Sunday is 1; 2: Monday is 1; 3: Monday is 0"),
    words="the weekday of {0}",
    example=('=WEEKDAY("2026-03-01",2)', 7.0),
)
def _weekday(number: float, count: int = 1) -> float:
    monday_is_0 = _day(number).weekday()
    if count not in (1, 2, 3):
        raise Failure(NUM, "The way of counting is 1, 2 or 3.")
    return float({1: (monday_is_0 + 1) % 7 + 1, 2: monday_is_0 + 1, 3: monday_is_0}[count])


@function(
    "TODAY",
    "6.10.19",
    "The date of today.",
    words="today",
    example=("=TODAY()=INT(NOW())", True),
    gives="date",
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
)
def _now() -> float:
    now = datetime.now()
    return serial(now.date()) + (now.hour * 3600 + now.minute * 60 + now.second) / 86400


def _day(number: float) -> date:
    day = date_of(number)
    if day is None:
        raise Failure(VALUE, "The number is no date: the calendar goes from year 1 to 9999.")
    return day
