"""Calls in which arguments for single values are ranges or arrays: made for each element.

The elements lie below each other as the rows of a column do, and go the same ways.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.binding import without_names
from dreieck.core.analysis.lifting import takes_single
from dreieck.core.calculate.arguments import Operand
from dreieck.core.calculate.calls import call_down
from dreieck.core.calculate.elementwise import alone, size_of, spread
from dreieck.core.calculate.evaluation import Evaluation
from dreieck.core.calculate.rows import Column
from dreieck.core.calculate.strips import Strip
from dreieck.core.formula import tree
from dreieck.core.functions import Takes, Trait, Way, find
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.operands import Array, Range, Table, single
from dreieck.core.sheet.cells import Cells
from dreieck.core.values import Error, Place, Value

_STEPS = 8
"""What a call costs for each cell that is looked into, beside what it does."""
_ALONE = 32
"""What a call costs for each element that is worked out by itself."""


def each(whole: Evaluation, node: tree.Call) -> Operand:
    """What a call gives where ranges are taken whole: one operand, or one for each element."""
    function = find(node.function)
    if function is None or not node.arguments or not function.parameters:
        return whole.call(node)
    if plain := without_names(node):
        return whole.array(plain)
    if Trait.LOOKS_INSIDE in function.traits:
        return _each_cell(whole, node)
    count = len(node.arguments)
    given = {
        id(argument): alone(whole.array(argument))
        for index, argument in enumerate(node.arguments)
        if takes_single(function, index, count)
    }
    if not any(isinstance(argument, Table) for argument in given.values()):
        return _Element(whole, node, given).call(node)
    if Trait.CHOOSES in function.traits:
        given |= {
            id(argument): alone(whole.array(argument))
            for index, argument in enumerate(node.arguments)
            if function.parameter(index).takes is Takes.LATER and id(argument) not in given
        }
    size = size_of(list(given.values()))
    if isinstance(size, Error):
        return size
    assert size is not None
    if function.way is Way.ONE_BY_ONE:
        whole.budget.spend(size[0] * size[1] * _ALONE)
    known = {key: spread(argument, *size) for key, argument in given.items()}
    rows = _Elements(whole, node, known, np.arange(size[0] * size[1]))
    return Array(rows.cells(node), *size)


def _each_cell(whole: Evaluation, node: tree.Call) -> Operand:
    """A call that looks at what a cell holds, made for each cell of a range."""
    first = node.arguments[0]
    operand = whole.array(first)
    if not isinstance(operand, Range) or operand.size == 1:
        return _Element(whole, node, {id(first): operand}).call(node)
    operand = operand.ended()
    size = size_of([operand])
    if isinstance(size, Error):
        return size
    found: list[Value] = []
    for column in range(operand.area.left, operand.area.right + 1):
        for row in range(operand.area.top, operand.area.bottom + 1):
            whole.budget.spend(_STEPS)
            cell = Range(whole.reader, operand.sheet, Area.of(Cell(column, row)))
            made = _Element(whole, node, {id(first): cell}).call(node)
            found.append(single(made, whole.place.cell))
    return Array(Cells.of(found), operand.width, operand.height)


class _Element(Evaluation):
    """One element of a call, of which some arguments are known; others are taken whole."""

    def __init__(self, whole: Evaluation, node: tree.Call, given: Mapping[int, Operand]) -> None:
        super().__init__(whole.place, whole.reader, whole.root)
        self.whole, self.within, self.known = whole, whole.within, whole.known
        self.node, self.given = node, given

    def operand(self, node: tree.Node) -> Operand:
        if node is self.node:
            return self.call(node)
        key = id(node)
        return self.given[key] if key in self.given else self.whole.array(node)

    array = operand


class _Elements(Strip):
    """All elements of a call as rows; each has its own values of some arguments."""

    def __init__(
        self,
        whole: Evaluation,
        node: tree.Call,
        given: Mapping[int, Cells | Value],
        rows: NDArray[np.intp],
    ) -> None:
        super().__init__(
            whole.reader, whole.place.sheet, whole.place.cell.column, rows, whole.root
        )
        self.whole, self.node, self.given = whole, node, given
        self._others: dict[int, Operand] = {}

    def part(self, which: NDArray[np.intp]) -> _Elements:
        """Some of the elements, counted from 0."""
        if len(which) == self.height:
            return self
        given = {
            key: cells.taken(which) if isinstance(cells, Cells) else cells
            for key, cells in self.given.items()
        }
        part = _Elements(self.whole, self.node, given, np.arange(len(which)))
        part._others = self._others
        return part

    def down(self, node: tree.Node, *, single: bool = True) -> Column:
        """What the call itself or one of its arguments is for each element."""
        if node is self.node:
            return call_down(self, self.node, single=single)
        key = id(node)
        return self.given[key] if key in self.given else self._whole(node)

    def stays(self, node: tree.Node, takes: Takes) -> bool:
        """Whether an argument is the same for all elements: each one that is not given is."""
        return id(node) not in self.given

    def place(self, index: int) -> Place:
        """The place of the formula, whichever element it is."""
        return self.whole.place

    def at(self, index: int) -> Evaluation:
        """The formula where it works out one element."""
        given: dict[int, Operand] = dict(self._others)
        for key, cells in self.given.items():
            given[key] = cells.value(index) if isinstance(cells, Cells) else cells
        return _Element(self.whole, self.node, given)

    def _whole(self, node: tree.Node) -> Operand:
        key = id(node)
        if key not in self._others:
            self._others[key] = self.whole.array(node)
        return self._others[key]
