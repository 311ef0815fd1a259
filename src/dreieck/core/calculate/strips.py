"""Working out one shape down a whole strip of a column at once.

Plain numbers are worked out as arrays. Every cell that holds something else, or leads to
something else, is worked out by the same rules as a single formula, so that both ways give
the same.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.calculate.arguments import SINGLE, Operand
from dreieck.core.calculate.elementwise import MINUS, PERCENT, Operation, combined, operation
from dreieck.core.calculate.evaluation import Evaluation, called, finished, result_at
from dreieck.core.calculate.range_totals import range_totals, stays_in_rows
from dreieck.core.calculate.tasks import KnownValues, Task
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Function, Takes, Trait, find
from dreieck.core.grid import Cell
from dreieck.core.ranges.operands import Array, Range, Several, single
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Place, Value

_SHORT = 4
"""Strips of so few rows are worked out cell by cell."""
_CALL_STEPS = 4
"""What a function costs in each row, beside what it does."""
_STRETCH = 8_192
"""So many rows are worked out at once where each of them may take long."""

Column = Cells | list[Any] | Operand
"""What a node is down a strip: cells, one operand for each row, or one for all rows."""


def work_out(task: Task, values: KnownValues) -> None:
    """Work out the cells of a task that are pending; all that they read is settled.

    What takes long is done a stretch at a time, so that little is lost where work has to end.
    """
    left, _, right, _ = task.area
    for column in range(left, right + 1):
        for top, bottom in _stretches(task):
            _work_out(task, values, column, top, bottom)


def _stretches(task: Task) -> Iterator[tuple[int, int]]:
    """The rows of a task, as the first and last ones of stretches."""
    _, top, _, bottom = task.area
    height = bottom - top + 1 if _is_quick(task.shape.tree) else _STRETCH
    for first in range(top, bottom + 1, height):
        yield first, min(first + height - 1, bottom)


def _is_quick(node: tree.Node) -> bool:
    """Whether a formula is worked out in arrays, or as the total of one column of its rows."""
    calls = [each for each in tree.walk(node) if isinstance(each, tree.Call)]
    return not calls or (calls == [node] and _totals_one_column(calls[0]))


def _totals_one_column(call: tree.Call) -> bool:
    function, range_ = find(call.function), call.arguments[:1]
    takes = function.parameters[0].takes if function and function.parameters else None
    return (
        takes in (Takes.TOTALS, Takes.COUNTED)
        and len(call.arguments) == 1
        and isinstance(range_[0], RangeReference)
        and range_[0].columns is not None
        and range_[0].columns.one == range_[0].columns.two
    )


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
        found = Strip(values, task.sheet, column, top, bottom, task.shape.tree).result()
    if pending.all():
        results.write(column, top, found)
    else:
        for index in np.flatnonzero(pending).tolist():
            results.put(Cell(column, top + index), found.value(index))


class Strip:
    """Rows of one column, all with one formula."""

    def __init__(
        self, values: KnownValues, sheet: str, column: int, top: int, bottom: int, root: tree.Node
    ) -> None:
        self.values = values
        self.root = root
        self.sheet = sheet
        self.column = column
        self.top = top
        self.height = bottom - top + 1

    def result(self) -> Cells:
        """The results of the formula."""
        column = self.down(self.root)
        if isinstance(column, Cells):
            found = column
        elif isinstance(column, list):
            found = Cells.of([self._single(each, index) for index, each in enumerate(column)])
        else:
            one = Cells.of([self._single(column, 0)] if not isinstance(column, Range) else [])
            if not len(one):
                return Cells.of(
                    [finished(v, self.place(i)) for i, v in enumerate(self.each(self.root))]
                )
            found = one.taken(np.zeros(self.height, np.intp))
        return self._finished(found)

    def down(self, node: tree.Node, *, single: bool = True) -> Column:
        """What a node is, down the strip; ``single`` where only its value counts."""
        match node:
            case tree.Group():
                return self.down(node.inner, single=single)
            case CellReference():
                return self._read(node)
            case tree.Binary():
                left, right = self.down(node.left), self.down(node.right)
                return self._combined(operation(node.operator), left, right)
            case tree.Prefix(sign="+"):
                return self.down(node.operand)
            case tree.Prefix():
                return self._combined(MINUS, self.down(node.operand), None)
            case tree.Percent():
                return self._combined(PERCENT, self.down(node.operand), None)
            case tree.Call():
                return self._call(node, single=single)
            case RangeReference() | tree.Name() | tree.Linked():
                return [self.at(index).operand(node) for index in range(self.height)]
            case _:
                return self.at(0).operand(node)

    def place(self, index: int) -> Place:
        """The place of a row, counted from 0."""
        return Place(self.sheet, Cell(self.column, self.top + index))

    def at(self, index: int) -> Evaluation:
        """The formula in one row."""
        return Evaluation(self.place(index), self.values, self.root)

    def each(self, node: tree.Node) -> list[Value]:
        """The value of a node in each row."""
        return [self.at(index).value(node) for index in range(self.height)]

    def _single(self, operand: Operand, index: int) -> Value:
        return single(operand, self.place(index).cell)

    def _read(self, reference: CellReference) -> Column:
        first = reference.area(Cell(self.column, self.top))
        last = reference.area(Cell(self.column, self.top + self.height - 1))
        sheet = reference.sheet or self.sheet
        if not first or not last or (reference.sheet and not self.values.has_sheet(sheet)):
            return [self.at(index).operand(reference) for index in range(self.height)]
        if reference.row.locked:
            return self.values.value(sheet, first.first)
        return self.values.cells(sheet, first.left, first.top, last.top)

    def _plain(self, column: Column) -> Cells | Value:
        """Single values, without ranges."""
        if isinstance(column, list):
            return Cells.of([self._single(each, index) for index, each in enumerate(column)])
        if isinstance(column, Range | Array | Several):
            return Cells.of([self._single(column, index) for index in range(self.height)])
        return column

    def _combined(self, operation: Operation, left: Column, right: Column) -> Column:
        """Two columns and an operator between them."""
        one, two = self._plain(left), self._plain(right)
        if isinstance(one, Cells) or isinstance(two, Cells):
            return combined(operation, one, two)
        return operation.rule(one, two)

    def _call(self, node: tree.Call, *, single: bool) -> Column:
        function = find(node.function)
        if function is None:
            return self.at(0).operand(node)
        if any(parameter.takes is Takes.ARRAY for parameter in function.parameters):
            return [self.at(index).operand(node) for index in range(self.height)]
        totals = range_totals(function, node, self.place(0), self.height, self.values)
        if totals:
            return totals
        known = self._arguments(function, node, single=single)
        if quick := self._of_numbers(function, node, known):
            return quick
        row = _Row(self, known)
        found: list[Any] = [None] * self.height
        for index in range(self.height):
            row.go_to(index)
            found[index] = called(function, lambda: row.bound(function, node))
        return found

    def _arguments(
        self, function: Function, node: tree.Call, *, single: bool
    ) -> dict[int, list[Any] | Operand]:
        """The arguments of a call that can be worked out for all rows at once, by node."""
        known: dict[int, list[Any] | Operand] = {}
        for position, each in enumerate(node.arguments if function.parameters else ()):
            takes = function.parameter(position).takes
            # What a function chooses from may be ranges, if it is not their value that counts.
            chosen = single and takes is Takes.LATER and Trait.CHOOSES in function.traits
            value = takes in SINGLE or chosen
            if value or not _is_reference(each):
                known[id(each)] = self._listed(self.down(each, single=value))
            elif stays_in_rows(each):
                known[id(each)] = self.at(0).operand(each)
        return known

    def _listed(self, column: Column) -> list[Any] | Operand:
        return column.values() if isinstance(column, Cells) else column

    def _of_numbers(
        self, function: Function, node: tree.Call, known: dict[int, Any]
    ) -> list[Any] | None:
        """A function that takes nothing but numbers and gets nothing but numbers."""
        count, most = len(node.arguments), function.most
        if most is None or not 0 < count <= most or count < function.least:
            return None
        if function.traits & {Trait.DRAWS, Trait.HERE}:
            return None
        if any(parameter.takes is not Takes.NUMBER for parameter in function.parameters):
            return None
        plain = [self._plain(known[id(each)]) for each in node.arguments]
        lists = [
            each.values() if isinstance(each, Cells) else [each] * self.height for each in plain
        ]
        if any(type(value) is not float for each in lists for value in each):
            return None
        spend(self.height * _CALL_STEPS)
        return [
            called(function, lambda values=values: values)  # type: ignore[misc]  # bound at once
            for values in zip(*lists, strict=True)
        ]

    def _finished(self, cells: Cells) -> Cells:
        if cells.all_numbers:
            return cells
        empty, errors = cells.kinds == Kind.EMPTY, np.flatnonzero(cells.kinds == Kind.ERROR)
        if not empty.any() and not len(errors):
            return cells
        if not len(errors):
            kinds = np.where(empty, np.uint8(Kind.NUMBER), cells.kinds)
            return Cells(kinds, np.where(empty, 0.0, cells.payload), cells.pool)
        values = cells.values()
        return Cells.of([finished(value, self.place(index)) for index, value in enumerate(values)])


class _Row(Evaluation):
    """A call in one row of a strip, whose arguments are known for all rows."""

    def __init__(self, strip: Strip, known: dict[int, Any]) -> None:
        super().__init__(strip.place(0), strip.values, strip.root)
        self.strip = strip
        self.given = known
        self.index = 0

    def go_to(self, index: int) -> None:
        """Go on to another row."""
        self.budget.spend(_CALL_STEPS)
        self.index = index
        self.place = self.strip.place(index)
        self.known.clear()

    def operand(self, node: tree.Node) -> Operand:
        key = id(node)
        if key not in self.given:
            return super().operand(node)
        column: Any = self.given[key]
        operand: Operand = column[self.index] if isinstance(column, list) else column
        return operand


def _is_reference(node: tree.Node) -> bool:
    while isinstance(node, tree.Group):
        node = node.inner
    return isinstance(node, CellReference | RangeReference | tree.Name | tree.Linked)
