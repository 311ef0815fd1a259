"""A cell's look: its number format and appearance; what a value looks like with it.

What is shown is the shortest decimal text of the number, rounded: it never differs from the
value by more than half a unit of its last digit. A date tells the day that a moment lies in.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from dreieck.core.values.numerals import date_of
from dreieck.core.values.value import Error, Value, exact, quantized

Form = Literal["general", "number", "grouped", "percent", "date", "time", "datetime", "text"]
Role = Literal["plain", "title", "heading", "input"]
MOST_DECIMALS = 30
_DIGITS = 10
"""So many digits a number without a number format of its own shows."""
_LARGE, _SMALL = 15, -5
"""Beyond these powers of ten a number is shown as a power of ten."""
_LAST_DAY = 10**7
"""Dates and times lie closer to the first one than so many days."""


@dataclass(frozen=True, slots=True)
class Look:
    """How a cell shows its value.

    ``decimals`` counts the digits behind the point, None for as many as there are.
    """

    form: Form = "general"
    decimals: int | None = None
    role: Role = "plain"


PLAIN = Look()


def shown(value: Value, look: Look = PLAIN, room: int = 40) -> str:
    """The text that shows a value in a cell with ``room`` characters.

    A number is never cut: what does not fit is shown with fewer decimals, then in powers
    of ten.
    """
    if value is None:
        return ""
    if isinstance(value, bool):
        return "TRUE" if value else "FALSE"
    if isinstance(value, Error):
        return value.code
    if isinstance(value, str):
        return value
    number = exact(value)
    moment = _moment(number, look.form)
    if moment is not None and len(moment) <= room:
        return moment
    sign = ""
    if look.form == "percent":
        number, sign = number.scaleb(2), "%"
    grouped = look.form == "grouped"
    text = _written(number, look.decimals, grouped=grouped) + sign
    for decimals in range((look.decimals or 0) - 1, -1, -1):
        if len(text) <= room:
            break
        text = _written(number, decimals, grouped=grouped) + sign
    return text if len(text) <= room else _shortened(number, max(room, 6) - len(sign)) + sign


def percent_text(value: float) -> str:
    """A number as a percent with all its digits, which reads as exactly this number."""
    number = exact(value).scaleb(2).normalize()
    if _SMALL <= number.adjusted() < _LARGE:
        return f"{number:f}%"
    return f"{_power(number)}%"


def _written(number: Decimal, decimals: int | None, *, grouped: bool) -> str:
    power = number.adjusted() if number else 0
    if power >= _LARGE or (decimals is None and power < _SMALL):
        return _significant(number, _DIGITS)
    found = quantized(
        number, max(_DIGITS - 1 - max(power, 0), 0) if decimals is None else decimals
    )
    if decimals is None:
        found = found.normalize()
    return format(abs(found) if found == 0 else found, ",f" if grouped else "f")


def _shortened(number: Decimal, room: int) -> str:
    """A number with as many digits as there is room for."""
    for digits in range(min(room, _LARGE), 0, -1):
        text = _significant(number, digits)
        if len(text) <= room:
            return text
    return _power(_rounded(number, 1))


def _significant(number: Decimal, digits: int) -> str:
    """A number with so many digits, in powers of ten where it is very large or small."""
    found = _rounded(number, digits).normalize()
    if not found:
        return "0"
    return f"{found:f}" if _SMALL < found.adjusted() < digits else _power(found)


def _rounded(number: Decimal, digits: int) -> Decimal:
    return quantized(number, digits - 1 - number.adjusted()) if number else number


def _power(number: Decimal) -> str:
    mantissa = number.scaleb(-number.adjusted()).normalize()
    return f"{mantissa:f}E{number.adjusted():+d}"


def _moment(number: Decimal, form: Form) -> str | None:
    """A date or time as text; None for another number format, or beyond the calendar."""
    if form not in ("date", "time", "datetime") or abs(number) >= _LAST_DAY:
        return None
    seconds = int(quantized(number * 86400, 0))
    if form == "time":
        return "-" * (seconds < 0) + _clock(abs(seconds))
    days, clock = divmod(seconds, 86400)
    day = date_of(days if form == "datetime" else math.floor(number))
    if day is None:
        return None
    return day.isoformat() if form == "date" else f"{day.isoformat()} {_clock(clock)}"


def _clock(seconds: int) -> str:
    text = f"{seconds // 3600:d}:{seconds // 60 % 60:02d}"
    return f"{text}:{seconds % 60:02d}" if seconds % 60 else text
