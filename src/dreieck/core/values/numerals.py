"""What typed numbers, dates and times are made of: ``1,250.50``, ``2026-03-01``, ``9:30``.

Dates are counted in days, times are parts of a day (OpenFormula 4.3).
"""

from __future__ import annotations

import math
import re
from datetime import date, timedelta

EPOCH = date(1899, 12, 30)
"""The date whose serial number is 0."""
MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September",
    "October", "November", "December",
)  # fmt: skip
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")

NUMBER = re.compile(
    r"(?P<sign>[+-]?)(?P<whole>\d{1,3}(?:,\d{3})+|\d+|(?=\.\d))(?P<decimals>\.\d*)?"
    r"(?P<exponent>[eE][+-]?\d{1,3})?\s*(?P<percent>%?)"
)
DATE = re.compile(r"(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ](.+))?")
TIME = re.compile(r"([+-]?)(\d{1,9}):([0-5]?\d)(?::([0-5]?\d(?:\.\d+)?))?")


def number_of(match: re.Match[str], power: int = 0) -> tuple[float, int] | None:
    """The number of a match of ``NUMBER`` times a power of ten, and its digits behind the point.

    None where it is too large.
    """
    decimals = match["decimals"] or ""
    whole = (match["whole"] or "0").replace(",", "")
    # The point is moved in the text, so that a percent reads back as the same number.
    exponent = int((match["exponent"] or "e0")[1:]) + power
    value = float(f"{match['sign']}{whole}{decimals}e{exponent}")
    return (value, max(len(decimals) - 1, 0)) if math.isfinite(value) else None


def serial(day: date) -> float:
    """The serial number of a date: days since 1899-12-30."""
    return float((day - EPOCH).days)


def date_of(number: float) -> date | None:
    """The date of a serial number; None where the calendar does not reach."""
    try:
        return EPOCH + timedelta(days=int(number // 1))
    except OverflowError:
        return None


def serial_of(match: re.Match[str]) -> float | None:
    """The serial number of the day of a match of ``DATE``; None where there is no such day."""
    try:
        return serial(date(int(match[1]), int(match[2]), int(match[3])))
    except ValueError:
        return None


def full_year(digits: str) -> int:
    """The year that is meant by its digits; two of them mean one from 1950 to 2049.

    So they do where years have to be read for good (RFC 5280, 4.1.2.5.1).
    """
    year = int(digits)
    return year if len(digits) > 2 else year + (2000 if year < 50 else 1900)


def passed(match: re.Match[str]) -> float:
    """The time that a match of ``TIME`` tells, as part of a day."""
    part = (int(match[2]) * 3600 + int(match[3]) * 60 + float(match[4] or 0)) / 86400
    return -part if match[1] == "-" else part
