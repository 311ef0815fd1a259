"""Functions of single characters and their numbers."""

from __future__ import annotations

import unicodedata

from dreieck.core.functions.registry import Failure, Takes, arg, function
from dreieck.core.values import VALUE

_TEXT = arg("text", Takes.TEXT, "any text")
_CODE_PAGE = "cp1252"
"""The 256 characters that CHAR and CODE number, as most tables do."""


@function(
    "CHAR",
    "6.20.3",
    "The character with a number from 1 to 255.",
    arg("number", Takes.WHOLE, "1 to 255"),
    words="character number {0}",
    example=("=CHAR(65)", "A"),
)
def _char(number: int) -> str:
    if not 1 <= number <= 255:
        raise Failure(VALUE, "The number lies between 1 and 255; UNICHAR takes larger ones.")
    return bytes([number]).decode(_CODE_PAGE, errors="replace").replace("\ufffd", chr(number))


@function(
    "CODE",
    "6.20.5",
    "The number, up to 255, of the first character of a text.",
    _TEXT,
    words="the number of the first character of {0}",
    example=("=CODE(A2)", 70.0),
)
def _code(text: str) -> float:
    try:
        return float(_first(text).encode(_CODE_PAGE)[0])
    except UnicodeEncodeError:
        if ord(text[0]) < 256:
            return float(ord(text[0]))
        raise Failure(VALUE, f"“{text[0]}” has no number up to 255; use UNICODE.") from None


@function(
    "UNICHAR",
    "6.20.25",
    "The character with a number in Unicode.",
    arg("number", Takes.WHOLE, "such as 8364 for €"),
    words="character number {0}",
    example=("=UNICHAR(8364)", "€"),
)
def _unichar(number: int) -> str:
    surrogate = 0xD800 <= number <= 0xDFFF
    if not 1 <= number <= 0x10FFFF or surrogate:
        raise Failure(VALUE, "No character has this number.")
    return chr(number)


@function(
    "UNICODE",
    "6.20.26",
    "The number in Unicode of the first character of a text.",
    _TEXT,
    words="the number of the first character of {0}",
    example=('=UNICODE("€")', 8364.0),
)
def _unicode(text: str) -> float:
    return float(ord(_first(text)))


@function(
    "CLEAN",
    "6.20.4",
    "A text without characters that cannot be seen, such as line ends.",
    _TEXT,
    words="{0} without what cannot be seen",
    example=('=CLEAN("Scree"&CHAR(10))', "Scree"),
)
def _clean(text: str) -> str:
    return "".join(each for each in text if unicodedata.category(each) != "Cc")


def _first(text: str) -> str:
    if not text:
        raise Failure(VALUE, "The text is empty.")
    return text[0]
