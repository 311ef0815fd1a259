"""Totals of a range in a single column that grows or moves from row to row: one step a row."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.budget import spend
from dreieck.core.calculate.arguments import Operand
from dreieck.core.calculate.evaluation import called
from dreieck.core.calculate.moving import stays_in_rows
from dreieck.core.formula import tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Failure, Function, Takes
from dreieck.core.grid import Area
from dreieck.core.ranges.operands import CellValues
from dreieck.core.ranges.totals import Total
from dreieck.core.ranges.windows import growing, growing_upwards, sliding
from dreieck.core.values import Place, Value


def range_totals(
    function: Function, node: tree.Call, place: Place, height: int, values: CellValues
) -> list[Operand] | None:
    """What a function of one total gives in so many rows from a place on.

    None where it is another function, or the range is not in one column, or stays.
    """
    (reference, *_) = node.arguments or (None,)
    if not totals_one_column(function, node) or not isinstance(reference, RangeReference):
        return None
    takes = function.parameters[0].takes
    sheet = reference.sheet or place.sheet
    first, last = place.cell, place.cell.step("row", height - 1)
    top, bottom = reference.area(first), reference.area(last)
    if not top or not bottom or not values.has_sheet(sheet):
        return None
    if top.width > 1 or not _goes_down(reference, top, bottom, (first.row, last.row)):
        return None
    read = Area(top.left, top.top, top.left, bottom.bottom)
    column = values.cells(sheet, read.left, read.top, read.bottom).values()
    spend(len(column))
    upwards, totals = _totals(reference, place, column, top.height, height)
    # Each total is handed on before the next one: they are one and the same, growing.
    found = [
        called(function, lambda total=total: _handed(takes, total))  # type: ignore[misc]
        for total in totals
    ]
    return found[::-1] if upwards else found


def totals_one_column(function: Function, node: tree.Call) -> bool:
    """Whether a call is the total of one range in a single column that does not stay."""
    takes = function.parameters[0].takes if function.parameters else None
    if takes not in (Takes.TOTALS, Takes.COUNTED) or len(node.arguments) != 1:
        return False
    (range_,) = node.arguments
    if not isinstance(range_, RangeReference) or stays_in_rows(range_) or not range_.columns:
        return False
    return range_.columns.one == range_.columns.two


def _goes_down(reference: RangeReference, top: Area, bottom: Area, rows: tuple[int, int]) -> bool:
    """Whether a range stays in its column, its corners never changing places."""
    if reference.rows is None or top.left != bottom.left:
        return False
    return reference.rows.ordered(rows[0]) == reference.rows.ordered(rows[1])


def _totals(
    reference: RangeReference, place: Place, column: list[Value], window: int, height: int
) -> tuple[bool, Iterator[Total]]:
    """The totals of a range that grows at one end or slides; whether from the last row upwards."""
    first, last = (locks.row for locks in reference.corners(place.cell))
    if last and not first:
        return True, growing_upwards(column, height - 1)
    if first and not last:
        return False, growing(column, window - 1, height)
    return False, sliding(column, window)


def _handed(takes: Takes, total: Total) -> tuple[list[Total]]:
    """A total as a function takes it. Raises Failure."""
    if takes is Takes.TOTALS and total.error:
        raise Failure.of(total.error)
    return ([total],)
