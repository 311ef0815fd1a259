"""Cells, column letters and the limits of a sheet."""

from __future__ import annotations

import re
from functools import lru_cache
from typing import Literal, NamedTuple

from dreieck.core.exceptions import AddressError

Axis = Literal["column", "row"]

MAX_COLUMN = 18_278
"""The last column, ZZZ."""
MAX_ROW = 1_000_000
"""The last row."""
AXES: tuple[Axis, Axis] = ("column", "row")
LAST: dict[Axis, int] = {"column": MAX_COLUMN, "row": MAX_ROW}
"""The last coordinate on each axis."""
CROSSING: dict[Axis, Axis] = {"column": "row", "row": "column"}
"""The other axis."""

_ADDRESS = re.compile(r"\$?([A-Za-z]{1,3})\$?([1-9][0-9]{0,20})")


@lru_cache(maxsize=MAX_COLUMN)
def column_letters(column: int) -> str:
    """Return the letters of a column: 1 is A, 27 is AA, 18278 is ZZZ."""
    letters = ""
    while column:
        column, rest = divmod(column - 1, 26)
        letters = chr(65 + rest) + letters
    return letters


def column_number(letters: str) -> int:
    """Return the number of a column given by its letters, in either case."""
    number = 0
    for letter in letters.upper():
        number = number * 26 + ord(letter) - 64
    return number


class Cell(NamedTuple):
    """The address of one cell. It may lie outside the limits; see ``on_sheet``."""

    column: int
    row: int

    @classmethod
    def parse(cls, text: str) -> Cell:
        """Read an address such as ``C5``; ``$`` signs are allowed and mean nothing here.

        Raises AddressError where the text is no address or lies beyond the limits.
        """
        match = _ADDRESS.fullmatch(text.strip())
        if not match:
            raise AddressError(f"“{short(text)}” is not the address of a cell, such as C5.")
        cell = cls(column_number(match[1]), int(match[2]))
        if not cell.on_sheet:
            raise AddressError(f"{match[0].upper()} is beyond the last row, 1,000,000.")
        return cell

    @property
    def on_sheet(self) -> bool:
        """Whether the address lies within the limits of a sheet."""
        return 1 <= self.column <= MAX_COLUMN and 1 <= self.row <= MAX_ROW

    @property
    def text(self) -> str:
        """The address without locks, such as ``C5``."""
        return f"{column_letters(self.column)}{self.row}"

    def on(self, axis: Axis) -> int:
        """Its column or its row."""
        return self.row if axis == "row" else self.column

    def step(self, axis: Axis, steps: int) -> Cell:
        """The cell so many columns to the right, or rows down."""
        return self.offset(0, steps) if axis == "row" else self.offset(steps, 0)

    def offset(self, columns: int, rows: int) -> Cell:
        """The cell so many columns to the right and rows down."""
        return Cell(self.column + columns, self.row + rows)


def short(text: str) -> str:
    """A text that is no address, as a message cites it."""
    return text if len(text) <= 40 else text[:39] + "…"
