"""The values of a workbook, worked out when they are asked for and kept until they change."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Hashable, Iterator, Sequence
from typing import TypeVar

import numpy as np

from dreieck.core.analysis.fanning import fans
from dreieck.core.analysis.reads import read_names, read_references, reads_anywhere
from dreieck.core.budget import AT_ONCE, current, spend
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.calculate.memory import Memory
from dreieck.core.calculate.order import Order, UnsettledError
from dreieck.core.calculate.read_map import ReadMap, touched_areas
from dreieck.core.calculate.results import Results
from dreieck.core.calculate.tasks import Task, Tasks
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.functions.families.subtotals import sees_hidden
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.index import MAX_INDEXES, Index
from dreieck.core.ranges.operands import values_in_pieces
from dreieck.core.ranges.totals import Total, Totals
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.edits import APPEARANCE, Edit, SetCells, SetLayout, SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import LOOP, UNFINISHED, Error, Place, Value

T = TypeVar("T")
_VALUE_STEPS = 2
_TOTAL_STEPS = 10
MAX_ROUNDS = 32
"""So often formulas that fill other cells are worked out because what others fill has changed."""
MAX_IN_VAIN = 8
"""So many seconds are spent on a formula altogether that has to end each time."""
_ON_SHEETS = (SetCells, *APPEARANCE)
_IN_PLACE = (*_ON_SHEETS, SetStated)
"""Edits that leave all sheets, lines and names where they are."""
_LONG_ROWS = 1000
"""For so many rows it pays to know that nothing in the whole column is pending."""


class Calculation:
    """The values of a workbook. Tell it by ``edited`` what has changed."""

    def __init__(self, workbook: Workbook) -> None:
        self.workbook = workbook
        self._results: dict[str, Results] = {}
        self._spelled: dict[str, str] = {}
        self._totals = Totals(self._columns)
        self._indexes: dict[tuple[str, Area], Index] = {}
        self._settling = False
        self._map: ReadMap | None = None
        self._in_vain: Counter[tuple[str, Area]] = Counter()
        self._memory = Memory()
        self._fans_are_laid = False

    def with_edits(self, edits: Sequence[Edit]) -> Calculation:
        """The values as they would be with edits; nothing here is changed.

        It begins with the values that are known here, and is good until the workbook changes.
        """
        written = {edit.sheet_id for edit in edits if isinstance(edit, _ON_SHEETS)}
        cells_only = all(isinstance(edit, _IN_PLACE) for edit in edits)
        sheets = self.workbook.sheets
        workbook = self.workbook.copy(
            *(sheet for sheet in sheets if not cells_only or sheet.id in written)
        )
        for edit in edits:
            edit.apply(workbook)
        other = Calculation(workbook)
        other._memory = self._memory.fork()
        if cells_only:
            for name, results in self._results.items():
                other._results[name] = results.fork(workbook.sheet(name))
            other._map = self._map
        other.edited(edits)
        return other

    def edited(self, edits: Sequence[Edit]) -> None:
        """Edits have been made in the workbook: drop what they change, and all that follows."""
        self._fans_are_laid = False
        if any(not isinstance(edit, _IN_PLACE) for edit in edits):
            self.forget()
            return
        written = [edit for edit in edits if isinstance(edit, SetCells)]
        changes: list[tuple[Sheet, Sequence[Area]]] = [
            (self.workbook.sheet_by_id(edit.sheet_id), edit.areas()) for edit in written
        ]
        if any(isinstance(edit, SetLayout) for edit in edits):
            changes += self.seeing_hidden()
        ids = {edit.sheet_id for edit in edits if isinstance(edit, _ON_SHEETS)}
        self._memory.changed(sheet.name for sheet in self.workbook.sheets if sheet.id in ids)
        self._changed(changes)

    def seeing_hidden(self) -> list[tuple[Sheet, Sequence[Area]]]:
        """Where there are formulas whose values may change with what is hidden, by sheet."""
        found = (
            (sheet, [patch.area for patch in patches(sheet) if sees_hidden(patch.shape)])
            for sheet in self.workbook.sheets
        )
        return [(sheet, areas) for sheet, areas in found if areas]

    def forget(self) -> None:
        """Drop all values: sheets or names have changed."""
        self._fans_are_laid = False
        self._results.clear()
        self._in_vain.clear()
        self._spelled.clear()
        self._map = None
        self._memory.clear()
        self._forget_shared()

    def _changed(self, changes: Sequence[tuple[Sheet, Sequence[Area]]]) -> None:
        self._in_vain.clear()
        self._forget_shared()
        for sheet, areas in changes:
            if results := self._results.get(sheet.name):
                for area in areas:
                    results.refresh(area)
        # Only now the results have the rows that the sheets have.
        for sheet, areas in changes:
            self._unsettle_readers(sheet.name, areas)

    def _unsettle_readers(self, sheet: str, areas: Sequence[Area]) -> None:
        """Formulas that read some areas, directly or over others, have to be worked out again."""
        for name, touched in touched_areas(self._formulas(), sheet, areas):
            self._memory.changed([name])
            if name in self._results:
                self._results[name].unsettle(touched)

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""
        return name in self._spelled or self.workbook.has_sheet(name)

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""
        return self.workbook.named(name)

    def value(self, sheet: str, cell: Cell) -> Value:
        """The value of a cell."""
        budget = current()
        budget.spend(_VALUE_STEPS)
        self._lay_fans()
        column = self.results(sheet).column(cell.column)
        if column.kind(cell.row) == Kind.PENDING:
            if budget.hurried:
                return UNFINISHED
            self._settle(sheet, Area.of(cell))
            column = self.results(sheet).column(cell.column)
        value: Value = column.get(cell.row)
        return value

    def cells(self, sheet: str, column: int, top: int, bottom: int) -> Cells:
        """The values of some rows of a column."""
        budget = current()
        budget.spend((bottom - top) // AT_ONCE + 1)
        self._lay_fans()
        results = self.results(sheet)
        cells = results.cells(column, top, bottom)
        if len(cells) > _LONG_ROWS and results.is_settled(column):
            return cells
        if (cells.kinds == Kind.PENDING).any():
            if budget.hurried:
                return _with_unfinished(cells)
            self._settle(sheet, Area(column, top, column, bottom))
            cells = results.cells(column, top, bottom)
        return cells

    def columns(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Cells]]:
        """The values of the filled part of each column of an area, with their first cell."""
        self._lay_fans()
        for number, top, bottom in self.results(sheet).extents_in(area):
            yield Cell(number, top), self.cells(sheet, number, top, bottom)

    def filled_values(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Value]]:
        """The cells of an area that are not empty, with their values, column by column."""
        for first, cells in self.columns(sheet, area):
            for row, value in enumerate(values_in_pieces(cells), first.row):
                if value is not None:
                    yield Cell(first.column, row), value

    def total(self, sheet: str, area: Area) -> Total:
        """What the numbers of an area come to."""
        spend(_TOTAL_STEPS)
        return self._totals.of(self._spelling(sheet), area)

    def index(self, sheet: str, area: Area) -> Index:
        """Where in an area each value stands."""
        key = (self._spelling(sheet), area)
        index = self._indexes.get(key)
        if index is None:
            if len(self._indexes) >= MAX_INDEXES:
                self._indexes.clear()
            index = self._indexes[key] = Index(area, self.columns(sheet, area))
        return index

    def used(self, sheet: str) -> Area | None:
        """The smallest area that holds all that is filled on a sheet."""
        self._lay_fans()
        return self.results(sheet).used()

    def fan(self, sheet: str, start: Cell) -> Area | None:
        """The cells that the formula in a cell fills; None where that is just its own."""
        self._lay_fans()
        return self.results(sheet).fans.from_start(start)

    def wanted(self, sheet: str, start: Cell) -> Area | None:
        """The cells that the formula in a cell would fill, whether there is room or not."""
        self._lay_fans()
        return self.results(sheet).fans.wanted(start)

    def fans_read(self, places: Sequence[Place]) -> bool:
        """Whether what formulas fill depends on some cells."""
        found = {name: fanned for name, fanned in self._fanning() if fanned}
        return bool(found) and any(
            touched.common(patch.area)
            for place in places
            for name, touched in touched_areas(
                self._formulas(), self._spelling(place.sheet), [Area.of(place.cell)]
            )
            for patch in found.get(name, [])
        )

    def fans_in(self, sheet: str, area: Area) -> list[Area]:
        """The cells that formulas fill, of all formulas that fill some of an area.

        Each begins with the cell of its formula.
        """
        self._lay_fans()
        laid = self.results(sheet).fans
        return [found for start in laid.over(area) if (found := laid.from_start(start))]

    def results(self, sheet: str) -> Results:
        """The values of a sheet as far as they are known."""
        name = self._spelling(sheet)
        self._memory.look(name)
        results = self._results.get(name)
        if results is None:
            results = self._results[name] = Results(self.workbook.sheet(name))
        return results

    def sheet(self, name: str) -> Sheet:
        """The sheet of this name, which is looked at. Raises SheetError."""
        self._memory.look(self._spelling(name))
        return self.workbook.sheet(name)

    def sheets(self) -> list[Sheet]:
        """All sheets, which are looked at."""
        self._memory.look_at_all()
        return self.workbook.sheets

    def recall(self, sheet: str, key: Hashable, find: Callable[[], T]) -> T:
        """What is found out about a sheet, once until something changes that was looked at.

        The key tells it from all else; it has to name what the answer depends on besides what
        the workbook holds and shows. What is looked at is what is asked here.
        """
        return self._memory.recall(self._spelling(sheet), key, find)

    def references(self, shape: Shape) -> Iterator[Reference]:
        """What a formula reads itself and by the names that it uses."""
        for each in self._with_names(shape):
            yield from read_references(each)

    def reads_anywhere(self, shape: Shape) -> bool:
        """Whether a formula may read more than its references and names tell."""
        return any(reads_anywhere(each) for each in self._with_names(shape))

    def _with_names(self, shape: Shape) -> list[Shape]:
        """A formula, and what the names that it uses stand for, each once."""
        found: dict[Shape, None] = {shape: None}
        waiting = [shape]
        while waiting:
            for name in read_names(waiting.pop()):
                stands_for = self.named(name)
                if stands_for and stands_for not in found:
                    found[stands_for] = None
                    waiting.append(stands_for)
        return list(found)

    def read_map(self) -> ReadMap:
        """Which formulas read which areas."""
        self._memory.look_at_formulas()
        return self._formulas()

    def _formulas(self) -> ReadMap:
        if not self._map or not self._map.is_of(self.workbook):
            self._map = ReadMap(self, self._map)
            self._memory.formulas_changed()
        return self._map

    def is_in_vain(self, task: Task, seconds: float) -> bool:
        """Whether work on a task that had to end after so many seconds is given up."""
        self._in_vain[task.sheet, task.area] += int(seconds * 1000)
        return self._in_vain[task.sheet, task.area] >= MAX_IN_VAIN * 1000

    def _columns(self, sheet: str, area: Area) -> Iterator[Cells]:
        """The cells of an area by column, no more rows of them than are used."""
        used = self.used(sheet)
        clipped = area if area.height < 1000 or not used else area.common(used)
        if clipped is None:
            return
        held = [number for number, _, _ in self.results(sheet).extents_in(clipped)]
        for number in [area.left] if area.width == 1 else held:
            yield self.cells(sheet, number, clipped.top, clipped.bottom)

    def in_order(self, sheet: str, area: Area) -> list[Task]:
        """Work out an area; the tasks that were done for it, each after those that it reads."""
        record: list[Task] = []
        self._lay_fans()
        self._settle(sheet, area, record)
        return record

    def _settle(self, sheet: str, area: Area, record: list[Task] | None = None) -> None:
        if self._settling:
            raise UnsettledError(self._spelling(sheet), area)
        self._settling = True
        try:
            Order(self, Tasks(self), record).settle(self._spelling(sheet), area)
        finally:
            self._settling = False

    def _lay_fans(self) -> None:
        """See that all formulas that fill other cells have done so.

        What they fill may be read by others of them, until nothing changes any more.
        """
        if self._fans_are_laid or self._settling:
            return
        found = [
            (name, fanned)
            for name, fanned in self._fanning()
            if fanned or (name in self._results and self._results[name].fans)
        ]
        if current().hurried and any(self._wait(*each) for each in found):
            return
        for _ in range(MAX_ROUNDS):
            if not self._lay_round(found):
                break
        else:
            self._end_rounds(found)
        self._fans_are_laid = True

    def _fanning(self) -> Iterator[tuple[str, list[Patch]]]:
        """The formulas of each sheet that may fill other cells."""
        for sheet in self.workbook.sheets:
            yield sheet.name, [each for each in patches(sheet) if fans(each.shape, self.named)]

    def _wait(self, name: str, fanned: list[Patch]) -> bool:
        return any(self.results(name).pending(patch.area) for patch in fanned)

    def _lay_round(self, found: list[tuple[str, list[Patch]]]) -> bool:
        """Work out what waits, and lay it; whether anything changed by that."""
        for name, fanned in found:
            for patch in fanned:
                if self.results(name).pending(patch.area):
                    self._settle(name, patch.area)
        for name, _ in found:
            self.results(name).fans.arrange()
        moved = [name for name, _ in found if self.results(name).fans.moved]
        if moved:
            self._forget_shared()
            self._memory.changed(moved)
        for name in moved:
            self._follow(name)
        return bool(moved)

    def _follow(self, name: str) -> None:
        """Let those be worked out again that read what fans have changed on a sheet."""
        fans_there = self.results(name).fans
        self._unsettle_readers(name, fans_there.moved)
        # Only now: work may end before.
        fans_there.moved = []

    def _end_rounds(self, found: list[tuple[str, list[Patch]]]) -> None:
        """Let those that still wait, since what they read never comes to rest, be errors."""
        for name, fanned in found:
            results = self.results(name)
            for patch in fanned:
                for column in range(patch.area.left, patch.area.right + 1):
                    why = "What this formula fills changes what it reads, without an end."
                    error = Error(LOOP, why, Place(name, Cell(column, patch.area.top)))
                    results.put_pending(column, patch.area.top, patch.area.bottom, error)
            results.fans.arrange()
            self._follow(name)

    def _spelling(self, sheet: str) -> str:
        name = self._spelled.get(sheet)
        if name is None:
            name = self._spelled[sheet] = self.workbook.sheet(sheet).name
        return name

    def _forget_shared(self) -> None:
        self._totals.clear()
        self._indexes.clear()


def _with_unfinished(cells: Cells) -> Cells:
    """The same cells, those that are not worked out unfinished."""
    pool = cells.pool.copy()
    waits = cells.kinds == Kind.PENDING
    kinds = np.where(waits, np.uint8(Kind.ERROR), cells.kinds)
    payload = np.where(waits, float(pool.number(UNFINISHED)), cells.payload)
    return Cells(kinds, payload, pool)
