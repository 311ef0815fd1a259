"""Formulas as they are typed where decimals take a comma: ``=SUM(1,5;B2)`` for ``=SUM(1.5,B2)``.

Both texts have the same length, sign for sign, so that places in one are places in the other.
Tables in braces are written in the neutral way everywhere.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

_PIECE = re.compile(
    r"""
    (?P<kept>"(?:[^"]|"")*"? | '(?:[^']|'')*'? | \{[^}]*\}?)
  | (?P<word>[^\W\d][\w.]*(?:\$?\d+)? | \$[\w$]+ | \d+:\d+)
  | (?P<numbers>\d+(?:\.\d*)?(?:,\d+(?:\.\d*)?)*(?:[eE][+-]?\d+)?)
  | (?P<parts>;)
  | (?P<comma>,)
  | (?P<other>.)
    """,
    re.VERBOSE | re.DOTALL,
)


class Told(NamedTuple):
    """A formula in neutral signs; and with its commas read otherwise, if they could be."""

    text: str
    otherwise: str | None


def told(text: str) -> Told:
    """What a formula says that is typed where decimals take a comma.

    A comma between two digits is decimal, unless several numbers follow each other. Without a
    semicolon that parts arguments it could part them as well, so that this reading is told, too.
    """
    pieces = list(_pieces(text))
    has_parts = any(kind == "parts" for kind, _ in pieces)
    depth, doubtful = 0, False
    said: list[str] = []
    for kind, piece in pieces:
        depth += (piece == "(") - (piece == ")")
        if kind == "numbers" and (piece.count(",") == 1 or (has_parts and "," in piece)):
            doubtful = doubtful or (depth > 0 and not has_parts)
            said.append(piece.replace(",", "."))
        else:
            said.append("," if kind == "parts" else piece)
    neutral = "".join(said)
    return Told(neutral, text if doubtful and text != neutral else None)


def spelled(text: str) -> str:
    """A formula in neutral signs as it is typed where decimals take a comma."""
    return "".join(
        piece.replace(",", ";").replace(".", ",") if kind == "numbers" else ";" if kind == "comma"
        else piece
        for kind, piece in _pieces(text)
    )  # fmt: skip


def _pieces(text: str) -> Iterator[tuple[str, str]]:
    for match in _PIECE.finditer(text):
        yield match.lastgroup or "", match[0]
