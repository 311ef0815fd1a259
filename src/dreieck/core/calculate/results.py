"""The values of one sheet: what its cells hold, and the results of those that hold formulas."""

from __future__ import annotations

from collections.abc import Iterator
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate.fans import Fans
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.sheet.column import Column
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import NAME, Error, Place

_NOTHING = Column()


class Results:
    """Values by column. Columns without formulas are those of the sheet itself."""

    def __init__(self, sheet: Sheet) -> None:
        self.sheet = sheet
        self._worked_out: dict[int, Column] = {}
        self._own: set[int] = set()
        """The columns that may be written; others are lent by whom these were forked from."""
        self._plain: dict[int, tuple[Column, int]] = {}
        self._settled: set[int] = set()
        self.fans = Fans(self)

    def fork(self, sheet: Sheet) -> Results:
        """The same results for a copy of the sheet, that change on their own."""
        other = Results(sheet)
        other._worked_out = self._worked_out.copy()
        other.fans = self.fans.fork(other)
        return other

    def column(self, number: int) -> Column:
        """The values of a column; those that are not worked out are pending."""
        column = self._worked_out.get(number)
        if column is not None:
            return column
        held = self.sheet.columns.get(number)
        if held is None:
            return _NOTHING
        if self._plain.get(number) != (held, held.formula_version):
            extent = held.extent() or (1, 1)
            cells = held.cells(*extent)
            if is_kind(cells.kinds, Kind.FORMULA, Kind.UNREADABLE).any():
                return self._begun(number, extent[0], cells)
            self._plain[number] = (held, held.formula_version)
        return held

    def used(self) -> Area | None:
        """The smallest area that holds all that is filled, also by formulas elsewhere."""
        used = self.sheet.used()
        return used and reduce(Area.around, self.fans.laid(), used)

    def extents_in(self, area: Area) -> Iterator[tuple[int, int, int]]:
        """The columns of an area that show something, with their first and last rows there."""
        ends = {
            number: extent
            for number in self.sheet.columns_in(area)
            if (extent := self.sheet.columns[number].extent())
        }
        for fan in self.fans.laid():
            for number in range(max(fan.left, area.left), min(fan.right, area.right) + 1):
                top, bottom = ends.get(number, (fan.top, fan.bottom))
                ends[number] = min(top, fan.top), max(bottom, fan.bottom)
        for number, (top, bottom) in sorted(ends.items()):
            if max(top, area.top) <= min(bottom, area.bottom):
                yield number, max(top, area.top), min(bottom, area.bottom)

    def is_settled(self, number: int) -> bool:
        """Whether nothing in a column waits to be worked out."""
        column = self.column(number)
        if number not in self._worked_out or number in self._settled:
            return True
        extent = column.extent()
        if extent is None or not (column.cells(*extent).kinds == Kind.PENDING).any():
            self._settled.add(number)
            return True
        return False

    def cells(self, number: int, top: int, bottom: int) -> Cells:
        """The values of some rows of a column."""
        return self.column(number).cells(top, bottom)

    def write(self, number: int, top: int, cells: Cells) -> None:
        """Put results of formulas below each other."""
        self._owned(number).write(top, cells)

    def put(self, cell: Cell, value: object) -> None:
        """Put the result of one formula."""
        self._owned(cell.column).put(cell.row, cell.row, value)

    def put_down(self, number: int, top: int, bottom: int, value: object) -> None:
        """Put one result into formulas below each other."""
        self._owned(number).put(top, bottom, value)

    def put_pending(self, number: int, top: int, bottom: int, value: object) -> None:
        """Put one result into those rows of a column that are not worked out."""
        waiting = np.flatnonzero(self.cells(number, top, bottom).kinds == Kind.PENDING)
        self.put_rows(number, waiting + top, value)

    def put_rows(self, number: int, rows: NDArray[np.intp], value: object) -> None:
        """Put one value into some rows of a column, given in order."""
        cuts = np.flatnonzero(np.diff(rows) > 1) + 1
        for run in np.split(rows, cuts) if len(rows) else ():
            self.put_down(number, int(run[0]), int(run[-1]), value)

    def characters(self) -> int:
        """How many characters the texts in the columns that hold formulas have."""
        return sum(column.pool.characters for column in self._worked_out.values())

    def compact(self) -> None:
        """Let go of texts that were results and are none any more."""
        for number in list(self._worked_out):
            self._owned(number).compact()

    def pending(self, area: Area) -> Area | None:
        """The smallest area that holds all in an area that is not worked out."""
        found: Area | None = None
        for number in range(area.left, area.right + 1):
            if number not in self._worked_out and self.is_settled(number):
                continue
            kinds = self.cells(number, area.top, area.bottom).kinds
            ends = kinds[[0, -1]] == Kind.PENDING
            rows = [0, len(kinds) - 1] if ends.all() else np.flatnonzero(kinds == Kind.PENDING)
            if len(rows):
                top, bottom = area.top + int(rows[0]), area.top + int(rows[-1])
                strip = Area(number, top, number, bottom)
                found = found.around(strip) if found else strip
        return found

    def unsettle(self, area: Area) -> None:
        """The formulas of an area have to be worked out again."""
        self.fans.unsettle(area)
        for number in range(area.left, area.right + 1):
            held = self.sheet.columns.get(number)
            if held is None or number not in self._worked_out:
                continue
            formulas = held.cells(area.top, area.bottom).kinds == Kind.FORMULA
            self._settled.discard(number)
            self._owned(number).mark(area.top, formulas, Kind.PENDING)

    def refresh(self, area: Area) -> None:
        """The cells of an area hold something else now."""
        self.fans.refresh(area)
        for number in range(area.left, area.right + 1):
            if number not in self._worked_out:
                continue
            held = self.sheet.columns.get(number)
            self._settled.discard(number)
            if held is None and self.fans.lie_in(number):
                self.put_down(number, area.top, area.bottom, None)
            elif held is None:
                del self._worked_out[number]
                self._own.discard(number)
            else:
                cells = held.cells(area.top, area.bottom)
                self.write(number, area.top, _pending(cells))
                self._say_unreadable(number, area.top, cells)

    def _owned(self, number: int) -> Column:
        column = self.column(number)
        if number not in self._own:
            column = self._worked_out[number] = column.copy()
            self._own.add(number)
        return column

    def _begun(self, number: int, top: int, cells: Cells) -> Column:
        column = self._worked_out[number] = Column.holding(top, _pending(cells))
        self._own.add(number)
        self._say_unreadable(number, top, cells)
        return column

    def _say_unreadable(self, number: int, top: int, cells: Cells) -> None:
        for index in np.flatnonzero(cells.kinds == Kind.UNREADABLE).tolist():
            place = Place(self.sheet.name, Cell(number, top + index))
            self.put(place.cell, Error(NAME, "The formula in this cell cannot be read.", place))


def _pending(cells: Cells) -> Cells:
    """Contents as values to begin with."""
    formulas = is_kind(cells.kinds, Kind.FORMULA, Kind.UNREADABLE)
    if formulas.all():
        kinds = np.full(len(formulas), Kind.PENDING, np.uint8)
        return Cells(kinds, np.zeros(len(formulas)), cells.pool)
    kinds = np.where(formulas, np.uint8(Kind.PENDING), cells.kinds)
    return Cells(kinds, np.where(formulas, 0.0, cells.payload), cells.pool)
