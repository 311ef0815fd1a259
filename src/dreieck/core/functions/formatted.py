"""Functions that write numbers as text."""

from __future__ import annotations

from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.values import VALUE, Error, Value, exact, quantized, to_number
from dreieck.core.values.format_codes import formatted
from dreieck.core.values.format_pieces import FormatCodeError


@function(
    "TEXT",
    "6.20.23",
    "A number as text, written by a code.",
    arg("value", Takes.VALUE, "a number, date or text"),
    arg("code", Takes.TEXT, 'such as "0.00", "#,##0", "0.0%", "yyyy-mm-dd", "h:mm"'),
    words="{0} written as {1}",
    example=('=TEXT(1234.5,"#,##0.00")', "1,234.50"),
)
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


@function(
    "FIXED",
    "6.20.10",
    "A number as text with so many decimals.",
    arg("number", Takes.NUMBER, "any number"),
    optional("decimals", Takes.WHOLE, "how many; 2 if left out; -1 rounds to tens", "2"),
    optional("plain", Takes.LOGICAL, "TRUE for no commas between thousands"),
    words="{0} with {1} decimals as text",
    example=("=FIXED(1234.567,1)", "1,234.6"),
)
def _fixed(number: float, decimals: int = 2, plain: bool = False) -> str:
    if decimals > _MAX_DECIMALS:
        raise Failure(VALUE, f"A number can be written with {_MAX_DECIMALS} decimals.")
    found = quantized(exact(number), decimals)
    return format(found if found else abs(found), "f" if plain else ",f")


_MAX_DECIMALS = 127
