"""How a call is worked out down a column: for all rows at once, once for each different set of
arguments, or row by row; and what its arguments are there.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.binding import without_names
from dreieck.core.analysis.lifting import lifts
from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.calculate.arguments import Operand, refusal
from dreieck.core.calculate.choosing import Choosing
from dreieck.core.calculate.elementwise import distinct
from dreieck.core.calculate.evaluation import Evaluation, called
from dreieck.core.calculate.given import Given, Undecided, given_down
from dreieck.core.calculate.moving import is_reference, may_refer
from dreieck.core.calculate.range_totals import range_totals
from dreieck.core.calculate.rows import Column, Rows
from dreieck.core.formula import tree
from dreieck.core.functions import SINGLE, Function, Takes, Trait, Way, find
from dreieck.core.ranges.operands import Array, Range, Several, Table, single
from dreieck.core.sheet.cells import Cells, Kind, Pool

_CALL_STEPS = 4
"""What a function costs in each row, beside what it does."""


def call_down(strip: Rows, node: tree.Call, *, single: bool) -> Column:
    """What a call gives in all rows; ``single`` where only its value counts."""
    function = find(node.function)
    if function is None or refusal(function.name, len(node.arguments)):
        return strip.at(0).operand(node)
    if plain := without_names(node):
        return strip.down(plain, single=single)
    if Trait.CHOOSES in function.traits:
        if function.at_once and (single or not may_refer(node)):
            return _chosen(strip, function, node)
        return _by_rows(strip, function, node, single=single)
    if not node.arguments and function.way is not Way.DISTINCT:
        return _own(strip, function, node)
    if function.way is Way.ONE_BY_ONE or (not single and may_refer(node)):
        return _by_rows(strip, function, node, single=single)
    try:
        given = given_down(strip, function, node)
    except Undecided:
        follows = strip.last - strip.first + 1 == strip.height
        totals = follows and range_totals(
            function, node, strip.place(0), strip.height, strip.values
        )
        return totals or _by_rows(strip, function, node, single=single)
    if not given.varying and given.sound is None:
        return strip.at(0).operand(node)
    found = None
    if function.at_once and given.formed and not given.is_lost:
        with np.errstate(all="ignore"):
            found = function.at_once(*given.for_form(function))
    return _Answers(strip, function, node, given).complete(found)


def _own(strip: Rows, function: Function, node: tree.Call) -> Column:
    """What a function gives that takes nothing: by the rows themselves, or the same in all."""
    if function.at_once and Trait.HERE in function.traits:
        return Cells.numbers(function.at_once(np.array(strip.rows, np.float64)))
    if function.traits & {Trait.HERE, Trait.DRAWS}:
        return _by_rows(strip, function, node, single=True)
    return strip.at(0).operand(node)


class _Answers:
    """What a call gives in the rows of a strip, of which some may be known."""

    def __init__(self, strip: Rows, function: Function, node: tree.Call, given: Given) -> None:
        self.strip = strip
        self.function = function
        self.node = node
        self.given = given

    def complete(self, found: NDArray[Any] | Cells | None) -> Cells:
        """All results: those that an array form found, errors, and what is asked one by one."""
        height, given = self.strip.height, self.given
        cells = self._as_cells(found)
        known = cells.kinds != Kind.PENDING
        if given.sound is None and known.all():
            return cells
        if given.sound is not None:
            known &= given.sound
        parts = [(np.flatnonzero(known), cells.taken(known)), *given.errors]
        asked = ~known if given.sound is None else ~known & given.sound
        if asked.any():
            rows = np.flatnonzero(asked)
            parts.append((rows, self._each_once(rows)))
        return Cells.laid(height, parts)

    def _as_cells(self, found: NDArray[Any] | Cells | None) -> Cells:
        """What an array form gives, as cells; pending where the function itself is asked."""
        height = self.strip.height
        if isinstance(found, Cells):
            return found
        if found is None:
            return Cells(np.full(height, Kind.PENDING, np.uint8), np.zeros(height), Pool())
        if found.dtype == np.bool_:
            return Cells.logicals(found)
        spend(height // AT_ONCE + 1)
        finite = np.isfinite(found)
        if finite.all():
            return Cells.numbers(found)
        kinds = np.where(finite, np.uint8(Kind.NUMBER), np.uint8(Kind.PENDING))
        return Cells(kinds, found + 0.0, Pool())

    def _each_once(self, rows: NDArray[np.intp]) -> Cells:
        """What the function itself gives in some rows, called once for each different set."""
        varying = [cells.taken(rows) for cells in self.given.varying]
        first, inverse = distinct(varying, len(rows))
        spend(len(first) * _CALL_STEPS)
        if self.given.direct:
            calls = self.given.row(self.function, rows[first])
            found = [called(self.function, lambda row=row: row) for row in calls]  # type: ignore[misc]  # bound at once
        else:
            found = [self._at(int(row)) for row in rows[first]]
        if any(isinstance(each, Several | Table) and not _is_one_cell(each) for each in found):
            # Which cell of it counts depends on the row.
            places = [(row, self.strip.place(row).cell) for row in rows.tolist()]
            return Cells.of([single(self._at(row), cell) for row, cell in places])
        at = self.strip.place(0).cell
        return Cells.of([single(each, at) for each in found]).taken(inverse)

    def _at(self, row: int) -> Operand:
        return self.strip.at(row).operand(self.node)


def _is_one_cell(table: Several | Table) -> bool:
    return isinstance(table, Array) or (isinstance(table, Range) and table.size == 1)


def _chosen(strip: Rows, function: Function, node: tree.Call) -> Cells:
    assert function.at_once
    rows = Choosing(strip, node)
    function.at_once(rows)
    if not len(rows.open):
        return rows.result(Cells.of([]))
    rest = strip.part(rows.open)
    found = rest.plain(_by_rows(rest, function, node, single=True))
    assert isinstance(found, Cells)
    return rows.result(found)


def _by_rows(strip: Rows, function: Function, node: tree.Call, *, single: bool) -> list[Operand]:
    """What a call gives row by row; what can be worked out for all rows before is."""
    row = _Row(strip, _known(strip, function, node, single=single))
    found: list[Operand] = []
    for index in range(strip.height):
        row.go_to(index)
        found.append(called(function, lambda: row.bound(function, node)))
    return found


def _known(
    strip: Rows, function: Function, node: tree.Call, *, single: bool
) -> dict[int, list[Any] | Operand]:
    """The arguments of a call that can be worked out for all rows at once, by node."""
    known: dict[int, list[Any] | Operand] = {}
    for position, each in enumerate(node.arguments if function.parameters else ()):
        takes = function.parameter(position).takes
        # What a function chooses from may be ranges, if it is not their value that counts.
        chosen = single and takes is Takes.LATER and Trait.CHOOSES in function.traits
        if takes in SINGLE or chosen:
            column = strip.down(each)
            known[id(each)] = column.values() if isinstance(column, Cells) else column
        elif strip.stays(each, takes):
            known[id(each)] = strip.at(0).array(each)
        elif not is_reference(each) and not lifts(each, strip.values.named):
            column = strip.down(each, single=False)
            known[id(each)] = column.values() if isinstance(column, Cells) else column
    return known


class _Row(Evaluation):
    """A call in one row of a strip, whose arguments are known for all rows."""

    def __init__(self, strip: Rows, known: dict[int, Any]) -> None:
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
        return self._known(node) if id(node) in self.given else super().operand(node)

    def array(self, node: tree.Node) -> Operand:
        return self._known(node) if id(node) in self.given else super().array(node)

    def _known(self, node: tree.Node) -> Operand:
        column: Any = self.given[id(node)]
        operand: Operand = column[self.index] if isinstance(column, list) else column
        return operand
