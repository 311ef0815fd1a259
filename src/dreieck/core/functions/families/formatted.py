"""Functions that write numbers as text."""

from __future__ import annotations

from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import VALUE, Error, Value, exact, quantized, to_number
from dreieck.core.values.format_codes import formatted
from dreieck.core.values.format_pieces import FormatCodeError


@function("TEXT")
def _text(value: Value, code: str) -> Value:
    if isinstance(value, Error):
        return value
    if isinstance(value, bool):
        return "TRUE" if value else "FALSE"
    number = to_number(value)
    try:
        return formatted(str(value) if isinstance(number, Error) else number, code)
    except FormatCodeError as problem:
        raise Failure(VALUE, str(problem)) from None


@function("FIXED")
def _fixed(number: float, decimals: int = 2, plain: bool = False) -> str:
    if decimals > _MAX_DECIMALS:
        raise Failure(VALUE, f"A number can be written with {_MAX_DECIMALS} decimals.")
    found = quantized(exact(number), decimals)
    return format(found if found else abs(found), "f" if plain else ",f")


_MAX_DECIMALS = 127
