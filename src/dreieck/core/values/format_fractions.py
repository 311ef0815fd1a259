"""Numbers written as fractions by a code: ``# ?/?``, ``#/##``, ``0 ?/8``."""

from __future__ import annotations

import math
import re
from decimal import Decimal
from fractions import Fraction

from dreieck.core.values.format_pieces import FormatCodeError, Piece, plain_text

_MAX_DIGITS = 4
"""So many digits the lower number of a fraction has at most."""
_FRACTION = re.compile(
    r"(?:(?P<whole>[0#?]+)(?P<between>[^0#?/]+))?(?P<top>[0#?]+)/(?P<bottom>[0#?]+|[1-9]\d*)"
)
_UNCLEAR = (
    "This number format has no fraction that can be written: its lower number is a number, or up"
    f" to {_MAX_DIGITS} signs, as in # ?/? or # ?/8."
)


def fraction_text(size: Decimal, pieces: list[Piece]) -> str | None:
    """A number, which is not below 0, by a code with a fraction; None where there is none.

    Raises FormatCodeError.
    """
    kinds = [piece.kind for piece in pieces]
    slash = next((n for n, piece in enumerate(pieces) if piece == Piece("other", "/")), 0)
    if "digit" not in kinds[:slash]:
        return None
    first, end = kinds.index("digit"), slash + 1
    while end < len(pieces) and (pieces[end].kind == "digit" or pieces[end].text.isdigit()):
        end += 1
    match = _FRACTION.fullmatch("".join(map(plain_text, pieces[first:end])))
    if not match or {"point", "comma", "percent", "power"} & set(kinds):
        raise FormatCodeError(_UNCLEAR)
    before = "".join(map(plain_text, pieces[:first]))
    behind = "".join(map(plain_text, pieces[end:]))
    return before + _written(Fraction(size), match) + behind


def _written(number: Fraction, match: re.Match[str]) -> str:
    if match["whole"] is None:
        return _part(*_nearest(number, match["bottom"]), match)
    whole = int(number)
    top, bottom = _nearest(number - whole, match["bottom"])
    if top == bottom:
        whole, top = whole + 1, 0
    shown = f"{whole or ''}".zfill(match["whole"].count("0"))
    if top:
        return shown + match["between"] + _part(top, bottom, match)
    # A whole number keeps the room of its fraction, so that numbers stand below each other.
    width = len(match["between"] + match["top"] + match["bottom"]) + 1
    return (shown or "0") + " " * width * ("?" in match["top"])


def _part(top: int, bottom: int, match: re.Match[str]) -> str:
    above = f"{top:d}".rjust(len(match["top"]) * ("?" in match["top"]))
    below = f"{bottom:d}".ljust(len(match["bottom"]) * ("?" in match["bottom"]))
    return f"{above}/{below}"


def _nearest(number: Fraction, below: str) -> tuple[int, int]:
    """The fraction that comes nearest: with the lower number that is given, or so many digits."""
    if below.strip("0#?"):
        return math.floor(number * int(below) + Fraction(1, 2)), int(below)
    if len(below) > _MAX_DIGITS:
        raise FormatCodeError(_UNCLEAR)
    found = number.limit_denominator(10 ** len(below) - 1)
    return found.numerator, found.denominator
