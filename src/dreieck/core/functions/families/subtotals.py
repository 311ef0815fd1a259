"""Subtotals: a total of cells that are not subtotals themselves, and may leave out hidden rows."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.formula import Shape
from dreieck.core.functions.families.summary import as_number
from dreieck.core.functions.record import Function, Takes, Trait
from dreieck.core.functions.registry import Failure, calls, find, function
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.operands import Range, Table
from dreieck.core.ranges.totals import Total
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import VALUE, Error, Value

KINDS = (
    "AVERAGE", "COUNT", "COUNTA", "MAX", "MIN", "PRODUCT", "STDEV", "STDEVP", "SUM", "VAR", "VARP",
)  # fmt: skip
"""The functions that SUBTOTAL knows by number, from 1."""
SEEN_ONLY = 100
"""What is added to such a number where hidden rows are left out."""


@function("SUBTOTAL")
def _subtotal(kind: int, *areas: list[Table]) -> float:
    known, seen_only = told_kind(kind)
    if known is None:
        raise Failure(VALUE, "The kind is 1 to 11, or 101 to 111 to leave out hidden rows.")
    values = (
        value
        for tables in areas
        for table in tables
        for value in _counted(table, seen_only=seen_only)
    )
    if known.parameters[0].takes in (Takes.TOTALS, Takes.COUNTED):
        total = Total()
        total.take(values)
        if total.error and known.parameters[0].takes is Takes.TOTALS:
            raise Failure.of(total.error)
        return float(known.compute([total]))  # type: ignore[arg-type]
    numbers = [as_number(value) for value in values if isinstance(value, float | Error)]
    return float(known.compute(iter(numbers)))  # type: ignore[arg-type]


def told_kind(kind: int) -> tuple[Function | None, bool]:
    """The function that a kind of subtotal tells, if any, and whether hidden rows are left out."""
    seen_only, number = divmod(kind, SEEN_ONLY)
    is_known = 1 <= number <= len(KINDS) and seen_only in (0, 1)
    return (find(KINDS[number - 1]) if is_known else None), bool(seen_only)


def _counted(table: Table, *, seen_only: bool) -> Iterator[Value]:
    """The values of a range without those of subtotals, and without hidden rows if so asked."""
    if not isinstance(table, Range):
        raise Failure(VALUE, "Subtotals are of cells, not of values.")
    sheet = table.reader.workbook.sheet(table.sheet)
    left_out, rows = _subtotals(sheet, table.area), sheet.layout.rows
    for cell, value in table.reader.filled_values(table.sheet, table.area):
        if cell not in left_out and not (seen_only and rows.at(cell.row).hidden):
            yield value


def _subtotals(sheet: Sheet, area: Area) -> set[Cell]:
    """The cells of an area that use subtotals."""
    pools = (sheet.columns[number].pool.objects for number in sheet.columns_in(area))
    if not any(sees_hidden(each) for objects in pools for each in objects):
        return set()
    return {cell for cell, shape in sheet.formulas(area) if sees_hidden(shape)}


def sees_hidden(content: object) -> bool:
    """Whether what a cell holds is a formula whose value may depend on what is hidden."""
    return isinstance(content, Shape) and calls(content.tree, Trait.SEES_HIDDEN)
