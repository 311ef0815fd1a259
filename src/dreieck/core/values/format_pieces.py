"""The pieces of a number format's code, and which part of it holds for which numbers.

The codes are those that the OpenDocument and other spreadsheets have in common (ISO/IEC 29500-1,
18.8.31). A code has up to four parts with ``;`` between them: for numbers above 0, below 0, 0, and
for text; or numbers that a condition in brackets tells, ``[>=1000]0;0.00``.
"""

from __future__ import annotations

import operator
import re
from collections.abc import Callable
from functools import lru_cache
from typing import NamedTuple

MAX_CODE = 500
"""How many characters a code can have."""
_PIECE = re.compile(
    r"""
    (?P<text>"[^"]*"|\\.)
  | (?P<blank>_.)
  | (?P<nothing>\*.|\[(?:black|blue|cyan|green|magenta|red|white|yellow|color\s?\d+)\])
  | (?P<elapsed>\[(?:h+|m+|s+)\])
  | (?P<sign>\[\$[^\]]*\])
  | (?P<condition>\[(?:<=|>=|<>|[<>=])-?\d+(?:\.\d+)?\])
  | (?P<unknown>\[[^\]]*\]?)
  | (?P<half>AM/PM|A/P)
  | (?P<general>General)
  | (?P<date>y+|m+|d+|h+|s+(?:\.0+)?)
  | (?P<power>E[+-]0+)
  | (?P<digit>[0\#?])
  | (?P<point>\.)
  | (?P<comma>,)
  | (?P<percent>%)
  | (?P<value>@)
  | (?P<other>[^A-Za-z])
    """,
    re.VERBOSE | re.IGNORECASE,
)
_ORDERS: dict[str, Callable[[float, float], bool]] = {
    "<": operator.lt, "<=": operator.le, "=": operator.eq,
    ">": operator.gt, ">=": operator.ge, "<>": operator.ne,
}  # fmt: skip
_SIGN = re.compile(r"\[\$([^\]-]*)(?:-([0-9a-f]*))?\]", re.IGNORECASE)
_CONDITION = re.compile(r"\[([<>=]+)(.*)\]")
_ENGLISH = 0x09


class FormatCodeError(ValueError):
    """A code that cannot be understood; the message says where."""


class Piece(NamedTuple):
    """A piece of a code: what it is, and its text."""

    kind: str
    text: str


class Part(NamedTuple):
    """A part of a code: its pieces, and for which numbers it holds; None for all that are left.

    A part ``tells_sign`` where only numbers below 0 come to it: it says itself that they are.
    """

    pieces: list[Piece]
    holds: Callable[[float], bool] | None
    tells_sign: bool


@lru_cache(maxsize=256)
def parts_of(code: str) -> list[Part]:
    """The parts of a code. Raises FormatCodeError."""
    parts = [_pieces(part) for part in _divided(code)]
    conditions = [_condition(pieces) for pieces in parts]
    found = []
    for index, pieces in enumerate(parts):
        order, limit = conditions[index] or ("", 0.0)
        if not order and not any(conditions):
            # Without conditions the first part is for all numbers that no other part is for.
            order = "<" if index == 1 else ">=" if index == 0 and len(parts) == 2 else ""
            order = ">" if index == 0 and len(parts) > 2 else order
        holds = _holding(order, limit) if order else None
        below = order in ("<", "<=", "=") and (limit < 0 or (limit == 0 and order == "<"))
        found.append(Part([p for p in pieces if p.kind != "condition"], holds, below))
    return found


def _holding(order: str, limit: float) -> Callable[[float], bool]:
    return lambda value: _ORDERS[order](value, limit)


def _condition(pieces: list[Piece]) -> tuple[str, float] | None:
    for piece in pieces:
        if piece.kind == "condition" and (match := _CONDITION.fullmatch(piece.text)):
            return match[1], float(match[2])
    return None


def _divided(code: str) -> list[str]:
    """The parts of a code as texts; a ``;`` in quotes parts nothing."""
    if len(code) > MAX_CODE:
        raise FormatCodeError(f"A number format can have {MAX_CODE} characters.")
    parts = [""]
    for piece in re.findall(r'"[^"]*"|\\.|\[[^\]]*\]|.', code, re.DOTALL):
        if piece == ";":
            parts.append("")
        else:
            parts[-1] += piece
    return parts


def _pieces(part: str) -> list[Piece]:
    found: list[Piece] = []
    position = 0
    while position < len(part):
        match = _PIECE.match(part, position)
        if not match:
            raise FormatCodeError(
                f"“{part[position]}” has no meaning in a number format; text stands in quotes."
            )
        piece = Piece(match.lastgroup or "", match[0])
        if piece.kind == "unknown":
            raise FormatCodeError(f"“{piece.text}” is not known in a number format.")
        found.append(_sign(piece, part) if piece.kind == "sign" else piece)
        position = match.end()
    return found


def _sign(piece: Piece, part: str) -> Piece:
    """A currency's sign and a language, of which only English names are known."""
    match = _SIGN.fullmatch(piece.text)
    if not match:
        raise FormatCodeError(f"“{piece.text}” is not known in a number format.")
    language = int(match[2], 16) & 0xFF if match[2] else 0
    if language not in (0, _ENGLISH) and re.search("mmm|ddd|am/pm", part, re.IGNORECASE):
        raise FormatCodeError(
            f"Names of months and days can be written in English only; “{piece.text}” asks for"
            " another language."
        )
    return Piece("text", f'"{match[1]}"')


def plain_text(piece: Piece, value: str = "") -> str:
    """What a piece writes that is no digit and no part of a date."""
    match piece.kind:
        case "text":
            return piece.text[1:-1] if piece.text.startswith('"') else piece.text[1:]
        case "blank":
            return " "
        case "nothing":
            return ""
        case "general" | "value":
            return value
        case _:
            return piece.text
