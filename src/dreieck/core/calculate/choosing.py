"""Conditions down a column: each branch is worked out for those rows only that take it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate.converted import as_logicals, as_numbers
from dreieck.core.calculate.elementwise import Operation, combined
from dreieck.core.calculate.moving import may_refer
from dreieck.core.calculate.rows import Rows
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.sheet.cells import Cells, Kind, Payload, is_kind
from dreieck.core.values import Error, Value, compared

Mask = NDArray[np.bool_]


def _equals(one: Value, other: Value) -> bool | Error:
    order = compared(one, other)
    return order if isinstance(order, Error) else order == 0


_SAME = Operation(_equals)


class Choosing:
    """A call that gives one of its arguments, in those rows that have no result yet.

    Masks tell of these rows; with each result that is given they become fewer.
    """

    def __init__(self, strip: Rows, node: tree.Call) -> None:
        self.strip = strip
        self.nodes = node.arguments
        self._open: NDArray[np.intp] | None = None
        """The rows that have no result yet; None for all."""
        self._base: Cells | None = None
        """What the first rows that had a result were given, with gaps for the others."""
        self._parts: list[tuple[NDArray[np.intp], Cells]] = []

    @property
    def open(self) -> NDArray[np.intp]:
        """The rows that have no result yet, counted from 0."""
        if self._open is None:
            self._open = np.arange(self.strip.height)
        return self._open

    @property
    def count(self) -> int:
        """How many arguments there are."""
        return len(self.nodes)

    def values(self, number: int) -> Cells:
        """The values of an argument."""
        if self._open is None:
            return self.strip.cells(self.nodes[number])
        if not len(self._open):
            return Cells.of([])
        return self.strip.part(self._open).cells(self.nodes[number])

    def conditions(self, number: int) -> Mask:
        """Whether an argument holds; where it is an error, that is the result."""
        cells = self.values(number)
        if is_kind(cells.kinds, Kind.TEXT, Kind.ERROR).any():
            cells = self._sound(as_logicals(cells))
        holds: Mask = cells.payload != 0
        return holds

    def numbers(self, number: int) -> Payload:
        """An argument as numbers; where it is an error, that is the result."""
        return self._sound(as_numbers(self.values(number))).payload

    def is_single(self, number: int) -> bool:
        """Whether an argument is a value or one cell, and no range."""
        node = self.nodes[number]
        return isinstance(node, CellReference) or not may_refer(node)

    def equal(self, cells: Cells, others: Cells) -> Mask:
        """Whether values are equal, as those of SWITCH are; errors equal nothing."""
        if not len(cells):
            return np.zeros(0, np.bool_)
        same = combined(_SAME, cells, others)
        equal: Mask = (same.kinds == Kind.LOGICAL) & (same.payload != 0)
        return equal

    def put(self, which: Mask, cells: Cells) -> None:
        """Give the results of some rows."""
        if which.all():
            self._parts.append((self.open, cells))
            self._open = self.open[:0]
        elif which.any() and self._open is None:
            # The others are written over, so that nothing of them is to be kept.
            kinds = np.where(which, cells.kinds, np.uint8(Kind.EMPTY))
            self._base = Cells(kinds, cells.payload, cells.pool)
            self._open = np.flatnonzero(~which)
        elif which.any():
            self._parts.append((self._split(which), cells.taken(which)))

    def give(self, number: int, which: Mask) -> None:
        """Give an argument as the result of some rows."""
        if which.any():
            rows = self._split(which)
            self._parts.append((rows, self.strip.part(rows).cells(self.nodes[number])))

    def give_rest(self, number: int) -> None:
        """Give an argument as the result of all rows that are left."""
        if len(self.open):
            cells = self.strip.part(self.open).cells(self.nodes[number])
            self._parts.append((self.open, cells))
            self._open = self.open[:0]

    def result(self, rest: Cells) -> Cells:
        """The results; ``rest`` are those of the rows that are still open."""
        parts = [*self._parts, (self.open, rest)] if len(rest) else self._parts
        if self._base:
            return self._base.replaced(parts)
        if len(parts) == 1:
            return parts[0][1]
        if all(cells.all_numbers for _, cells in parts):
            numbers = np.empty(self.strip.height)
            for rows, cells in parts:
                numbers[rows] = cells.payload
            return Cells.numbers(numbers)
        return Cells.laid(self.strip.height, parts)

    def _split(self, which: Mask) -> NDArray[np.intp]:
        """The open rows of a mask, which are open no more."""
        if self._open is None:
            self._open = np.flatnonzero(~which)
            return np.flatnonzero(which)
        rows, self._open = self._open[which], self._open[~which]
        return rows

    def _sound(self, cells: Cells) -> Cells:
        """Those of some cells that are no errors; errors become results."""
        errors = cells.kinds == Kind.ERROR
        if not errors.any():
            return cells
        self.put(errors, cells)
        return cells.taken(~errors)
