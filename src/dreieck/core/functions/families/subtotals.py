"""Subtotals: a total of cells that are not subtotals themselves, and may leave out hidden rows."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.formula import Shape
from dreieck.core.functions.families.summary import as_number
from dreieck.core.functions.record import Function, Takes, Trait
from dreieck.core.functions.registry import Failure, calls, find, function
from dreieck.core.grid import Area, Cell
from dreieck.core.ranges.operands import Range, Table
from dreieck.core.ranges.totals import Total
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import VALUE, Error, Value, to_number

KINDS = (
    "AVERAGE", "COUNT", "COUNTA", "MAX", "MIN", "PRODUCT", "STDEV", "STDEVP", "SUM", "VAR", "VARP",
)  # fmt: skip
"""The functions that SUBTOTAL knows by number, from 1."""
SEEN_ONLY = 100
"""What is added to such a number where hidden rows are left out."""


_OF_ALL = ("MEDIAN", "MODE")
"""Those that only AGGREGATE knows, from 12."""
_AT_A_PLACE = ("LARGE", "SMALL", "PERCENTILE", "QUARTILE", "PERCENTILE.EXC", "QUARTILE.EXC")
"""Those that also take a place or a part, from 14."""


@function("SUBTOTAL")
def _subtotal(kind: int, *areas: list[Table]) -> float:
    known, seen_only = told_kind(kind)
    if known is None:
        raise Failure(VALUE, "The kind is 1 to 11, or 101 to 111 to leave out hidden rows.")
    tables = (table for tables in areas for table in tables)
    values = (value for table in tables for value in _counted(table, seen_only=seen_only))
    return _summarised(known, values)


@function("AGGREGATE")
def _aggregate(kind: int, left_out: int, *tables: Table) -> float:
    names = (*KINDS, *_OF_ALL, *_AT_A_PLACE)
    known = find(names[kind - 1]) if 1 <= kind <= len(names) else None
    if known is None or not 0 <= left_out <= 7:
        raise Failure(VALUE, "The kind is 1 to 19, what is left out 0 to 7.")
    takes_place = known.name in _AT_A_PLACE
    if takes_place and len(tables) != 2:
        raise Failure(VALUE, "This kind takes one range, and a place or part behind it.")
    values = (
        value
        for table in (tables[:1] if takes_place else tables)
        for value in _counted_of_any(table, left_out)
        if not (left_out in (2, 3, 6, 7) and isinstance(value, Error))
    )
    if not takes_place:
        return _summarised(known, values)
    place = to_number(tables[1].at(0, 0))
    numbers = sorted(as_number(value) for value in values if isinstance(value, float | Error))
    is_whole = known.parameters[1].takes is Takes.WHOLE
    place = as_number(place)
    return float(known.compute(np.array(numbers), int(place) if is_whole else place))  # type: ignore[arg-type]


def _counted_of_any(table: Table, left_out: int) -> Iterator[Value]:
    """The values of a range or an array, without what is to be left out beside errors."""
    if not isinstance(table, Range):
        return table.filled()
    return _counted(table, seen_only=left_out in (1, 3, 5, 7), nested=left_out > 3)


def _summarised(known: Function, values: Iterator[Value]) -> float:
    """What a function that summarises makes of values."""
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


def _counted(table: Table, *, seen_only: bool, nested: bool = False) -> Iterator[Value]:
    """The values of a range without hidden rows, if so asked.

    Those of subtotals are left out, too, unless they are to be counted although ``nested``.
    """
    if not isinstance(table, Range):
        raise Failure(VALUE, "Subtotals are of cells, not of values.")
    sheet = table.reader.workbook.sheet(table.sheet)
    left_out = set() if nested else _subtotals(sheet, table.area)
    rows = sheet.layout.rows
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
