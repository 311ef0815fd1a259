"""Working out one shape down a whole strip of a column at once.

Plain numbers are worked out as arrays. Every cell that holds something else, or leads to
something else, is worked out by the same rules as a single formula, so that both ways give
the same.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.fanning import fans
from dreieck.core.calculate.arguments import Operand
from dreieck.core.calculate.calls import call_down
from dreieck.core.calculate.elementwise import MINUS, PERCENT, Operation, combined, operation
from dreieck.core.calculate.evaluation import Evaluation, finished, result_at
from dreieck.core.calculate.fan_out import fan_out
from dreieck.core.calculate.moving import grows, stays, stays_throughout
from dreieck.core.calculate.range_totals import totals_one_column
from dreieck.core.calculate.rows import Column
from dreieck.core.calculate.tasks import KnownValues, Task
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Takes, Trait, Way, find
from dreieck.core.grid import Cell
from dreieck.core.ranges.operands import Array, CellValues, Range, Several, single
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Place, Value

_SHORT = 4
"""Strips of so few rows are worked out cell by cell."""
_AT_ONCE = 131_072
"""So many rows are worked out at once."""
_IN_CACHE = 51_200
"""So many where numbers are all there is: a few arrays of them fit into the processor's cache."""
_OF_NUMBERS = {Takes.NUMBER, Takes.WHOLE, Takes.LOGICAL}
_STRETCH = 8_192
"""So many rows are worked out at once where each of them may take long."""


def work_out(task: Task, values: KnownValues) -> None:
    """Work out the cells of a task that are pending; all that they read is settled.

    What takes long is done a stretch at a time, so that little is lost where work has to end.
    """
    if fans(task.shape, values.named):
        fan_out(task, values)
        return
    left, _, right, _ = task.area
    for column in range(left, right + 1):
        for top, bottom in _stretches(task):
            _work_out(task, values, column, top, bottom)


def _stretches(task: Task) -> Iterator[tuple[int, int]]:
    """The rows of a task, as the first and last ones of stretches."""
    _, top, _, bottom = task.area
    root = task.shape.tree
    height = _STRETCH
    if _is_quick(root):
        height = _IN_CACHE if _is_of_numbers(root) else _AT_ONCE
    for first in range(top, bottom + 1, height):
        yield first, min(first + height - 1, bottom)


def _is_quick(node: tree.Node) -> bool:
    """Whether all functions of a formula are worked out for all rows at once."""
    return all(_is_quick_call(each) for each in tree.walk(node) if isinstance(each, tree.Call))


def _is_of_numbers(node: tree.Node) -> bool:
    """Whether a formula is nothing but arithmetic, comparisons and conditions of numbers."""
    for each in tree.walk(node):
        if isinstance(each, tree.Text) or (isinstance(each, tree.Binary) and each.operator == "&"):
            return False
        function = find(each.function) if isinstance(each, tree.Call) else None
        if function is None or Trait.CHOOSES in function.traits:
            continue
        if any(parameter.takes not in _OF_NUMBERS for parameter in function.parameters):
            return False
    return True


def _is_quick_call(call: tree.Call) -> bool:
    function = find(call.function)
    if function is None or not call.arguments:
        return True
    if function.way is not Way.ARRAY or Trait.HERE in function.traits:
        return False
    return totals_one_column(function, call) or not any(map(grows, call.arguments))


def _work_out(task: Task, values: KnownValues, column: int, top: int, bottom: int) -> None:
    """Work out those of some rows of a column that are pending."""
    results = values.results(task.sheet)
    pending = results.cells(column, top, bottom).kinds == Kind.PENDING
    if not pending.any():
        return
    if bottom - top < _SHORT:
        places = [Place(task.sheet, Cell(column, row)) for row in range(top, bottom + 1)]
        found = Cells.of([result_at(task.shape, place, values) for place in places])
    else:
        rows = range(top, bottom + 1)
        found = Strip(values, task.sheet, column, rows, task.shape.tree).result()
    if pending.all():
        results.write(column, top, found)
    else:
        for index in np.flatnonzero(pending).tolist():
            results.put(Cell(column, top + index), found.value(index))


class Strip:
    """Some rows of one column, from top to bottom, all with one formula."""

    def __init__(
        self,
        values: CellValues,
        sheet: str,
        column: int,
        rows: range | NDArray[np.intp],
        root: tree.Node,
    ) -> None:
        self.values = values
        self.root = root
        self.sheet = sheet
        self.column = column
        self.rows = rows
        self.height = len(rows)
        self.first, self.last = int(rows[0]), int(rows[-1])

    def part(self, which: NDArray[np.intp]) -> Strip:
        """The strip of some of the rows, counted from 0."""
        if len(which) == self.height:
            return self
        rows = which + self.first if isinstance(self.rows, range) else self.rows[which]
        return Strip(self.values, self.sheet, self.column, rows, self.root)

    def result(self) -> Cells:
        """The results of the formula."""
        return self._finished(self.cells(self.root))

    def cells(self, node: tree.Node) -> Cells:
        """The single values of a node in all rows."""
        found = self.single(node)
        return found if isinstance(found, Cells) else Cells.alike(found, self.height)

    def single(self, node: tree.Node) -> Cells | Value:
        """The single values of a node; one that is the same in all rows stands alone."""
        return self.plain(self.down(node))

    def down(self, node: tree.Node, *, single: bool = True) -> Column:
        """What a node is, down the strip; ``single`` where only its value counts."""
        match node:
            case tree.Group():
                return self.down(node.inner, single=single)
            case CellReference():
                return self._read(node)
            case tree.Binary():
                left, right = self.single(node.left), self.single(node.right)
                return self._combined(operation(node.operator), left, right)
            case tree.Prefix(sign="+"):
                return self.single(node.operand)
            case tree.Prefix():
                return self._combined(MINUS, self.single(node.operand), None)
            case tree.Percent():
                return self._combined(PERCENT, self.single(node.operand), None)
            case tree.Call():
                return call_down(self, node, single=single)
            case RangeReference() | tree.Name() | tree.Linked():
                return self._referred(node)
            case _:
                return self.at(0).operand(node)

    def stays(self, node: tree.Node, takes: Takes) -> bool:
        """Whether an argument that is no single value stands for the same in all rows."""
        if stays(node, self.values):
            return True
        # No row cuts what is taken whole.
        return takes is not Takes.LATER and stays_throughout(node, self.values)

    def place(self, index: int) -> Place:
        """The place of a row, counted from 0."""
        return Place(self.sheet, Cell(self.column, int(self.rows[index])))

    def at(self, index: int) -> Evaluation:
        """The formula in one row."""
        return Evaluation(self.place(index), self.values, self.root)

    def read(self, sheet: str, column: int, row: int) -> Cells:
        """The cells that move along with the rows, the first of them in a row of a sheet."""
        cells = self.values.cells(sheet, column, row, row + self.last - self.first)
        if len(cells) == self.height:
            return cells
        return cells.taken(np.asarray(self.rows) - self.first)

    def plain(self, column: Column) -> Cells | Value:
        """Single values, without ranges."""
        if isinstance(column, list):
            return Cells.of([self._one(each, index) for index, each in enumerate(column)])
        if isinstance(column, Range) and column.area.size == 1:
            return column.at(0, 0)
        if isinstance(column, Range) and self._lies_beside(column):
            return self.read(column.sheet, column.area.left, self.first)
        if isinstance(column, Range | Array | Several):
            return Cells.of([self._one(column, index) for index in range(self.height)])
        return column

    def _one(self, operand: Operand, index: int) -> Value:
        return single(operand, self.place(index).cell)

    def _lies_beside(self, range_: Range) -> bool:
        """Whether each row of the strip cuts one cell out of a range."""
        area = range_.area
        return area.width == 1 and area.top <= self.first and self.last <= area.bottom

    def _read(self, reference: CellReference) -> Column:
        first, last = reference.area(self.place(0).cell), reference.area(self.place(-1).cell)
        sheet = reference.sheet or self.sheet
        if not first or not last or (reference.sheet and not self.values.has_sheet(sheet)):
            return [self.at(index).operand(reference) for index in range(self.height)]
        if reference.row.locked:
            return self.values.value(sheet, first.first)
        return self.read(sheet, first.left, first.top)

    def _referred(self, node: tree.Node) -> Column:
        if stays(node, self.values):
            return self.at(0).operand(node)
        if isinstance(node, tree.Name):
            named = self.values.named(node.text)
            if named and isinstance(named.tree, CellReference):
                return self._read(named.tree)
        return [self.at(index).operand(node) for index in range(self.height)]

    def _combined(
        self, operation: Operation, left: Cells | Value, right: Cells | Value
    ) -> Cells | Value:
        """Values side by side and an operator between them."""
        if isinstance(left, Cells) or isinstance(right, Cells):
            return combined(operation, left, right)
        return operation.rule(left, right)

    def _finished(self, cells: Cells) -> Cells:
        if cells.all_numbers:
            return cells
        empty = cells.kinds == Kind.EMPTY
        errors = np.flatnonzero(cells.kinds == Kind.ERROR)
        if not len(errors) and not empty.any():
            return cells
        kinds = np.where(empty, np.uint8(Kind.NUMBER), cells.kinds)
        whole = Cells(kinds, cells.payload, cells.pool)
        objects = cells.pool.objects
        # Errors that began elsewhere are known by their number; only the others are made anew.
        new = [at for at in errors.tolist() if objects[int(cells.payload[at])].origin is None]
        if not new:
            return whole
        begun = [finished(cells.value(at), self.place(at)) for at in new]
        rest = np.ones(len(kinds), np.bool_)
        rest[new] = False
        return Cells.laid(
            len(kinds), [(rest.nonzero()[0], whole.taken(rest)), (np.array(new), Cells.of(begun))]
        )
