"""A part of a sheet in small: where its cells lie in a picture of a few hundred pixels."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet

_MOST_FILLED = 200


@dataclass(frozen=True)
class Rect:
    """A rectangle of a picture."""

    x: float
    y: float
    width: float
    height: float


class SmallSheet:
    """An area of a sheet, at most so many pixels wide and high, with room for headings."""

    def __init__(self, area: Area, width: float, height: float, head: float = 0) -> None:
        self.area = area
        self.head = head
        self.column = min((width - head) / area.width, 54)
        self.row = min((height - head) / area.height, 20)
        self.width = round(head + self.column * area.width, 1)
        self.height = round(head + self.row * area.height, 1)

    def rect(self, area: Area) -> Rect | None:
        """Where an area is drawn, as far as it is shown."""
        shown = area.common(self.area)
        if shown is None:
            return None
        return Rect(
            round(self.head + (shown.left - self.area.left) * self.column, 1),
            round(self.head + (shown.top - self.area.top) * self.row, 1),
            round(max(shown.width * self.column, 2), 1),
            round(max(shown.height * self.row, 2), 1),
        )

    def middle(self, cell: Cell) -> tuple[float, float]:
        """The middle of a cell, also of one beyond the area."""
        x = self.head + (cell.column - self.area.left + 0.5) * self.column
        y = self.head + (cell.row - self.area.top + 0.5) * self.row
        return round(x, 1), round(y, 1)

    def filled(self, sheet: Sheet) -> list[Rect]:
        """The columns of the sheet, each from its first filled cell to its last one."""
        found: list[Rect] = []
        for number in sheet.columns_in(self.area)[:_MOST_FILLED]:
            extent = sheet.columns[number].extent()
            rect = extent and self.rect(Area(number, extent[0], number, extent[1]))
            if rect:
                found.append(rect)
        return found

    def headings(self) -> list[tuple[float, float, str]]:
        """Letters above the columns and numbers beside the rows, as many as there is room for."""
        area = self.area
        across = max(1, round(18 / self.column))
        down = max(1, round(13 / self.row))
        columns = [
            (self.middle(Cell(number, area.top))[0], self.head - 5, column_letters(number))
            for number in range(area.left, area.right + 1, across)
        ]
        rows = [
            (self.head / 2, self.middle(Cell(area.left, number))[1] + 4, str(number))
            for number in range(area.top, area.bottom + 1, down)
        ]
        return columns + rows
