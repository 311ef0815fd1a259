"""Fans: the cells that a formula fills which gives more than one value.

A fan lies on cells that hold nothing themselves. Where something else stands in the way it has no
room, and its start is an error. Of two fans in each other's way the first one in reading order is
laid.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import NamedTuple, Protocol

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.column import Column
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import ROOM, Error, Place

_A_FAN = 8
"""What it costs to find out whether a fan has room."""


class Written(Protocol):
    """The values of a sheet, in which fans are laid."""

    sheet: Sheet

    def column(self, number: int) -> Column:
        """The values of a column."""

    def write(self, number: int, top: int, cells: Cells) -> None:
        """Put values below each other."""

    def put(self, cell: Cell, value: object) -> None:
        """Put one value."""

    def put_rows(self, number: int, rows: NDArray[np.intp], value: object) -> None:
        """Put one value into some rows of a column."""


@dataclass(frozen=True, slots=True, eq=False)
class Fan:
    """What a formula gives, column by column, beginning in its start."""

    start: Cell
    cells: Cells
    width: int
    height: int

    @property
    def area(self) -> Area:
        """The cells that it needs; they may lie beyond the sheet."""
        column, row = self.start
        return Area(column, row, column + self.width - 1, row + self.height - 1)

    def column(self, number: int) -> Cells:
        """The values of a column, counted from 0."""
        return self.cells.taken(slice(number * self.height, (number + 1) * self.height))

    def equals(self, other: Fan) -> bool:
        """Whether another one gives the same values."""
        if (self.width, self.height) != (other.width, other.height):
            return False
        one, two = self.cells, other.cells
        if one.all_numbers and two.all_numbers:
            return bool(np.array_equal(one.payload, two.payload))
        return one.values() == two.values()


class _Refused(NamedTuple):
    """A fan that has no room, what its start shows, and the cell in its way that is filled."""

    fan: Fan
    error: Error
    filled: Cell | None


class Fans:
    """The fans of one sheet. Look at ``moved`` for where values changed, and empty it."""

    def __init__(self, results: Written) -> None:
        self._results = results
        self._known: dict[Cell, Fan] = {}
        self._laid: dict[Cell, Area] = {}
        self._stale: set[Cell] = set()
        self._has_to_be_arranged = False
        self._refused: dict[Cell, _Refused] = {}
        self.moved: list[Area] = []

    def fork(self, results: Written) -> Fans:
        """The same fans for a copy of the sheet."""
        other = Fans(results)
        other._known, other._laid = self._known.copy(), self._laid.copy()
        other._stale, other.moved = self._stale.copy(), self.moved.copy()
        other._has_to_be_arranged = self._has_to_be_arranged
        other._refused = self._refused.copy()
        return other

    def __bool__(self) -> bool:
        """Whether there are any, or were."""
        return bool(self._known or self.moved)

    def laid(self) -> Iterator[Area]:
        """Where fans lie, each with its start first."""
        yield from self._laid.values()

    def lie_in(self, column: int) -> bool:
        """Whether a fan lies in a column."""
        return any(area.left <= column <= area.right for area in self._laid.values())

    def from_start(self, start: Cell) -> Area | None:
        """Where the fan of a formula lies; None where there is none, or no room for it."""
        return self._laid.get(start)

    def wanted(self, start: Cell) -> Area | None:
        """The cells that the formula in a cell needs, laid or not."""
        fan = self._known.get(start)
        return fan.area if fan else None

    def over(self, area: Area) -> list[Cell]:
        """The starts of the fans that lie on some of an area."""
        return [start for start, laid in self._laid.items() if laid.common(area)]

    def waiting_over(self, area: Area) -> list[Cell]:
        """Those of them that have to be worked out again."""
        return [start for start in self._stale if start in self._laid
                and self._laid[start].common(area)]  # fmt: skip

    def open(self, fan: Fan) -> None:
        """A formula has been worked out and gives many values: they are laid if there is room."""
        start, before = fan.start, self._known.get(fan.start)
        self._stale.discard(start)
        self._known[start] = fan
        if before and start in self._laid and before.equals(fan):
            self._results.put(start, fan.cells.value(0))
            return
        if start in self._laid:
            self._take_up(start)
        if self._is_free(fan):
            self._lay(fan)
        else:
            # Who has to give way, and to what, is told when all of them are known.
            self._results.put(start, Error(ROOM, "There is no room for what this gives."))
            self._has_to_be_arranged = True

    def close(self, start: Cell) -> None:
        """A formula has been worked out and gives one value, or is none any more."""
        self._stale.discard(start)
        if self._known.pop(start, None) is not None:
            self._has_to_be_arranged = True
            if start in self._laid:
                self._take_up(start)

    def unsettle(self, area: Area) -> None:
        """The formulas of an area have to be worked out again."""
        if self._known:
            self._stale.update(start for start in self._known if area.holds(start))

    def refresh(self, area: Area) -> None:
        """The cells of an area hold something else now, and no values of fans any more."""
        if not self._known:
            return
        self._has_to_be_arranged = True
        for start in self.over(area):
            self._take_up(start)
        for start in [start for start in self._known if area.holds(start)]:
            self.close(start)

    def arrange(self) -> None:
        """See that those fans are laid that have room, the first ones first."""
        for start in [*self._stale]:
            if self._results.column(start.column).kind(start.row) != Kind.PENDING:
                self.close(start)
        if not self._has_to_be_arranged:
            return
        spend(len(self._known) * _A_FAN)
        ends: dict[int, tuple[int, Cell]] = {}
        refused: dict[Cell, _Refused] = {}
        in_order = sorted(self._known.values(), key=lambda fan: (fan.start.row, fan.start.column))
        for fan in in_order:
            columns = range(fan.area.left, fan.area.right + 1)
            way = [ends[each][1] for each in columns
                   if each in ends and ends[each][0] >= fan.start.row]  # fmt: skip
            found = self._refusal(fan, min(way, default=None))
            if found:
                refused[fan.start] = found
            else:
                ends.update(dict.fromkeys(columns, (fan.area.bottom, fan.start)))
        self._refused = refused
        for start, found in refused.items():
            if start in self._laid:
                self._take_up(start)
            if start not in self._stale:
                self._results.put(start, found.error)
        for fan in in_order:
            waits = fan.start in refused or fan.start in self._stale
            if not waits and fan.start not in self._laid:
                self._lay(fan)
        self._has_to_be_arranged = bool(refused)

    def _refusal(self, fan: Fan, other: Cell | None) -> _Refused | None:
        """Why a fan cannot be laid; ``other`` is the start of one that is in its way."""
        sheet, known = self._results.sheet, self._refused.get(fan.start)
        if known and known.fan is fan and known.filled and sheet.content(known.filled) is not None:
            return known
        if not fan.area.last.on_sheet:
            end = f"row {MAX_ROW:,}" if fan.area.bottom > MAX_ROW else f"column {MAX_COLUMN:,}"
            return _refused(sheet, fan, f"the sheet ends at {end}")
        if sheet.count(fan.area) > 1:
            # The first one of those that stand in the way, as it is read.
            filled = min(
                (cell for cell, _ in sheet.filled(fan.area) if cell != fan.start),
                key=lambda cell: (cell.row, cell.column),
            )
            return _refused(sheet, fan, f"{filled.text} is filled", filled)
        if other is not None:
            return _refused(sheet, fan, f"cells there belong to the formula in {other.text}")
        return None

    def _is_free(self, fan: Fan) -> bool:
        area = fan.area
        if not area.last.on_sheet:
            return False
        for number in range(area.left, area.right + 1):
            kinds = self._results.column(number).cells(area.top, area.bottom).kinds
            if kinds[1:].any() or (number > area.left and kinds[0]):
                return False
        return True

    def _lay(self, fan: Fan) -> None:
        area = fan.area
        spend(area.size // AT_ONCE)
        for number in range(area.width):
            self._results.write(area.left + number, area.top, fan.column(number))
        self._laid[fan.start] = area
        self.moved.append(area)

    def _take_up(self, start: Cell) -> None:
        """Empty the cells of a fan that hold nothing themselves."""
        area = self._laid.pop(start)
        self.moved.append(area)
        sheet = self._results.sheet
        for number in range(area.left, area.right + 1):
            column = area._replace(left=number, right=number)
            free = np.flatnonzero(sheet.kinds(column)[0] == Kind.EMPTY)
            self._results.put_rows(number, free + area.top, None)


def _refused(sheet: Sheet, fan: Fan, why: str, filled: Cell | None = None) -> _Refused:
    size = f"{_counted(fan.height, 'row')}, {_counted(fan.width, 'column')}"
    needs = f": it needs {fan.area.text}" if fan.area.last.on_sheet else ""
    says = f"This formula gives {size}{needs}, but {why}."
    return _Refused(fan, Error(ROOM, says, Place(sheet.name, fan.start)), filled)


def _counted(count: int, what: str) -> str:
    return f"{count:,} {what}" if count == 1 else f"{count:,} {what}s"
