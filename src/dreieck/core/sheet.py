"""The cells of one sheet, sparse and by column."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from dreieck.core.address import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.content import Content
from dreieck.core.formula import Shape
from dreieck.core.look import PLAIN, Look


class Sheet:
    """A named table of cells. ``id`` stays the same when the sheet is renamed."""

    def __init__(self, id: int, name: str) -> None:
        self.id = id
        self.name = name
        self.looks: dict[Cell, Look] = {}
        self.widths: dict[int, int] = {}
        """Widths of columns in pixels, where they differ from the usual."""
        self._columns: dict[int, dict[int, Content]] = {}
        self._formulas: Counter[int] = Counter()
        self.version = 0
        """Counts the changes, for those who keep something worked out from the cells."""
        self._used: Area | None = None
        self._used_is_known = True

    def content(self, cell: Cell) -> Content | None:
        """What a cell holds, None where it is empty."""
        column = self._columns.get(cell.column)
        return None if column is None else column.get(cell.row)

    def look(self, cell: Cell) -> Look:
        """How a cell looks."""
        return self.looks.get(cell, PLAIN)

    def put(self, cell: Cell, content: Content | None, look: Look) -> None:
        """Set what a cell holds and how it looks; None empties it."""
        self.version += 1
        was_formula = isinstance(self.content(cell), Shape)
        if isinstance(content, Shape) != was_formula:
            self._formulas[cell.column] += -1 if was_formula else 1
        if content is not None:
            if self._used is None:
                self._used = Area.of(cell)
            elif not self._used.holds(cell):
                self._used_is_known = False
            self._columns.setdefault(cell.column, {})[cell.row] = content
        elif column := self._columns.get(cell.column):
            column.pop(cell.row, None)
            self._used_is_known = False
            if not column:
                del self._columns[cell.column]
        if look is PLAIN or look == PLAIN:
            if self.looks:
                self.looks.pop(cell, None)
        else:
            self.looks[cell] = look

    def formulas(self, area: Area) -> Iterator[tuple[Cell, Shape]]:
        """The cells of an area that hold formulas; columns without any cost nothing."""
        for column in sorted(c for c in self._columns if area.left <= c <= area.right):
            if self._formulas[column]:
                strip = area._replace(left=column, right=column)
                for cell, content in self.filled(strip):
                    if isinstance(content, Shape):
                        yield cell, content

    def filled(self, area: Area) -> Iterator[tuple[Cell, Content]]:
        """The cells of an area that hold something, column by column."""
        if area.width <= len(self._columns):
            columns: list[int] = [
                c for c in range(area.left, area.right + 1) if c in self._columns
            ]
        else:
            columns = sorted(c for c in self._columns if area.left <= c <= area.right)
        for number in columns:
            column = self._columns[number]
            if area.height <= len(column):
                for row in range(area.top, area.bottom + 1):
                    if row in column:
                        yield Cell(number, row), column[row]
            else:
                for row in sorted(r for r in column if area.top <= r <= area.bottom):
                    yield Cell(number, row), column[row]

    def __len__(self) -> int:
        return sum(len(column) for column in self._columns.values())

    def used(self) -> Area | None:
        """The smallest area that holds all that is filled, None on an empty sheet."""
        if not self._used_is_known:
            self._used_is_known = True
            self._used = None
            if self._columns:
                self._used = Area(
                    min(self._columns),
                    min(min(column) for column in self._columns.values()),
                    max(self._columns),
                    max(max(column) for column in self._columns.values()),
                )
        return self._used

    def edge(self, cell: Cell, columns: int, rows: int) -> Cell:
        """Where a jump from ``cell`` ends: the edge of the data in one direction.

        One of ``columns`` and ``rows`` is 1 or -1, the other 0. From inside data the jump
        ends at its last cell, from its edge or from emptiness at the next filled cell, or
        at the end of the sheet.
        """
        step = columns or rows
        if rows:
            line = set(self._columns.get(cell.column, ()))
            here, limit = cell.row, MAX_ROW
        else:
            line = {c for c, column in self._columns.items() if cell.row in column}
            here, limit = cell.column, MAX_COLUMN
        if here in line and here + step in line:
            while here + step in line:
                here += step
        else:
            ahead = [at for at in line if (at - here) * step > 0]
            here = min(ahead, key=lambda at: abs(at - here)) if ahead else max(1, limit * step)
        return Cell(cell.column, here) if rows else Cell(here, cell.row)
