"""What came in with a file: a workbook, what else the file holds, and what it says of values."""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import NamedTuple

from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Value
from dreieck.core.words.counting import many

_PLACES = 5
_NOUN = re.compile(r"(.*?)( (?:that|with|without|of|beyond|by|for|to|in|inside|from) .*)?")


@dataclass(frozen=True, slots=True)
class LeftOut:
    """Something of a file that a workbook does not hold, or that a file cannot hold.

    ``what`` is one such thing in words, such as ``comment``; ``places`` are the first of them.
    ``note`` tells what became of it.
    """

    what: str
    count: int
    places: tuple[str, ...] = ()
    note: str = ""

    @property
    def says(self) -> str:
        """It in a line."""
        where = ", ".join(self.places)
        more = ", …" if self.count > len(self.places) > 0 else ""
        noun, rest = _NOUN.fullmatch(self.what).groups("")  # type: ignore[union-attr]
        text = many(self.count, noun) + rest + (f" ({where}{more})" if where else "")
        return f"{text}: {self.note}" if self.note else text


class Leavings:
    """Collects what is left out, of one sort by sort."""

    def __init__(self) -> None:
        self._found: dict[tuple[str, str], tuple[int, list[str]]] = {}

    def add(self, what: str, place: str = "", note: str = "", count: int = 1) -> None:
        """One more thing, or several, that are left out."""
        before, places = self._found.setdefault((what, note), (0, []))
        if place and len(places) < _PLACES and place not in places:
            places.append(place)
        self._found[what, note] = (before + count, places)

    def listed(self) -> tuple[LeftOut, ...]:
        """All of them, each sort once."""
        return tuple(
            LeftOut(what, count, tuple(places), note)
            for (what, note), (count, places) in self._found.items()
        )


class StoredValue(NamedTuple):
    """What a file says that a formula comes to."""

    row: int
    value: Value


StoredValues = dict[int, list[StoredValue]]
"""Of one sheet, by column."""


@dataclass
class Arrived:
    """A workbook from a file; ``stored`` are the values that the file has, by sheet."""

    workbook: Workbook
    left_out: tuple[LeftOut, ...] = ()
    stored: dict[str, StoredValues] = field(default_factory=dict)
    array_formulas: dict[str, set[tuple[int, int]]] = field(default_factory=dict)
    """Column and row of the formulas that work with arrays in the file, by sheet."""
    history: object = None
    """The changes that can be taken back, as the store tells them, if the file has them."""
