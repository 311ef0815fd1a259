"""What a reference or a calculation with ranges hands to a function."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Protocol, TypeVar

import numpy as np

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.exceptions import AddressError
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.ranges.index import MIN_INDEXED_CELLS, NOWHERE, Index, Positions
from dreieck.core.ranges.totals import Total, add
from dreieck.core.sheet.cells import Cells, Kind, Payload
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import REF, VALUE, Error, Place, Value

MAX_TABLE = 1_000_000
"""How many cells a calculation with ranges can have."""
_PIECE = 8_192


class CellValues(Protocol):
    """Who knows the values of cells."""

    workbook: Workbook

    def value(self, sheet: str, cell: Cell) -> Value:
        """The value of one cell."""

    def cells(self, sheet: str, column: int, top: int, bottom: int) -> Cells:
        """The values of some rows of a column."""

    def columns(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Cells]]:
        """The values of the filled part of each column of an area, with their first cell."""

    def filled_values(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Value]]:
        """The cells of an area that are not empty, with their values, column by column."""

    def total(self, sheet: str, area: Area) -> Total:
        """What the numbers of an area come to."""

    def index(self, sheet: str, area: Area) -> Index:
        """Where in an area each value stands."""

    def used(self, sheet: str) -> Area | None:
        """The smallest area that holds all that is filled on a sheet."""

    def fan(self, sheet: str, start: Cell) -> Area | None:
        """The cells that the formula in a cell fills; None where that is just its own."""

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""


class Range:
    """The values of an area of a sheet, read when they are asked for."""

    def __init__(self, reader: CellValues, sheet: str, area: Area) -> None:
        self.reader = reader
        self.sheet = sheet
        self.area = area

    @property
    def width(self) -> int:
        """How many columns."""
        return self.area.width

    @property
    def height(self) -> int:
        """How many rows."""
        return self.area.height

    @property
    def size(self) -> int:
        """How many cells."""
        return self.area.size

    def at(self, column: int, row: int) -> Value:
        """The value in a column and row of the range, both counted from 0."""
        cell = Cell(self.area.left + column, self.area.top + row)
        return self.reader.value(self.sheet, cell)

    def filled(self) -> Iterator[Value]:
        """The values that are not empty, row by row."""
        return values_in_pieces(self.in_rows()[1])

    def in_rows(self) -> tuple[Positions, Cells]:
        """The cells that are not empty, row by row, with their places, which are counted so."""
        places, parts = [], []
        for first, cells in self.reader.columns(self.sheet, self.area):
            spend(len(cells) // AT_ONCE)
            held = np.flatnonzero(cells.kinds != Kind.EMPTY)
            rows = held + (first.row - self.area.top)
            places.append(rows * self.width + (first.column - self.area.left))
            parts.append(cells if len(held) == len(cells) else cells.taken(held))
        if not parts:
            return NOWHERE, Cells.of([])
        if len(parts) == 1:
            return places[0], parts[0]
        at = np.concatenate(places)
        order = np.argsort(at)
        return at[order], Cells.joined(parts).taken(order)

    def column(self, number: int) -> Cells:
        """The cells of a column, counted from 0."""
        left, top, _, bottom = self.area
        return self.reader.cells(self.sheet, left + number, top, bottom)

    def all_cells(self) -> Cells:
        """All cells, column by column."""
        return Cells.joined([self.column(number) for number in range(self.width)])

    def filled_size(self) -> tuple[int, int]:
        """So many columns and rows from the first cell hold all that is filled."""
        used = self.reader.used(self.sheet)
        common = used and used.common(self.area)
        if not common:
            return 0, 0
        return common.right - self.area.left + 1, common.bottom - self.area.top + 1

    def ended(self, rows: int | None = None) -> Range:
        """The same range, where whole columns and whole rows end with what is filled.

        With ``rows`` whole columns have so many of them.
        """
        if self.height < MAX_ROW and self.width < MAX_COLUMN:
            return self
        width, height = self.filled_size()
        left, top, right, bottom = self.area
        if self.height == MAX_ROW:
            bottom = top + (rows or max(height, 1)) - 1
        if self.width == MAX_COLUMN:
            right = left + max(width, 1) - 1
        return Range(self.reader, self.sheet, Area(left, top, right, bottom))

    def total(self) -> Total:
        """What the numbers of the range come to."""
        return self.reader.total(self.sheet, self.area)

    def taken(self, places: Positions) -> Cells:
        """The cells at places that are counted from 0, column by column."""
        if self.width == 1:
            top, bottom = self.area.top, self.area.bottom
            return self.reader.cells(self.sheet, self.area.left, top, bottom).taken(places)
        return Cells.of([self.at(*divmod(place, self.height)) for place in places.tolist()])

    def placed(self) -> Iterator[tuple[int, int, Value]]:
        """The values that are not empty, with column and row counted from 0."""
        for cell, value in self.reader.filled_values(self.sheet, self.area):
            yield cell.column - self.area.left, cell.row - self.area.top, value

    def column_at(self, number: int, rows: Positions) -> Cells:
        """The cells of a column, counted from 0, in some of its rows."""
        left, top, _, _ = self.area
        last = int(rows.max(initial=0))
        return self.reader.cells(self.sheet, left + number, top, top + last).taken(rows)

    def indexed(self) -> Index:
        """Where in the range each value stands."""
        return self.reader.index(self.sheet, self.area)

    def index(self) -> Index | None:
        """Where in the range each value stands; None where it is quicker to look."""
        if self.area.size < MIN_INDEXED_CELLS:
            return None
        return self.indexed()

    def ordered(self) -> Payload:
        """The numbers in order."""
        return self.indexed().ordered

    def part(self, column: int, row: int, width: int, height: int) -> Range:
        """A range by its place in this one, counted from 0; it may lie outside of it.

        Raises IndexError where it would leave the sheet.
        """
        if (column, row, width, height) == (0, 0, self.width, self.height):
            return self
        left, top = self.area.left + column, self.area.top + row
        area = Area(left, top, left + width - 1, top + height - 1)
        if not (area.first.on_sheet and area.last.on_sheet):
            raise IndexError(area)
        return Range(self.reader, self.sheet, area)

    def level_with(self, at: Cell) -> Cell | None:
        """The one cell that the range stands for in a formula at ``at``, None if there is none.

        A range of one cell is that cell; a longer one is cut by the formula's own row or
        column (implied intersection, OpenFormula 6.3.3).
        """
        area = self.area
        if area.size == 1:
            return area.first
        if area.width == 1 and area.top <= at.row <= area.bottom:
            return Cell(area.left, at.row)
        if area.height == 1 and area.left <= at.column <= area.right:
            return Cell(at.column, area.top)
        return None

    def single(self, at: Cell) -> Value:
        """The value of the one cell that the range stands for in a formula at ``at``."""
        cell = self.level_with(at)
        if cell is None:
            return Error(VALUE, f"The range {self.area.text} stands where one value is needed.")
        return self.reader.value(self.sheet, cell)


class Array:
    """A table of values that stands in the formula, or that a calculation with ranges gave."""

    def __init__(self, cells: Cells, width: int, height: int, *, is_result: bool = False) -> None:
        """A table of cells that are given column by column.

        One that is the ``is_result`` of a function does not stand for its first value.
        """
        self._cells = cells
        self.width = width
        self.height = height
        self.is_result = is_result
        self._index: Index | None = None

    @classmethod
    def of(cls, rows: list[list[Value]], *, is_result: bool = False) -> Array:
        """The table that has these rows, all of one length."""
        values = [value for column in zip(*rows, strict=True) for value in column]
        return cls(Cells.of(values), len(rows[0]), len(rows), is_result=is_result)

    @property
    def size(self) -> int:
        """How many values."""
        return self.width * self.height

    def at(self, column: int, row: int) -> Value:
        """The value in a column and row, both counted from 0."""
        return self._cells.value(column * self.height + row)

    def column(self, number: int) -> Cells:
        """The cells of a column, counted from 0."""
        begin = number * self.height
        return self._cells.taken(slice(begin, begin + self.height))

    def all_cells(self) -> Cells:
        """All cells, column by column."""
        return self._cells

    def filled(self) -> Iterator[Value]:
        """The values that are not empty, row by row."""
        return values_in_pieces(self.in_rows()[1])

    def in_rows(self) -> tuple[Positions, Cells]:
        """The cells that are not empty, row by row, with their places, which are counted so."""
        spend(self.size // AT_ONCE)
        cells = self._cells
        if self.width > 1:
            cells = cells.taken(row_by_row(self.width, self.height))
        held = np.flatnonzero(cells.kinds != Kind.EMPTY)
        return held, cells if len(held) == self.size else cells.taken(held)

    def total(self) -> Total:
        """What the numbers of the table come to."""
        total = Total()
        spend(self.size // AT_ONCE)
        add(total, [self.column(number) for number in range(self.width)])
        return total

    def taken(self, places: Positions) -> Cells:
        """The cells at places that are counted from 0, column by column."""
        return self._cells.taken(places)

    def placed(self) -> Iterator[tuple[int, int, Value]]:
        """The values that are not empty, with column and row counted from 0."""
        for place, value in enumerate(values_in_pieces(self._cells)):
            if value is not None:
                yield *divmod(place, self.height), value

    def column_at(self, number: int, rows: Positions) -> Cells:
        """The cells of a column, counted from 0, in some of its rows."""
        return self._cells.taken(rows + number * self.height)

    def indexed(self) -> Index:
        """Where in the table each value stands."""
        if self._index is None:
            area = Area(1, 1, self.width, self.height)
            self._index = Index(area, [(Cell(1, 1), self._cells)])
        return self._index

    def index(self) -> None:
        """Tables are so small that it is quicker to look."""

    def ordered(self) -> Payload:
        """The numbers in order."""
        return self.indexed().ordered

    def part(self, column: int, row: int, width: int, height: int) -> Array:
        """A table by its place in this one, counted from 0. Raises IndexError beyond its end."""
        if min(column, row) < 0 or column + width > self.width or row + height > self.height:
            raise IndexError(column, row)
        columns = np.arange(column, column + width) * self.height
        places = np.add.outer(columns, np.arange(row, row + height)).ravel()
        return Array(self._cells.taken(places), width, height)


def row_by_row(width: int, height: int) -> Positions:
    """The places of a table in the order of its rows, where columns are counted one by one."""
    return np.arange(width * height).reshape(width, height).T.ravel()


def values_in_pieces(cells: Cells) -> Iterator[Value]:
    """The values of many cells; work is counted on the way, so that it can end between."""
    for begin in range(0, len(cells), _PIECE):
        piece = cells.taken(slice(begin, begin + _PIECE))
        spend(len(piece))
        yield from piece.values()


Table = Range | Array
Single = TypeVar("Single", bound=Value | Table)


class Several:
    """Ranges that stand together, as ``~`` makes them (OpenFormula 6.4.13)."""

    def __init__(self, ranges: Iterable[Range]) -> None:
        """A union of at least two ranges."""
        self.ranges = tuple(ranges)


def parts(operand: Several | Single) -> tuple[Range | Single, ...]:
    """The ranges of a union, or the operand itself."""
    return operand.ranges if isinstance(operand, Several) else (operand,)


def shared(one: Range, other: Range) -> Range | None:
    """The cells that two ranges share, None if there are none (OpenFormula 6.4.12)."""
    if one.sheet.casefold() != other.sheet.casefold():
        return None
    common = one.area.common(other.area)
    return Range(one.reader, one.sheet, common) if common else None


def single(operand: Value | Table | Several, at: Cell) -> Value:
    """The one value that an operand stands for in a formula at ``at``."""
    if isinstance(operand, Range):
        return operand.single(at)
    if isinstance(operand, Several):
        return Error(VALUE, "Several ranges stand where one value is needed.")
    if not isinstance(operand, Array):
        return operand
    if operand.is_result and operand.size > 1:
        many = f"{operand.size:,} values stand where one value is needed"
        return Error(VALUE, f"{many}: take one by INDEX, or all of them by SUM or TEXTJOIN.")
    return operand.at(0, 0)


def read_address(text: str, reader: CellValues, at: Place, *, by_number: bool) -> Range | Error:
    """The range that an address in a text names, such as ``Loads!B4:B9``, in a formula at ``at``.

    ``by_number`` it is one such as ``Loads!R4C2``.
    """
    name, address = split_sheet(text)
    sheet = at.sheet if name is None else name
    if not reader.has_sheet(sheet):
        return Error(REF, f"There is no sheet “{sheet}”.")
    try:
        area = Area.parse_numbered(address, at.cell) if by_number else Area.parse(address)
        return Range(reader, sheet, area)
    except AddressError:
        return Error(REF, f"“{text[:40]}” is not an address.")
