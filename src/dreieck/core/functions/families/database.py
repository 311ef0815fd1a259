"""Functions of a table with headings: the rows that fit a table of criteria.

The first row of both tables holds headings. A row of the table fits if it fits all criteria
of at least one row of criteria (OpenFormula 4.11.9 and 4.11.10).
"""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable

from dreieck.core.budget import spend
from dreieck.core.functions.criteria import Criterion, criterion
from dreieck.core.functions.registry import Failure, function
from dreieck.core.ranges.operands import Table
from dreieck.core.values import DIV0, NUM, VALUE, Error, Value

_CRITERION = 8
"""So many steps it takes to read a criterion."""


def _of_rows(name: str, compute: Callable[[list[Value]], Value]) -> None:
    """Register a function of the values of one column in the rows that fit."""

    def computed(table: Table, column: Value, wanted: Table) -> Value:
        index = _column(table, column)
        return compute([table.at(index, row) for row in _fitting(table, wanted)])

    function(name)(computed)


def _numbers(values: list[Value]) -> list[float]:
    for value in values:
        if isinstance(value, Error):
            raise Failure.of(value)
    return [value for value in values if isinstance(value, float)]


def _at_least(
    least: int, compute: Callable[[list[float]], float]
) -> Callable[[list[Value]], Value]:
    def computed(values: list[Value]) -> float:
        numbers = _numbers(values)
        if len(numbers) < least:
            raise Failure(DIV0, f"Fewer than {least} numbers fit.")
        return compute(numbers)

    return computed


def _get(values: list[Value]) -> Value:
    if not values:
        raise Failure(VALUE, "No row fits.")
    if len(values) > 1:
        raise Failure(NUM, f"{len(values)} rows fit, not one.")
    return values[0]


_of_rows("DSUM", lambda v: math.fsum(_numbers(v)))
_of_rows("DCOUNT", lambda v: float(len(_numbers(v))))
_of_rows("DCOUNTA", lambda v: float(sum(value is not None for value in v)))
_of_rows("DAVERAGE", _at_least(1, statistics.fmean))
_of_rows("DMIN", lambda v: min(_numbers(v), default=0.0))
_of_rows("DMAX", lambda v: max(_numbers(v), default=0.0))
_of_rows("DPRODUCT", lambda v: math.prod(_numbers(v)))
_of_rows("DVAR", _at_least(2, statistics.variance))
_of_rows("DVARP", _at_least(1, statistics.pvariance))
_of_rows("DSTDEV", _at_least(2, statistics.stdev))
_of_rows("DSTDEVP", _at_least(1, statistics.pstdev))
_of_rows("DGET", _get)


def _column(table: Table, field: Value) -> int:
    if isinstance(field, Error):
        raise Failure.of(field)
    if isinstance(field, float) and 1 <= field <= table.width:
        return int(field) - 1
    if isinstance(field, str):
        for column in range(table.width):
            heading = table.at(column, 0)
            if isinstance(heading, str) and heading.casefold() == field.casefold():
                return column
    raise Failure(VALUE, f"The table has no column “{field}”.")


def _fitting(table: Table, wanted: Table) -> list[int]:
    """The rows of the table, counted from 0, that fit the criteria."""
    alternatives: list[list[tuple[int, Criterion]]] = []
    for row in range(1, wanted.height):
        together = []
        for column in range(wanted.width):
            heading, value = wanted.at(column, 0), wanted.at(column, row)
            if heading is not None and value is not None:
                spend(_CRITERION + table.width)
                together.append((_column(table, heading), criterion(value)))
        alternatives.append(together)
    last = max((row for _, row, _ in table.placed()), default=0)
    return [row for row in range(1, last + 1) if _fits(table, row, alternatives)]


def _fits(table: Table, row: int, alternatives: list[list[tuple[int, Criterion]]]) -> bool:
    """Whether a row fits all criteria of one of the alternatives."""
    for together in alternatives:
        spend(1 + len(together))
        if all(fits(table.at(column, row)) for column, fits in together):
            return True
    return False
