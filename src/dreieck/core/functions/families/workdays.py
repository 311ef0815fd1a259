"""Functions that count working days."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from numpy.typing import NDArray

from dreieck.core.functions.families.dates import day_of
from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NUM, VALUE, Error, Value
from dreieck.core.values.numerals import serial

_WEEK = "1111100"
"""Monday to Friday are worked, as the numpy calendar says it."""


@function("NETWORKDAYS")
def _networkdays(
    first: float,
    last: float,
    holidays: Iterable[float] = (),
    free_days: Iterable[bool] | None = None,
) -> float:
    begin, end = sorted((day_of(first), day_of(last)))
    behind = np.datetime64(end) + np.timedelta64(1, "D")
    count = np.busday_count(np.datetime64(begin), behind, _week(free_days), _dates(holidays))
    return float(count if first <= last else -count)


@function("WORKDAY")
def _workday(
    number: float,
    days: int,
    holidays: Iterable[float] = (),
    free_days: Iterable[bool] | None = None,
) -> float:
    day = day_of(number)
    if days == 0:
        return serial(day)
    if abs(days) > _MAX_DAYS:
        raise Failure(NUM, "The calendar goes from year 1 to year 9999.")
    # From a free day on, counting begins at the working day before it, as seen from there.
    roll = "backward" if days > 0 else "forward"
    found = np.busday_offset(
        np.datetime64(day),
        days,
        roll,
        _week(free_days),
        _dates(holidays),  # type: ignore[call-overload]
    )
    return float((found - _EPOCH) / np.timedelta64(1, "D"))


_MAX_DAYS = 2_600_000
_EPOCH = np.datetime64("1899-12-30")


def _week(free_days: Iterable[bool] | None) -> str:
    """The worked days from Monday on, as the numpy calendar says them."""
    if free_days is None:
        return _WEEK
    from_sunday = list(free_days)
    if len(from_sunday) != 7 or all(from_sunday):
        raise Failure(VALUE, "There have to be seven values from Sunday on, not all of them TRUE.")
    return "".join("01"[not free] for free in (*from_sunday[1:], from_sunday[0]))


def _dates(holidays: Iterable[float]) -> NDArray[np.datetime64]:
    """The days of holidays, each once. Raises Failure where one is beyond the calendar."""
    days = np.unique(np.floor(np.fromiter(holidays, np.float64)))
    for end in days[[0, -1]] if len(days) else ():
        day_of(float(end))
    return _EPOCH + days.astype("timedelta64[D]")


@function("NETWORKDAYS.INTL")
def _networkdays_with(
    first: float, last: float, weekend: Value = None, holidays: Iterable[float] = ()
) -> float:
    return _networkdays(first, last, holidays, _days_off(weekend))


@function("WORKDAY.INTL")
def _workday_with(
    number: float, days: int, weekend: Value = None, holidays: Iterable[float] = ()
) -> float:
    return _workday(number, days, holidays, _days_off(weekend))


def _days_off(weekend: Value) -> list[bool] | None:
    """Which days are off, from Sunday on, by the number or the digits of a weekend."""
    if isinstance(weekend, Error):
        raise Failure.of(weekend)
    if weekend is None:
        return None
    if isinstance(weekend, str):
        if len(weekend) != 7 or not set(weekend) <= {"0", "1"}:
            raise Failure(VALUE, "A weekend has seven digits from Monday on, 0 or 1.")
        return [digit == "1" for digit in (weekend[-1], *weekend[:-1])]
    number = int(weekend)
    if number in range(1, 8):
        # 1 is Saturday with Sunday; each further number begins a day later.
        return [day in ((number + 5) % 7, (number + 6) % 7) for day in range(7)]
    if number in range(11, 18):
        return [day == number - 11 for day in range(7)]
    raise Failure(NUM, "A weekend is 1 to 7, 11 to 17, or seven digits.")
