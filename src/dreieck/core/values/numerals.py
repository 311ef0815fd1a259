"""Numbers as people type them: ``1,250.50``, ``12%``, ``2026-03-01``, ``9:30``.

Dates are counted in days, times are parts of a day (OpenFormula 4.3).
"""

from __future__ import annotations

import re
from datetime import date, timedelta
from typing import NamedTuple

EPOCH = date(1899, 12, 30)
"""The date whose serial number is 0."""
MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September",
    "October", "November", "December",
)  # fmt: skip
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

_NUMBER = re.compile(
    r"(?P<sign>[+-]?)(?P<whole>\d{1,3}(?:,\d{3})+|\d+|(?=\.\d))(?P<decimals>\.\d*)?"
    r"(?P<exponent>[eE][+-]?\d{1,3})?\s*(?P<percent>%?)"
)
_DATE = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](.+))?")
_TIME = re.compile(r"([+-]?)(\d{1,9}):([0-5]?\d)(?::([0-5]?\d(?:\.\d+)?))?")


class Numeral(NamedTuple):
    """A number and how it was typed.

    ``form`` is "number", "grouped", "percent", "date", "time" or "datetime";
    ``decimals`` counts the digits typed behind the point.
    """

    value: float
    form: str
    decimals: int = 0


def read_numeral(text: str) -> Numeral | None:
    """Read a typed number; None where the text is something else."""
    text = text.strip()
    if len(text) > 400:
        return None
    # Text copied from a page often has the true minus sign.
    if text.startswith("−"):
        text = "-" + text[1:]
    if match := _NUMBER.fullmatch(text):
        decimals = match["decimals"] or ""
        whole = (match["whole"] or "0").replace(",", "")
        # The point is moved in the text, so that a percent reads back as the same number.
        exponent = int((match["exponent"] or "e0")[1:]) - 2 * bool(match["percent"])
        value = float(f"{match['sign']}{whole}{decimals}e{exponent}")
        if value in (float("inf"), float("-inf")):
            return None
        digits = max(len(decimals) - 1, 0)
        if match["percent"]:
            return Numeral(value, "percent", digits)
        return Numeral(value, "grouped" if "," in match["whole"] else "number", digits)
    if match := _DATE.fullmatch(text):
        return _read_date(match)
    if match := _TIME.fullmatch(text):
        return Numeral(_day_part(match), "time")
    return None


def read_number(text: str) -> float | None:
    """The number that a text says, or None."""
    numeral = read_numeral(text)
    return None if numeral is None else numeral.value


def serial(day: date) -> float:
    """The serial number of a date: days since 1899-12-30."""
    return float((day - EPOCH).days)


def date_of(number: float) -> date | None:
    """The date of a serial number; None where the calendar does not reach."""
    try:
        return EPOCH + timedelta(days=int(number // 1))
    except OverflowError:
        return None


def _read_date(match: re.Match[str]) -> Numeral | None:
    try:
        day = serial(date(int(match[1]), int(match[2]), int(match[3])))
    except ValueError:
        return None
    if match[4] is None:
        return Numeral(day, "date")
    time = _TIME.fullmatch(match[4].strip())
    # A time of day has no sign; one that passes may have.
    return Numeral(day + _day_part(time), "datetime") if time and not time[1] else None


def _day_part(match: re.Match[str]) -> float:
    part = (int(match[2]) * 3600 + int(match[3]) * 60 + float(match[4] or 0)) / 86400
    return -part if match[1] == "-" else part
