"""Number formats, one record each: how a number is typed in it, shown, and typed again.

``FORMATS`` holds them all but the currencies, of which there is one format for each code.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

from dreieck.core.values import currencies
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
    a cell whose own format ``gives_way`` takes it. Who chooses the format gets ``own_decimals``,
    None for as many as there are; where it ``takes_decimals`` others can be chosen.
    """

    name: str
    read: Callable[[str], tuple[float, int] | None] = lambda text: None
    show: Callable[[Decimal, int | None, int], str | None] = fitted
    edit: Callable[[float], str | None] = lambda number: None
    implied: bool = True
    counts_decimals: bool = False
    gives_way: bool = False
    own_decimals: int | None = None
    takes_decimals: bool = False


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


def _show_scientific(number: Decimal, decimals: int | None, room: int) -> str:
    """A number between 1 and 10, times a power of ten."""
    if not number:
        return f"{quantized(Decimal(0), decimals or 0):f}E+0"
    if decimals is None:
        return power_text(number)
    found = quantized(number, decimals - number.adjusted())
    mantissa = found.scaleb(-found.adjusted())
    return f"{quantized(mantissa, decimals):f}E{found.adjusted():+d}"


def _show_time(number: Decimal, decimals: int | None, room: int) -> str | None:
    seconds = _seconds(number)
    return None if seconds is None else "-" * (seconds < 0) + _clock(abs(seconds))


def _show_duration(number: Decimal, decimals: int | None, room: int) -> str | None:
    """Time that passes, to the second."""
    text = _show_time(number, decimals, room)
    return text if text is None or text.count(":") == 2 else f"{text}:00"


def _show_date(number: Decimal, decimals: int | None, room: int) -> str | None:
    """A date tells the day that a moment lies in."""
    day = date_of(math.floor(number)) if abs(number) < _LAST_DAY else None
    return day.isoformat() if day else None


def _show_datetime(number: Decimal, decimals: int | None, room: int) -> str | None:
    seconds = _seconds(number)
    if seconds is None:
        return None
    days, clock = divmod(seconds, 86400)
    day = date_of(days)
    return f"{day.isoformat()} {_clock(clock)}" if day else None


def _seconds(number: Decimal) -> int | None:
    return int(quantized(number * 86400, 0)) if abs(number) < _LAST_DAY else None


def _clock(seconds: int) -> str:
    text = f"{seconds // 3600:d}:{seconds // 60 % 60:02d}"
    return f"{text}:{seconds % 60:02d}" if seconds % 60 else text


def _edit_as_shown(name: str) -> Callable[[float], str | None]:
    """The text that shows a number, if it reads as exactly this number."""

    def edit(number: float) -> str | None:
        text = FORMATS[name].show(exact(number), None, MAX_NUMERAL)
        found = read_numeral(text) if text else None
        return text if found and found.value == number else None

    return edit


TYPED_TEXT = "typed-text"
"""The format of a text that was typed as one on purpose; the next entry may be something else."""
FORMATS: dict[str, Format] = {
    each.name: each
    for each in (
        Format("general", implied=False, gives_way=True),
        Format("text", implied=False),
        Format(TYPED_TEXT, implied=False, gives_way=True),
        Format(
            "percent",
            read=_percent,
            show=_show_percent,
            edit=_edit_percent,
            counts_decimals=True,
            own_decimals=0,
            takes_decimals=True,
        ),
        Format(
            "grouped",
            read=_grouped,
            show=lambda number, decimals, room: fitted(number, decimals, room, grouped=True),
            counts_decimals=True,
            takes_decimals=True,
        ),
        Format("number", read=_plain, implied=False, own_decimals=2, takes_decimals=True),
        Format("scientific", show=_show_scientific, own_decimals=2, takes_decimals=True),
        Format("date", read=_date, show=_show_date, edit=_edit_as_shown("date")),
        Format("time", read=_time, show=_show_time, edit=_edit_as_shown("time")),
        Format("datetime", read=_datetime, show=_show_datetime, edit=_edit_as_shown("datetime")),
        Format("duration", show=_show_duration, edit=_edit_as_shown("duration")),
    )
}
"""The formats by name; text is read by the first one that knows it."""
_CURRENCY = "currency:"


def currency_form(code: str) -> str:
    """The name of the format of a currency."""
    return _CURRENCY + code


def currency_of(form: str) -> str | None:
    """The code of the currency that a format is for, if it is for one."""
    return form.removeprefix(_CURRENCY) if form.startswith(_CURRENCY) else None


def format_named(form: str) -> Format:
    """The format of a name. Raises KeyError where there is none."""
    code = currency_of(form)
    return FORMATS[form] if code is None else _currency(code)


@lru_cache
def _currency(code: str) -> Format:
    if code not in currencies.codes():
        raise KeyError(code)

    def show(number: Decimal, decimals: int | None, room: int) -> str:
        return currencies.amount(number, code, decimals, room)

    return Format(currency_form(code), show=show, takes_decimals=True)
