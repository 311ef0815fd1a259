"""Typed text that can be read in two ways: what it is taken for, and what else it could be.

It is taken for what most people who type it mean; the other reading is one click away.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from datetime import date
from typing import NamedTuple

from dreieck.core.values.decimals import number_text
from dreieck.core.values.numerals import DATE, MONTHS, full_year
from dreieck.core.values.value import ERROR_CODES, LOOP, ROOM, WORK

MAX_TEXT_LENGTH = 400
"""Longer texts are not looked at."""
_GROUP = "[ '\u00a0\u2009\u202f]"
_COMMA = re.compile(rf"([+-]?)(\d{{1,3}}(?:[.]\d{{3}})+|\d{{1,3}}(?:{_GROUP}\d{{3}})+|\d+),(\d+)")
_GROUPED = re.compile(rf"[+-]?[1-9]\d{{0,2}}(?:{_GROUP}\d{{3}})+(?:\.\d+)?")
_DAY = re.compile(r"(\d{1,2})(?P<mark>[-/.])(\d{1,2})(?P=mark)(\d{4}|\d{2})")
_TURN = 2000
_FRACTION = re.compile(r"(\d{1,4})/(\d{1,4})")
_ONE_COMMA = re.compile(r"[+-]?\d{1,3},\d{3}")
_ZEROS = re.compile(r"0\d+")
_DIGITS = re.compile(r"[+-]?\d{16,}")


class Other(NamedTuple):
    """Another reading: what it is, and the entry that says so."""

    says: str
    entry: str


class Taken(NamedTuple):
    """An entry as it is taken: the text that says it plainly, what it is, and other readings."""

    entry: str
    says: str
    others: tuple[Other, ...]


def as_text(text: str) -> Other:
    """The reading of an entry as the text that it is."""
    return Other("keep the text", "'" + text)


def taken(text: str) -> Taken | None:
    """How an entry is taken that is no plain number, date or formula; None for plain text."""
    if len(text) > MAX_TEXT_LENGTH:
        return None
    stripped = text.strip()
    if match := _COMMA.fullmatch(stripped):
        number = match[1] + re.sub(r"\D", "", match[2]) + "." + match[3]
        return Taken(
            "'" + text, "text, not a number: decimals take a point", (_the_number(number),)
        )
    if _GROUPED.fullmatch(stripped):
        number = re.sub(_GROUP, "", stripped)
        grouped = f"{float(number):,.{len(number.partition('.')[2])}f}"
        return Taken(grouped, f"the number {grouped}", (as_text(text),))
    if match := _DAY.fullmatch(stripped):
        return _taken_date(text, match)
    if (match := _FRACTION.fullmatch(stripped)) and int(match[2]):
        calculation = f"={match[1]}/{match[2]}"
        value = number_text(float(f"{int(match[1]) / int(match[2]):.4g}"))
        says = f"calculate {calculation}, about {value}"
        return Taken("'" + text, "text, not a calculation: those begin with =",
                     (Other(says, calculation),))  # fmt: skip
    if stripped.upper() in ERROR_CODES and stripped.upper() not in (LOOP, WORK, ROOM):
        code = stripped.upper()
        return Taken("=" + code, f"the error {code}", (as_text(text),))
    return None


def taken_number(text: str, value: float) -> Taken | None:
    """How a number is taken that could be something else; None where it could not."""
    text = text.strip()
    if _ZEROS.fullmatch(text):
        plain = number_text(value)
        return Taken(plain, f"the number {plain}, without the zeros in front", (as_text(text),))
    if _DIGITS.fullmatch(text):
        return Taken(text, "a number, of which only 15 to 17 digits are kept", (as_text(text),))
    if _ONE_COMMA.fullmatch(text):
        plain, point = number_text(value), text.replace(",", ".")
        return Taken(text, f"the number {plain}: the comma parts thousands", (_the_number(point),))
    return None


def taken_year(text: str, told: str) -> Taken | None:
    """How a date is taken, told as in ISO 8601, of whose year two digits are typed."""
    match = DATE.fullmatch(told)
    if not match or match[1] in text:
        return None
    day = date.fromisoformat(told[:10])
    other = _in_year(day, day.year + (100 if day.year < _TURN else -100))
    others = [Other(f"make it {_long(other)}", other.isoformat() + told[10:])] if other else []
    return Taken(told, f"the date {_long(day)}", (*others, as_text(text)))


def _in_year(day: date, year: int) -> date | None:
    try:
        return day.replace(year=year)
    except ValueError:
        return None


def one_order(column: Sequence[str | None]) -> Sequence[str | None]:
    """Texts of a column, in which dates are written in one order.

    Where one of them can only have the month first, and none the day, all have it first; they
    are given as dates that can be read in one way.
    """
    joined = "\n".join(filter(None, column))
    if "-" not in joined and "/" not in joined:
        return column
    found = [_DAY.fullmatch((text or "").strip()) for text in column]
    dates = [match for match in found if match and match["mark"] != "."]
    if not any(int(match[3]) > 12 for match in dates) or any(int(m[1]) > 12 for m in dates):
        return column
    return [
        _month_first(match) or text if match and match["mark"] != "." else text
        for match, text in zip(found, column, strict=True)
    ]


def _month_first(match: re.Match[str]) -> str | None:
    try:
        return date(full_year(match[4]), int(match[1]), int(match[3])).isoformat()
    except ValueError:
        return None


def _the_number(text: str) -> Other:
    return Other(f"make it the number {text}", text)


def _taken_date(text: str, match: re.Match[str]) -> Taken | None:
    """A date whose parts are not in the order year, month, day."""
    if len(match[4]) == 2 and match["mark"] != "/":
        return None
    order = (full_year(match[4]), int(match[1]), int(match[3]), match["mark"])
    days = list(dict.fromkeys(_dates(*order)))
    if not days:
        return None
    first, *further = days
    others = [Other(f"make it {_long(day)}", day.isoformat()) for day in further]
    return Taken(first.isoformat(), f"the date {_long(first)}", (*others, as_text(text)))


def _dates(year: int, one: int, two: int, mark: str) -> Iterator[date]:
    """The dates that two numbers can mean: day first, which most of the world writes."""
    orders = ((two, one),) if mark == "." else ((two, one), (one, two))
    for month, day in orders:
        try:
            yield date(year, month, day)
        except ValueError:
            continue


def _long(day: date) -> str:
    """A date that cannot be misread, such as 1 February 2026."""
    return f"{day.day} {MONTHS[day.month - 1]} {day.year}"
