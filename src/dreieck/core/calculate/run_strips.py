"""Working out one shape down a column in many runs at once.

What works value by value takes the runs, one below the other, as it takes any column. What reads
otherwise (ranges that depend on what changes, what draws or looks around) is worked out run by
run, by the same rules.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.reads import reach
from dreieck.core.calculate.arguments import refusal
from dreieck.core.calculate.arithmetic import NotPlain, is_arithmetic, worked_out
from dreieck.core.calculate.evaluation import Evaluation
from dreieck.core.calculate.moving import CONSTANT, may_refer, stays_in_rows
from dreieck.core.calculate.rows import Column
from dreieck.core.calculate.stretch import Key, Stretch
from dreieck.core.calculate.strips import Strip
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import SINGLE, Takes, Trait, find
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.beside import MAX_WIDE, Long
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.values import Place, Value

_LARGEST = 1_000_000
"""Ranges of so many values in all runs are looked at at once."""
_PLAIN = Kind.NUMBER, Kind.EMPTY, Kind.LOGICAL
_IN_TOTAL = Takes.TOTALS, Takes.NUMBERS, Takes.COUNTED
_SHORT = 4
"""So few rows are worked out one by one where runs are."""


class RunStrip(Strip):
    """Some rows of one column in all runs, one run below the other; or some of these."""

    def __init__(
        self,
        stretch: Stretch,
        sheet: str,
        column: int,
        rows: range,
        root: tree.Node,
        which: NDArray[np.intp] | None = None,
    ) -> None:
        super().__init__(stretch.one, sheet, column, rows, root)
        self.stretch = stretch
        self.which = which
        self.length = len(rows)
        self.height = stretch.count * len(rows) if which is None else len(which)
        self.area = Area(column, rows.start, column, rows.stop - 1)

    def part(self, which: NDArray[np.intp]) -> RunStrip:
        """Some of the rows."""
        if len(which) == self.height:
            return self
        inner = which if self.which is None else self.which[which]
        return RunStrip(self.stretch, self.sheet, self.column, self._rows(), self.root, inner)

    def place(self, index: int) -> Place:
        """The place of a row, counted from 0."""
        at = index if self.which is None else int(self.which[index])
        return Place(self.sheet, Cell(self.column, self.first + at % self.length))

    def down(self, node: tree.Node, *, single: bool = True) -> Column:
        """What a node is in all rows and runs."""
        if isinstance(node, CONSTANT):
            return super().down(node, single=single)
        if not self._depends(node):
            return self._chosen(_tiled(self._in_all(node), self.stretch.count))
        if isinstance(node, CellReference):
            return self._read_in_runs(node)
        if self.which is None and is_arithmetic(node):
            found = self._arithmetic(node)
            if found is not None:
                return found
        if self._by_value(node):
            return super().down(node, single=single)
        total = self._in_total(node)
        return self._run_by_run(node) if total is None else total

    def _arithmetic(self, node: tree.Node) -> Cells | None:
        """What plain arithmetic comes to; None where something is no number."""
        room = self.stretch.plan.room(self.stretch.count, self.length)
        table = worked_out(node, self._leaf, room)
        if table is None:
            return None
        room.kept((self.sheet, self.column, self.first, id(node)), table)
        return Cells.numbers(table.ravel())

    def _leaf(self, node: tree.Node) -> Any:
        """The numbers of a node: one, or those of each run, of each row, or of both."""
        count, length = self.stretch.count, self.length
        if not self._depends(node):
            known, key = self.stretch.plan.known, self._key(node)
            if key not in known:
                known[key] = _numbers(self._in_all(node), (1, length))
            return known[key]
        if isinstance(node, CellReference) and node.row.locked:
            first = node.area(Cell(self.column, self.first))
            if first is None:
                raise NotPlain
            sheet = self._spelled(node.sheet or self.sheet)
            return _numbers(self.stretch.read(sheet, first.left, first.top, 1), (count, 1))
        return _numbers(self.single(node), (count, length))

    def _in_all(self, node: tree.Node) -> Cells | Value:
        """What a node that does not depend on the inputs is, in all rows of any run."""
        base = self.stretch.base
        return Strip(base, self.sheet, self.column, self._rows(), self.root).single(node)

    def at(self, index: int) -> Evaluation:
        """The formula in one row of one run."""
        at = index if self.which is None else int(self.which[index])
        self.stretch.one.go_to(at // self.length)
        return super().at(index)

    def read(self, sheet: str, column: int, row: int) -> Cells:
        """The cells that move along with the rows, the first of them in a row of a sheet."""
        name = self._spelled(sheet)
        cells = self.stretch.read(name, column, row, self.length)
        return cells if self.which is None else cells.taken(self.which)

    def _in_total(self, node: tree.Node) -> Column | None:
        """What a call makes of a range full of numbers that is the same in all rows."""
        function = find(node.function) if isinstance(node, tree.Call) else None
        if not isinstance(node, tree.Call) or function is None or len(node.arguments) != 1:
            return None
        argument = node.arguments[0]
        takes = function.parameters[0].takes if function.parameters else None
        stays = self.length == 1 or stays_in_rows(argument)
        if takes not in _IN_TOTAL or not isinstance(argument, RangeReference) or not stays:
            return None
        area = argument.area(self.place(0).cell)
        if function.at_once is None or area is None or area.size * self.stretch.count > _LARGEST:
            return None
        sheet = self._spelled(argument.sheet or self.sheet)
        columns = [
            self.stretch.read(sheet, column, area.top, area.height)
            for column in range(area.left, area.right + 1)
        ]
        if not all(cells.all_numbers for cells in columns):
            return None
        tables = [cells.payload.reshape(self.stretch.count, -1) for cells in columns]
        table = tables[0] if len(tables) == 1 else np.concatenate(tables, axis=1)
        with np.errstate(all="ignore"):
            found = function.at_once(Long(table))
        if not np.isfinite(found).all():
            return None
        return self._chosen(Cells.numbers(np.repeat(found, self.length)))

    def _by_value(self, node: tree.Node) -> bool:
        """Whether a node takes single values, or cells that move along, each row by itself."""
        if not isinstance(node, tree.Call):
            return isinstance(node, tree.Group | tree.Binary | tree.Prefix | tree.Percent)
        function = find(node.function)
        if function is None or refusal(function.name, len(node.arguments)):
            return False
        if function.depends_on_place:
            return False
        chooses = Trait.CHOOSES in function.traits and function.at_once is not None
        for index, each in enumerate(node.arguments):
            takes = function.parameter(index).takes
            value = takes in SINGLE or (takes is Takes.LATER and chooses)
            window = takes in _IN_TOTAL and function.at_once is not None
            if not (value and _is_value(each)) and not (window and self._moves_along(each)):
                return False
        return bool(node.arguments)

    def _moves_along(self, node: tree.Node) -> bool:
        """Whether a node is a few cells that move along with the rows."""
        if not isinstance(node, CellReference | RangeReference) or self.length == 1:
            return False
        if any(part.locked for part in node.on("row")):
            return False
        first = node.area(Cell(self.column, self.first))
        last = node.area(Cell(self.column, self.last))
        return bool(first and last and first.size <= MAX_WIDE and first.shape == last.shape)

    def _rows(self) -> range:
        return range(self.first, self.last + 1)

    def _chosen(self, column: Cells | Value) -> Cells | Value:
        """Those rows that are asked for."""
        if self.which is None or not isinstance(column, Cells):
            return column
        return column.taken(self.which)

    def _read_in_runs(self, reference: CellReference) -> Column:
        sheet = self._spelled(reference.sheet or self.sheet)
        first = reference.area(Cell(self.column, self.first))
        last = reference.area(Cell(self.column, self.last))
        if not first or not last:
            return self._run_by_run(reference)
        if not reference.row.locked:
            return self._chosen(self.stretch.read(sheet, first.left, first.top, self.length))
        cells = self.stretch.read(sheet, first.left, first.top, 1)
        if self.length == 1:
            return self._chosen(cells)
        repeated = Cells(
            np.repeat(cells.kinds, self.length), np.repeat(cells.payload, self.length), cells.pool
        )
        return self._chosen(repeated)

    def _run_by_run(self, node: tree.Node) -> Column:
        one = self.stretch.one
        found = []
        for number in range(self.stretch.count):
            one.go_to(number)
            strip = Strip(one, self.sheet, self.column, self._rows(), self.root)
            if self.length > _SHORT:
                found.append(strip.cells(node))
            else:
                found.append(Cells.of([strip.at(row).value(node) for row in range(self.length)]))
        return self._chosen(Cells.joined(found))

    def _depends(self, node: tree.Node) -> bool:
        """Whether what a node gives depends on the inputs."""
        key = self._key(node)
        depends = self.stretch.plan.depends
        if key not in depends:
            depends[key] = self._reads_inputs(node)
        return depends[key]

    def _spelled(self, sheet: str) -> str:
        return self.values.workbook.sheet(sheet).name

    def _key(self, node: tree.Node) -> Key:
        return self.sheet, self._rows(), self.column, id(node)

    def _reads_inputs(self, node: tree.Node) -> bool:
        for reference in self.stretch.base.references(Shape.of(node)):
            area = reach(reference, self.area)
            name = reference.sheet or self.sheet
            known = area and self.values.has_sheet(name)
            if area and known and self.stretch.holds(self._spelled(name), area):
                return True
        return False


def _numbers(column: Cells | Value, shape: tuple[int, int]) -> Any:
    """The numbers of a column as a table. Raises NotPlain where something else is there."""
    if isinstance(column, Cells):
        if not column.all_numbers and not is_kind(column.kinds, *_PLAIN).all():
            raise NotPlain
        return column.payload.reshape(shape)
    if column is not None and not isinstance(column, float):
        raise NotPlain
    return column or 0.0


def _tiled(column: Cells | Value, count: int) -> Cells | Value:
    """The same in so many runs."""
    if not isinstance(column, Cells):
        return column
    return Cells(np.tile(column.kinds, count), np.tile(column.payload, count), column.pool)


def _is_value(node: tree.Node) -> bool:
    """Whether a node stands for a value or one cell, and no range."""
    if isinstance(node, tree.Group):
        return _is_value(node.inner)
    if isinstance(node, tree.Call):
        return not may_refer(node)
    return not isinstance(node, RangeReference | tree.Name | tree.Linked | tree.Inline)
