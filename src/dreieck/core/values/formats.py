"""Number formats, one record each: how a number is typed in it, shown, and typed again.

``FORMATS`` holds them all. A new one, say a currency, is one record here.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal

from dreieck.core.values.decimals import LARGE, SMALL, exact, fitted, power_text, quantized
from dreieck.core.values.numerals import DATE, NUMBER, TIME, date_of, number_of, passed, serial_of

MAX_NUMERAL = 400
"""Longer texts are no numbers."""
_LAST_DAY = 10**7
"""Dates and times lie closer to the first one than so many days."""


@dataclass(frozen=True, slots=True)
class Numeral:
    """A typed number, the name of the format it was typed in, and its digits behind the point."""

    value: float
    form: str
    decimals: int = 0


@dataclass(frozen=True, slots=True)
class Format:
    """A number format.

    ``read`` gives the number that a text says in this format, with its decimals. ``show``
    writes a number with so many decimals into so much room, None where the format has no text
    for it. ``edit`` is the text that is typed again, None for the plain number. What is typed
    in an ``implied`` format gives it to its cell, with its decimals if it ``counts_decimals``;
    a cell whose own format ``gives_way`` takes it.
    """

    name: str
    read: Callable[[str], tuple[float, int] | None] = lambda text: None
    show: Callable[[Decimal, int | None, int], str | None] = fitted
    edit: Callable[[float], str | None] = lambda number: None
    implied: bool = True
    counts_decimals: bool = False
    gives_way: bool = False


def read_numeral(text: str) -> Numeral | None:
    """Read a typed number; None where the text is something else."""
    text = text.strip()
    if len(text) > MAX_NUMERAL:
        return None
    # Text copied from a page often has the true minus sign.
    if text.startswith("−"):
        text = "-" + text[1:]
    for each in FORMATS.values():
        found = each.read(text)
        if found:
            return Numeral(found[0], each.name, found[1])
    return None


def read_number(text: str) -> float | None:
    """The number that a text says, or None."""
    numeral = read_numeral(text)
    return None if numeral is None else numeral.value


def _plain(text: str) -> tuple[float, int] | None:
    match = NUMBER.fullmatch(text)
    return number_of(match) if match and not match["percent"] else None


def _grouped(text: str) -> tuple[float, int] | None:
    return _plain(text) if "," in text else None


def _percent(text: str) -> tuple[float, int] | None:
    match = NUMBER.fullmatch(text)
    return number_of(match, power=-2) if match and match["percent"] else None


def _show_percent(number: Decimal, decimals: int | None, room: int) -> str:
    return fitted(number.scaleb(2), decimals, room, sign="%")


def _edit_percent(value: float) -> str:
    """A number as a percent with all its digits, which reads as exactly this number."""
    number = exact(value).scaleb(2).normalize()
    plain = SMALL <= number.adjusted() < LARGE
    return f"{number:f}%" if plain else f"{power_text(number)}%"


def _date(text: str) -> tuple[float, int] | None:
    match = DATE.fullmatch(text)
    day = serial_of(match) if match and match[4] is None else None
    return None if day is None else (day, 0)


def _time(text: str) -> tuple[float, int] | None:
    match = TIME.fullmatch(text)
    return (passed(match), 0) if match else None


def _datetime(text: str) -> tuple[float, int] | None:
    match = DATE.fullmatch(text)
    time = TIME.fullmatch(match[4].strip()) if match and match[4] else None
    day = serial_of(match) if match else None
    # A time of day has no sign; one that passes may have.
    return (day + passed(time), 0) if day is not None and time and not time[1] else None


def _show_time(number: Decimal, decimals: int | None, room: int) -> str | None:
    seconds = _seconds(number)
    if seconds is None:
        return None
    return _in_room("-" * (seconds < 0) + _clock(abs(seconds)), room)


def _show_date(number: Decimal, decimals: int | None, room: int) -> str | None:
    """A date tells the day that a moment lies in."""
    day = date_of(math.floor(number)) if abs(number) < _LAST_DAY else None
    return _in_room(day.isoformat(), room) if day else None


def _show_datetime(number: Decimal, decimals: int | None, room: int) -> str | None:
    seconds = _seconds(number)
    if seconds is None:
        return None
    days, clock = divmod(seconds, 86400)
    day = date_of(days)
    return _in_room(f"{day.isoformat()} {_clock(clock)}", room) if day else None


def _seconds(number: Decimal) -> int | None:
    return int(quantized(number * 86400, 0)) if abs(number) < _LAST_DAY else None


def _clock(seconds: int) -> str:
    text = f"{seconds // 3600:d}:{seconds // 60 % 60:02d}"
    return f"{text}:{seconds % 60:02d}" if seconds % 60 else text


def _in_room(text: str, room: int) -> str | None:
    return text if len(text) <= room else None


def _edit_as_shown(name: str) -> Callable[[float], str | None]:
    """The text that shows a number, if it reads as exactly this number."""

    def edit(number: float) -> str | None:
        text = FORMATS[name].show(exact(number), None, MAX_NUMERAL)
        found = read_numeral(text) if text else None
        return text if found and found.value == number else None

    return edit


FORMATS: dict[str, Format] = {
    each.name: each
    for each in (
        Format("general", implied=False, gives_way=True),
        Format("text", implied=False, gives_way=True),
        Format(
            "percent",
            read=_percent,
            show=_show_percent,
            edit=_edit_percent,
            counts_decimals=True,
        ),
        Format(
            "grouped",
            read=_grouped,
            show=lambda number, decimals, room: fitted(number, decimals, room, grouped=True),
            counts_decimals=True,
        ),
        Format("number", read=_plain, implied=False),
        Format("date", read=_date, show=_show_date, edit=_edit_as_shown("date")),
        Format("time", read=_time, show=_show_time, edit=_edit_as_shown("time")),
        Format("datetime", read=_datetime, show=_show_datetime, edit=_edit_as_shown("datetime")),
    )
}
"""All formats by name; text is read by the first one that knows it."""
