"""What a reference hands to a function: an area and the values in it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Protocol

from dreieck.core.address import Area, Cell
from dreieck.core.values import VALUE, Error, Value


class Reader(Protocol):
    """Who knows the values of cells."""

    def value(self, sheet: str, cell: Cell) -> Value:
        """The value of one cell."""

    def filled_values(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Value]]:
        """The cells of an area that are not empty, with their values, column by column."""


class Range:
    """The values of an area of a sheet, read when they are asked for."""

    def __init__(self, reader: Reader, sheet: str, area: Area) -> None:
        self.reader = reader
        self.sheet = sheet
        self.area = area

    def at(self, column: int, row: int) -> Value:
        """The value in a column and row of the range, both counted from 0."""
        cell = Cell(self.area.left + column, self.area.top + row)
        return self.reader.value(self.sheet, cell)

    def filled(self) -> Iterator[Value]:
        """The values that are not empty, column by column."""
        for _, value in self.reader.filled_values(self.sheet, self.area):
            yield value

    def single(self, at: Cell) -> Value:
        """The one value that the range stands for in a formula at ``at``.

        A range of one cell is that cell; a longer one is cut by the formula's own row or
        column (implied intersection, OpenFormula 6.3.3).
        """
        area = self.area
        if area.size == 1:
            return self.reader.value(self.sheet, area.first)
        if area.width == 1 and area.top <= at.row <= area.bottom:
            return self.reader.value(self.sheet, Cell(area.left, at.row))
        if area.height == 1 and area.left <= at.column <= area.right:
            return self.reader.value(self.sheet, Cell(at.column, area.top))
        return Error(VALUE, f"The range {area.text} stands where one value is needed.")
