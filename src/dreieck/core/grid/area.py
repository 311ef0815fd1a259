"""Areas: rectangles of cells."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.budget import spend
from dreieck.core.exceptions import AddressError
from dreieck.core.grid.address import (
    MAX_COLUMN,
    MAX_ROW,
    Axis,
    Cell,
    column_letters,
    column_number,
    short,
)

_COLUMNS = re.compile(r"\$?([A-Za-z]{1,3}):\$?([A-Za-z]{1,3})")
_ROWS = re.compile(r"\$?([1-9][0-9]{0,20}):\$?([1-9][0-9]{0,20})")
_NUMBERED = re.compile(
    r"(?:R([0-9]{0,7}|\[-?[0-9]{1,7}\]))?(?:C([0-9]{0,7}|\[-?[0-9]{1,7}\]))?", re.IGNORECASE
)


class Area(NamedTuple):
    """A rectangle of cells, both corners included."""

    left: int
    top: int
    right: int
    bottom: int

    @classmethod
    def parse(cls, text: str) -> Area:
        """Read ``C5``, ``C5:F10``, ``B:C`` or ``4:6``, corners in any order.

        Raises AddressError where the text is no area or lies beyond the limits.
        """
        text = text.strip()
        if match := _COLUMNS.fullmatch(text):
            left, right = sorted((column_number(match[1]), column_number(match[2])))
            return cls(left, 1, right, MAX_ROW)
        if match := _ROWS.fullmatch(text):
            top, bottom = sorted((int(match[1]), int(match[2])))
            if bottom > MAX_ROW:
                raise AddressError(f"Row {bottom} is beyond the last row, 1,000,000.")
            return cls(1, top, MAX_COLUMN, bottom)
        first, colon, second = text.partition(":")
        try:
            return cls.spanned(Cell.parse(first), Cell.parse(second if colon else first))
        except AddressError as error:
            if "beyond" in str(error):
                raise
            raise AddressError(f"“{short(text)}” is not an area, such as C5 or C5:F10.") from None

    @classmethod
    def parse_numbered(cls, text: str, at: Cell) -> Area:
        """Read ``R5C3``, ``R[1]C[-2]`` seen from ``at``, ``R5C3:R9C4``, ``R5`` or ``C3``.

        Raises AddressError.
        """
        ends = [_NUMBERED.fullmatch(each.strip()) for each in text.split(":")]
        found: list[Area] = []
        for end in ends:
            if not end or not end[0]:
                raise AddressError(f"“{short(text)}” is not an area such as R5C3 or R[1]C:R5C4.")
            row, column = (_numbered(end[1], at.row), _numbered(end[2], at.column))
            first = Cell(1 if column is None else column, 1 if row is None else row)
            last = Cell(MAX_COLUMN if column is None else column, MAX_ROW if row is None else row)
            if not (first.on_sheet and last.on_sheet):
                raise AddressError(f"“{short(text)}” lies off the sheet.")
            found.append(cls.spanned(first, last))
        if len(found) > 2:
            raise AddressError(f"“{short(text)}” has more than two ends.")
        return found[0].around(found[-1])

    @classmethod
    def spanned(cls, one: Cell, other: Cell) -> Area:
        """The smallest area that holds both cells."""
        left, right = sorted((one.column, other.column))
        top, bottom = sorted((one.row, other.row))
        return cls(left, top, right, bottom)

    @classmethod
    def of(cls, cell: Cell) -> Area:
        """The area of one cell."""
        return cls(cell.column, cell.row, cell.column, cell.row)

    @property
    def first(self) -> Cell:
        """The upper left corner."""
        return Cell(self.left, self.top)

    @property
    def last(self) -> Cell:
        """The lower right corner."""
        return Cell(self.right, self.bottom)

    def on(self, axis: Axis) -> tuple[int, int]:
        """Its first and last column, or row."""
        return (self.top, self.bottom) if axis == "row" else (self.left, self.right)

    def spanning(self, axis: Axis, first: int, last: int) -> Area:
        """The area with other ends on one axis."""
        if axis == "row":
            return self._replace(top=first, bottom=last)
        return self._replace(left=first, right=last)

    def length(self, axis: Axis) -> int:
        """How many columns, or rows."""
        return self.height if axis == "row" else self.width

    @property
    def width(self) -> int:
        """How many columns."""
        return self.right - self.left + 1

    @property
    def height(self) -> int:
        """How many rows."""
        return self.bottom - self.top + 1

    @property
    def shape(self) -> tuple[int, int]:
        """How many columns and rows."""
        return self.width, self.height

    @property
    def size(self) -> int:
        """How many cells."""
        return self.width * self.height

    @property
    def text(self) -> str:
        """The area without locks: ``C5``, ``C5:F10``, ``B:C`` or ``4:6``."""
        if self.size == 1:
            return self.first.text
        if self.top == 1 and self.bottom == MAX_ROW:
            return f"{column_letters(self.left)}:{column_letters(self.right)}"
        if self.left == 1 and self.right == MAX_COLUMN:
            return f"{self.top}:{self.bottom}"
        return f"{self.first.text}:{self.last.text}"

    def holds(self, cell: Cell) -> bool:
        """Whether the cell lies in the area."""
        return self.left <= cell.column <= self.right and self.top <= cell.row <= self.bottom

    def common(self, other: Area) -> Area | None:
        """The area that both share, or None."""
        shared = Area(
            max(self.left, other.left),
            max(self.top, other.top),
            min(self.right, other.right),
            min(self.bottom, other.bottom),
        )
        return shared if shared.left <= shared.right and shared.top <= shared.bottom else None

    def around(self, other: Area) -> Area:
        """The smallest area that holds both areas."""
        return Area(
            min(self.left, other.left),
            min(self.top, other.top),
            max(self.right, other.right),
            max(self.bottom, other.bottom),
        )

    def offset(self, columns: int, rows: int) -> Area:
        """The area so many columns to the right and rows down."""
        return Area(self.left + columns, self.top + rows, self.right + columns, self.bottom + rows)

    def lines(self, axis: Axis) -> Iterator[Area]:
        """Its columns from left to right, or its rows from top to bottom, each an area."""
        first, last = self.on(axis)
        return (self.spanning(axis, at, at) for at in range(first, last + 1))

    def within(self, other: Area) -> bool:
        """Whether all of it lies in another area."""
        return other.around(self) == other

    def without(self, other: Area) -> Iterator[Area]:
        """What is left of it where another area is taken out, in up to four pieces."""
        common = self.common(other)
        if common is None:
            yield self
            return
        rest = self
        if rest.top < common.top:
            yield rest._replace(bottom=common.top - 1)
        if rest.bottom > common.bottom:
            yield rest._replace(top=common.bottom + 1)
        rest = rest._replace(top=common.top, bottom=common.bottom)
        if rest.left < common.left:
            yield rest._replace(right=common.left - 1)
        if rest.right > common.right:
            yield rest._replace(left=common.right + 1)

    def cells(self) -> Iterator[Cell]:
        """Every cell, row by row."""
        for row in range(self.top, self.bottom + 1):
            spend(self.width)
            for column in range(self.left, self.right + 1):
                yield Cell(column, row)


EVERYWHERE = Area(1, 1, MAX_COLUMN, MAX_ROW)
"""The whole sheet."""


def _numbered(said: str | None, base: int) -> int | None:
    """The coordinate that ``5``, ``[-2]`` or nothing behind a letter says; None without one."""
    if said is None:
        return None
    if said.startswith("["):
        return base + int(said[1:-1])
    return int(said) if said else base
