"""The cells of one sheet, sparse and by column."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.formula import Shape
from dreieck.core.grid import (
    EVERYWHERE,
    MAX_COLUMN,
    MAX_ROW,
    Area,
    Axis,
    Cell,
    LineChange,
    Lines,
)
from dreieck.core.sheet.cells import Cells, Kind, Kinds
from dreieck.core.sheet.column import Column
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.layout import PLAIN_LAYOUT
from dreieck.core.sheet.series import Counted
from dreieck.core.values.look import PLAIN, Look


class Run(NamedTuple):
    """Cells below each other that hold the same and look the same; None is empty."""

    column: int
    top: int
    bottom: int
    content: Content | None
    look: Look

    @property
    def area(self) -> Area:
        """Where the run stands."""
        return Area(self.column, self.top, self.column, self.bottom)


class ColumnRun(NamedTuple):
    """Cells below each other that count on, or hold this and that, and look the same."""

    column: int
    top: int
    bottom: int
    content: Counted | Cells
    look: Look

    @property
    def cells(self) -> Cells:
        """What the cells hold."""
        if isinstance(self.content, Cells):
            return self.content
        return self.content.cells(self.bottom - self.top + 1)

    def apart(self) -> Iterator[Run]:
        """The same, a run for each cell."""
        for row, content in enumerate(self.cells.values(), self.top):
            yield Run(self.column, row, row, content, self.look)  # type: ignore[arg-type]  # a content

    @property
    def area(self) -> Area:
        """Where the run stands."""
        return Area(self.column, self.top, self.column, self.bottom)


class Sheet:
    """A named table of cells. ``id`` stays the same when the sheet is renamed."""

    def __init__(self, id: int, name: str) -> None:
        self.id = id
        self.name = name
        self.layout = PLAIN_LAYOUT
        self.columns: dict[int, Column] = {}
        """The columns that hold something; look, do not change."""
        self._looks: dict[int, Column] = {}
        self._borrowed: set[int] = set()
        self.version = 0
        """Counts the changes, for those who keep something worked out from the cells."""
        self._used: tuple[int, Area | None] = (-1, None)

    def copy(self) -> Sheet:
        """A sheet with the same cells to try changes on; good until this one changes."""
        other = Sheet(self.id, self.name)
        other.layout = self.layout
        other.columns, other._looks = self.columns.copy(), self._looks.copy()
        other._borrowed = set(self.columns) | set(self._looks)
        other.version = self.version
        return other

    def content(self, cell: Cell) -> Content | None:
        """What a cell holds, None where it is empty or beyond the sheet."""
        column = self.columns.get(cell.column)
        content: Content | None = None if column is None else column.get(cell.row)
        return content

    def look(self, cell: Cell) -> Look:
        """How a cell looks."""
        column = self._looks.get(cell.column)
        return (column.get(cell.row) or PLAIN) if column else PLAIN

    def put(self, cell: Cell, content: Content | None, look: Look) -> None:
        """Set what a cell holds and how it looks; None empties it."""
        self.put_run(Run(cell.column, cell.row, cell.row, content, look))

    def put_run(self, run: Run | ColumnRun) -> None:
        """Set what the cells of a run hold and how they look."""
        self.version += 1
        number = run.column
        self._own(number)
        if run.content is not None or number in self.columns:
            column = self.columns.setdefault(number, Column())
            if isinstance(run, ColumnRun):
                column.write(run.top, run.cells)
            else:
                column.put(run.top, run.bottom, run.content)
            if column.extent() is None:
                del self.columns[number]
        self.dress(number, run.top, run.bottom, run.look)

    def dress(self, column: int, top: int, bottom: int, look: Look) -> None:
        """Set how cells below each other look."""
        self._own(column)
        if look != PLAIN or column in self._looks:
            looks = self._looks.setdefault(column, Column())
            looks.put(top, bottom, None if look == PLAIN else look)

    def insert(self, lines: Lines) -> None:
        """Make room for rows or columns; what stands there and behind moves on."""
        self._slide(LineChange(lines, comes=True))

    def delete(self, lines: Lines) -> None:
        """Take rows or columns out; what stands behind them moves up."""
        if lines.axis == "row":
            for number in {*self.columns, *self._looks}:
                self.put_run(Run(number, lines.first, lines.last, None, PLAIN))
        else:
            for held in (self.columns, self._looks):
                for number in [n for n in held if lines.first <= n <= lines.last]:
                    del held[number]
        self._slide(LineChange(lines, comes=False))

    def _slide(self, change: LineChange) -> None:
        self.version += 1
        self.layout = self.layout.after(change)
        first, steps = change.beyond, change.steps
        if change.lines.axis == "row":
            for number in {*self.columns, *self._looks}:
                self._own(number)
                for columns in (self.columns, self._looks):
                    if number in columns:
                        columns[number].slide(first, steps)
            return

        def after(number: int) -> int:
            return number + steps if number >= first else number

        self.columns = {after(n): column for n, column in self.columns.items()}
        self._looks = {after(n): looks for n, looks in self._looks.items()}
        self._borrowed = {after(n) for n in self._borrowed}

    def _own(self, number: int) -> None:
        """See that a column can be changed: what is borrowed from another sheet is copied."""
        if number in self._borrowed:
            self._borrowed.discard(number)
            for columns in (self.columns, self._looks):
                if number in columns:
                    columns[number] = columns[number].copy()

    def end(self, axis: Axis) -> int:
        """The last row or column that holds something or does not look plain, 0 without one."""
        held = [column for columns in (self.columns, self._looks) for column in columns.items()]
        ends = [(number, end[1]) for number, column in held if (end := column.extent())]
        return max((row if axis == "row" else number for number, row in ends), default=0)

    def dressed(self) -> list[int]:
        """The columns in which something does not look plain, or once did."""
        return sorted(self._looks)

    def looks_of(self, column: int) -> Iterator[tuple[int, int, Look]]:
        """The looks of a column that are not plain: first row, last row and look."""
        looks = self._looks.get(column)
        extent = looks.extent() if looks else None
        for top, bottom, look in self.looks_between(column, *extent) if extent else ():
            if look != PLAIN:
                yield top, bottom, look

    def looks_between(self, column: int, top: int, bottom: int) -> Iterator[tuple[int, int, Look]]:
        """How rows of a column look, plain ones too: first row, last row and look."""
        looks = self._looks.get(column)
        if not looks:
            yield top, bottom, PLAIN
            return
        for first, last, look in looks.runs(top, bottom):
            yield first, last, look or PLAIN

    def put_cells(self, column: int, top: int, cells: Cells) -> None:
        """Set what cells below each other hold; their looks stay."""
        self.version += 1
        if cells.kinds.any():
            self.columns.setdefault(column, Column()).write(top, cells)

    def kinds(self, area: Area) -> Kinds:
        """The kinds of what the cells of an area hold, by column and row."""
        columns = (self.columns.get(number) for number in range(area.left, area.right + 1))
        empty = np.zeros(area.height, np.uint8)
        held = [each.cells(area.top, area.bottom).kinds if each else empty for each in columns]
        return np.array(held, np.uint8)

    def formulas(self, area: Area) -> Iterator[tuple[Cell, Shape]]:
        """The cells of an area that hold formulas."""
        for number in self.columns_in(area):
            column = self.columns[number]
            rows = column.rows(area.top, area.bottom, Kind.FORMULA)
            spend(len(rows))
            for row in rows:
                yield Cell(number, row), column.get(row)

    def filled(self, area: Area) -> Iterator[tuple[Cell, Content]]:
        """The cells of an area that hold something, column by column."""
        for number in self.columns_in(area):
            column = self.columns[number]
            rows = column.rows(area.top, area.bottom)
            spend(len(rows))
            for row in rows:
                yield Cell(number, row), column.get(row)

    def count(self, area: Area) -> int:
        """How many cells of an area hold something."""
        columns = (self.columns[number] for number in self.columns_in(area))
        return sum(column.count(area.top, area.bottom) for column in columns)

    def count_formulas(self, area: Area = EVERYWHERE) -> int:
        """How many cells, of an area or of all, hold formulas."""
        columns = (self.columns[number] for number in self.columns_in(area))
        return sum(column.count(area.top, area.bottom, Kind.FORMULA) for column in columns)

    def looked(self, area: Area) -> Iterator[tuple[Cell, Look]]:
        """The cells of an area that do not look plain."""
        for number, column in sorted(self._looks.items()):
            if area.left <= number <= area.right:
                for row in column.rows(area.top, area.bottom):
                    yield Cell(number, row), column.get(row)

    def runs(self, area: Area) -> Iterator[Run]:
        """What an area holds and how it looks, in runs down each column, plain emptiness too."""
        for number in range(area.left, area.right + 1):
            contents, looks = self.columns.get(number), self._looks.get(number)
            if not contents and not looks:
                yield Run(number, area.top, area.bottom, None, PLAIN)
                continue
            contents, looks = contents or Column(), looks or Column()
            for top, bottom, look in looks.runs(area.top, area.bottom):
                for first, last, content in contents.runs(top, bottom):
                    yield Run(number, first, last, content, look or PLAIN)

    def all_runs(self, area: Area = EVERYWHERE) -> Iterator[Run]:
        """All that the sheet or an area of it holds and all its looks, in runs."""
        for number in sorted({*self.columns, *self._looks}):
            pairs = (self.columns.get(number), self._looks.get(number))
            ends = [each for column in pairs if column and (each := column.extent())]
            held = ends and area.common(
                Area(number, min(end[0] for end in ends), number, max(end[1] for end in ends))
            )
            if held:
                for run in self.runs(held):
                    if run.content is not None or run.look != PLAIN:
                        yield run

    def __bool__(self) -> bool:
        """A sheet is there, though nothing may be on it; to count it takes a while."""
        return True

    def __len__(self) -> int:
        return sum(len(column) for column in self.columns.values())

    def used(self) -> Area | None:
        """The smallest area that holds all that is filled, None on an empty sheet."""
        if self._used[0] != self.version:
            ends = {n: end for n, column in self.columns.items() if (end := column.extent())}
            area = (
                Area(
                    min(ends),
                    min(top for top, _ in ends.values()),
                    max(ends),
                    max(bottom for _, bottom in ends.values()),
                )
                if ends
                else None
            )
            self._used = (self.version, area)
        return self._used[1]

    def edge(self, cell: Cell, columns: int, rows: int) -> Cell:
        """Where a jump from ``cell`` ends: the edge of the data in one direction.

        One of ``columns`` and ``rows`` is 1 or -1, the other 0; without a direction it ends where
        it begins. From inside data the jump ends at its last cell, from its edge or from emptiness
        at the next filled cell, or at the end of the sheet.
        """
        step = rows or columns
        if not step:
            return cell
        if rows:
            column = self.columns.get(cell.column)
            line = set(column.rows(1, MAX_ROW)) if column else set()
            here, limit = cell.row, MAX_ROW
        else:
            line = {number for number, column in self.columns.items() if column.kind(cell.row)}
            here, limit = cell.column, MAX_COLUMN
        spend(len(line))
        if here in line and here + step in line:
            while here + step in line:
                here += step
        else:
            ahead = [at for at in line if (at - here) * step > 0]
            here = min(ahead, key=lambda at: abs(at - here)) if ahead else max(1, limit * step)
        return Cell(cell.column, here) if rows else Cell(here, cell.row)

    def columns_in(self, area: Area) -> list[int]:
        """The columns of an area that hold something, in order."""
        if area.width <= len(self.columns):
            return [n for n in range(area.left, area.right + 1) if n in self.columns]
        return sorted(n for n in self.columns if area.left <= n <= area.right)
