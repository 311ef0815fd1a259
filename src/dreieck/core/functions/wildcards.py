"""Texts with wildcards: ``*`` for any text, ``?`` for any character; ``~`` takes their sense.

OpenFormula 4.11.8 and 6.20.20. Matching takes time in proportion to the text, whatever the
pattern: the pieces between the ``*`` are looked for one after the other, and none is ever looked
for again.
"""

from __future__ import annotations

import re
from bisect import bisect_right
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import accumulate

from dreieck.core.budget import AT_ONCE, spend

_MARK = re.compile(r"~[*?~]|[*?]", re.DOTALL)
_BITS = 8_192
"""So many characters of a piece cost one more step for each character of the text."""


@dataclass(frozen=True)
class _Piece:
    """What stands between two ``*``: characters, None for any one."""

    characters: tuple[str | None, ...]
    plain: str | None
    """The piece as text, None where it holds a ``?``."""
    masks: dict[str, int] = field(default_factory=dict, compare=False)
    """For each character the places in the piece that it fits, as bits."""
    anything: int = 0

    @classmethod
    def of(cls, characters: list[str | None]) -> _Piece:
        if None not in characters:
            return cls(tuple(characters), "".join(map(str, characters)))
        anything = sum(1 << n for n, character in enumerate(characters) if character is None)
        masks: dict[str, int] = {}
        for number, character in enumerate(characters):
            if character is not None:
                masks[character] = masks.get(character, anything) | 1 << number
        return cls(tuple(characters), None, masks, anything)

    def find(self, text: str, start: int, end: int) -> int:
        """Where the piece begins first in a part of a text, -1 where it does not occur."""
        if self.plain is not None:
            return text.find(self.plain, start, end)
        # One bit for each place of the piece that the characters so far may have led to.
        size = len(self.characters)
        spend((end - start) * (size // _BITS))
        last, state, masks, anything = 1 << size - 1, 0, self.masks, self.anything
        for at in range(start, end):
            state = (state << 1 | 1) & masks.get(text[at], anything)
            if state & last:
                return at - size + 1
        return -1


class _Pattern:
    """A text with wildcards, as it is looked for in texts without capitals."""

    def __init__(self, text: str) -> None:
        pieces: list[list[str | None]] = [[]]
        at = 0
        for mark in _MARK.finditer(text):
            pieces[-1].extend(text[at : mark.start()])
            at = mark.end()
            if mark[0] == "*":
                pieces.append([])
            else:
                pieces[-1].append(None if mark[0] == "?" else mark[0][1])
        pieces[-1].extend(text[at:])
        self._pieces = [_Piece.of(piece) for piece in pieces]

    def fit(self, text: str) -> bool:
        """Whether a whole text is one that is meant."""
        spend(len(text) // 8 + 1)
        first, last = self._pieces[0], self._pieces[-1]
        start = len(first.characters)
        if first is last:
            return len(text) == start and first.find(text, 0, start) == 0
        end = len(text) - len(last.characters)
        if start > end or first.find(text, 0, start) or last.find(text, end, len(text)) != end:
            return False
        return self._follow(self._pieces[1:-1], text, start, end)

    def begin(self, text: str, start: int) -> int:
        """Where a part that is meant begins first in a text, from ``start`` on; -1 without one."""
        spend(len(text) // 8 + 1)
        first, *others = self._pieces
        begins = first.find(text, start, len(text))
        if begins < 0 or not self._follow(others, text, begins + len(first.characters), len(text)):
            return -1
        return begins

    @staticmethod
    def _follow(pieces: list[_Piece], text: str, start: int, end: int) -> bool:
        """Whether pieces stand in a part of a text, one behind the other."""
        for piece in pieces:
            at = piece.find(text, start, end)
            if at < 0:
                return False
            start = at + len(piece.characters)
        return True


@dataclass(frozen=True)
class Wildcards:
    """A text, in which there may be wildcards, looked for whatever the case of letters.

    A letter that two small ones stand for, as ss does for a sharp s, counts as one letter of a
    text; either way of writing it is found.
    """

    text: str

    def fit(self, text: str) -> bool:
        """Whether a whole text is one that is meant."""
        folded = text.casefold()
        spend(len(self.text) // AT_ONCE)
        if _pattern(self.text.casefold()).fit(folded):
            return True
        if len(folded) == len(text):
            return False
        return _pattern(_letter_by_letter(self.text)).fit(_letter_by_letter(text))

    def begin(self, text: str, start: int) -> int:
        """Where a part that is meant begins first in a text, from ``start`` on; -1 without one."""
        spend(len(self.text) // AT_ONCE)
        folded, sought = text.casefold(), _pattern(self.text.casefold())
        if len(folded) == len(text):
            return sought.begin(folded, start)
        begins = list(accumulate((len(letter.casefold()) for letter in text), initial=0))
        as_two = sought.begin(folded, begins[start])
        as_one = _pattern(_letter_by_letter(self.text)).begin(_letter_by_letter(text), start)
        found = bisect_right(begins, as_two) - 1 if as_two >= 0 else -1
        return max(found, as_one) if min(found, as_one) < 0 else min(found, as_one)


def _letter_by_letter(text: str) -> str:
    """A text without capitals, of as many letters."""
    small = ((letter, letter.casefold()) for letter in text)
    return "".join(letter if len(folded) > 1 else folded for letter, folded in small)


def has_marks(text: str) -> bool:
    """Whether a text holds ``*``, ``?`` or ``~``."""
    return "*" in text or "?" in text or "~" in text


@lru_cache(maxsize=256)
def _pattern(text: str) -> _Pattern:
    return _Pattern(text)
