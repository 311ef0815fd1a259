"""Functions of single characters and their numbers."""

from __future__ import annotations

import unicodedata

from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import VALUE

_CODE_PAGE = "cp1252"
"""The 256 characters that CHAR and CODE number, as most tables do."""


@function("CHAR")
def _char(number: int) -> str:
    if not 1 <= number <= 255:
        raise Failure(VALUE, "The number lies between 1 and 255; UNICHAR takes larger ones.")
    return bytes([number]).decode(_CODE_PAGE, errors="replace").replace("\ufffd", chr(number))


@function("CODE")
def _code(text: str) -> float:
    try:
        return float(_first(text).encode(_CODE_PAGE)[0])
    except UnicodeEncodeError:
        if ord(text[0]) < 256:
            return float(ord(text[0]))
        raise Failure(VALUE, f"“{text[0]}” has no number up to 255; use UNICODE.") from None


@function("UNICHAR")
def _unichar(number: int) -> str:
    surrogate = 0xD800 <= number <= 0xDFFF
    if not 1 <= number <= 0x10FFFF or surrogate:
        raise Failure(VALUE, "No character has this number.")
    return chr(number)


@function("UNICODE")
def _unicode(text: str) -> float:
    return float(ord(_first(text)))


@function("CLEAN")
def _clean(text: str) -> str:
    return "".join(each for each in text if unicodedata.category(each) != "Cc")


def _first(text: str) -> str:
    if not text:
        raise Failure(VALUE, "The text is empty.")
    return text[0]
