"""Values: numbers, text, logical values, errors and the empty cell; conversions.

A number is a float, an empty cell is None. The rules are those of OpenFormula
(OpenDocument part 4), 4 and 6.3.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

from dreieck.core.budget import spend
from dreieck.core.grid import Cell
from dreieck.core.values.decimals import joined_text
from dreieck.core.values.formats import read_number

DIV0 = "#DIV/0!"
NA = "#N/A"
NAME = "#NAME?"
NULL = "#NULL!"
NUM = "#NUM!"
REF = "#REF!"
VALUE = "#VALUE!"
LOOP = "#LOOP!"
WORK = "#WORK!"
ROOM = "#ROOM!"
ERROR_CODES = (DIV0, NA, NAME, NULL, NUM, REF, VALUE, LOOP, WORK, ROOM)


class Place(NamedTuple):
    """A cell on a sheet that is given by its name."""

    sheet: str
    cell: Cell


@dataclass(frozen=True, slots=True)
class Error:
    """An error value. Errors are equal when their codes are.

    ``why`` says in words what happened; ``origin`` is the cell where it began.
    """

    code: str
    why: str = field(default="", compare=False)
    origin: Place | None = field(default=None, compare=False)


UNFINISHED = Error(WORK, "This is still being worked out.")
"""What is shown in place of a value that has to wait."""

Value = float | str | bool | Error | None

MAX_TEXT = 100_000
"""How many characters a text can have that a formula makes."""


def bounded_text(parts: Sequence[str]) -> str | Error:
    """Texts joined; an error where that is longer than a text can be, before it is built."""
    length = sum(map(len, parts))
    if length > MAX_TEXT:
        return Error(
            VALUE, f"The text would have {length:,} characters; it can have {MAX_TEXT:,}."
        )
    spend(length // 2)
    return "".join(parts)


def to_number(value: Value) -> float | Error:
    """A value where a number is needed: empty is 0, text must read as a number."""
    if value is None:
        return 0.0
    if isinstance(value, str):
        number = read_number(value)
        if number is None:
            return Error(VALUE, f"“{_short(value)}” is text where a number is needed.")
        return number
    return value if isinstance(value, Error) else float(value)


def to_text(value: Value) -> str | Error:
    """A value where text is needed: empty is no text, a number has 15 digits."""
    if value is None:
        return ""
    if isinstance(value, bool):
        return "TRUE" if value else "FALSE"
    if isinstance(value, float):
        return joined_text(value)
    return value


def to_logical(value: Value) -> bool | Error:
    """A value where a condition is needed: 0 and empty are false, other numbers true."""
    if value is None:
        return False
    if isinstance(value, str):
        if value.upper() in ("TRUE", "FALSE"):
            return value.upper() == "TRUE"
        number = read_number(value)
        if number is None:
            return Error(VALUE, f"“{_short(value)}” is text where TRUE or FALSE is needed.")
        return number != 0
    return value if isinstance(value, Error) else bool(value)


def from_number(number: float) -> Value:
    """A number as a value: 0 has no sign, and what is too large or undefined is an error."""
    if math.isfinite(number):
        return number + 0.0
    return Error(NUM, "The result is too large for a number, or undefined.")


def compared(left: Value, right: Value) -> int | Error:
    """-1, 0 or 1 as left is less, equal or greater; case does not count.

    Numbers come before text, text before logical values; empty is the other side's
    empty value (OpenFormula 6.4.9).
    """
    if isinstance(left, Error):
        return left
    if isinstance(right, Error):
        return right
    left = _empty_like(right) if left is None else left
    right = _empty_like(left) if right is None else right
    if _rank(left) != _rank(right):
        return -1 if _rank(left) < _rank(right) else 1
    if isinstance(left, str) and isinstance(right, str):
        left, right = left.casefold(), right.casefold()
    return (left > right) - (left < right)  # type: ignore[operator]  # one rank, one type


def _rank(value: Value) -> int:
    return 2 if isinstance(value, bool) else 1 if isinstance(value, str) else 0


def _empty_like(value: Value) -> float | str | bool:
    return "" if isinstance(value, str) else False if isinstance(value, bool) else 0.0


def _short(text: str) -> str:
    return text if len(text) <= 40 else text[:39] + "…"
