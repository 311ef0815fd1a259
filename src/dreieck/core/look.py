"""A cell's look: its number format and appearance; what a value looks like with it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from dreieck.core.numerals import date_of
from dreieck.core.values import Error, Value, number_text, rounded

Form = Literal["general", "number", "grouped", "percent", "date", "time", "datetime", "text"]
Role = Literal["plain", "title", "heading", "input"]


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
    text = _number(value, look)
    for decimals in range((look.decimals or 0) - 1, -1, -1):
        if len(text) <= room:
            break
        text = _number(value, replace(look, decimals=decimals))
    return text if len(text) <= room else _shortened(value, max(room, 6))


def _number(value: float, look: Look) -> str:
    match look.form:
        case "date" | "datetime":
            day = date_of(value)
            if day is None:
                return number_text(value)
            return day.isoformat() + (f" {_clock(value % 1)}" if look.form == "datetime" else "")
        case "time":
            return _clock(value)
        case "percent":
            return f"{_plain(value * 100, look.decimals)}%"
        case "grouped":
            return _plain(value, look.decimals, ",")
        case _:
            return _plain(value, look.decimals)


def _plain(value: float, decimals: int | None, group: str = "") -> str:
    if abs(value) >= 1e15:
        return number_text(value)
    if decimals is not None:
        return format(rounded(value, decimals), f"{group}.{decimals}f")
    if value != 0 and abs(value) < 1e-5:
        return number_text(float(f"{value:.9e}"))
    digits = 10 - math.ceil(math.log10(abs(value) + 1))
    text = format(value, f"{group}.{max(digits, 0)}f")
    text = text.rstrip("0").rstrip(".") if "." in text else text
    return "0" if text == "-0" else text


def _shortened(value: float, room: int) -> str:
    for digits in range(min(room, 15), 0, -1):
        text = format(value, f".{digits}g")
        if len(text) <= room:
            return text
    return format(value, ".0e")


def _clock(part: float) -> str:
    seconds = round(part * 86400)
    text = f"{seconds // 3600:d}:{seconds // 60 % 60:02d}"
    return f"{text}:{seconds % 60:02d}" if seconds % 60 else text
