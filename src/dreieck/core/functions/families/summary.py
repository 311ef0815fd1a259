"""Functions that make one value of many: sums, averages, counts, extremes."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Iterator
from functools import reduce
from itertools import chain
from operator import methodcaller

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.registry import (
    Failure,
    at_once,
    function,
)
from dreieck.core.functions.side_by_side import check_errors, trimmed
from dreieck.core.ranges.beside import MAX_WIDE, Beside, exact_sum, with_errors
from dreieck.core.ranges.operands import Range, Table
from dreieck.core.ranges.totals import Total
from dreieck.core.sheet.cells import Kind, Payload
from dreieck.core.values import DIV0, NUM, Error, Value


@function("SUM")
def _sum(totals: list[Total]) -> float:
    return math.fsum(part for total in totals for part in total.parts)


at_once("SUM")(methodcaller("sum"))


@function("SUMSQ")
def _sumsq(numbers: Iterator[float]) -> float:
    return math.fsum(number * number for number in numbers)


at_once("SUMSQ")(Beside.sum_of_squares)


@function("PRODUCT")
def _product(numbers: Iterator[float]) -> float:
    found = list(numbers)
    return math.prod(found) if found else 0.0


at_once("PRODUCT")(Beside.product)


@function("SUMPRODUCT")
def _sumproduct(*tables: Table) -> float:
    sides = trimmed(tables)
    columns = (_products(column, sides) for column in range(sides[0].width))
    return math.fsum(chain.from_iterable(columns))


def _products(column: int, tables: list[Table]) -> list[float]:
    """The products along the rows of one column; raises the first error among the cells."""
    parts = [table.column(column) for table in tables]
    check_errors(parts)
    with np.errstate(all="ignore"):
        numbers = [np.where(cells.kinds == Kind.NUMBER, cells.payload, 0.0) for cells in parts]
        product = reduce(np.multiply, numbers)
    listed: list[float] = product[product != 0].tolist()
    spend(len(listed) // 8)
    return listed


@at_once("SUMPRODUCT")
def _sumproduct_in_rows(*tables: Beside | Table) -> Payload | None:
    height = next(table.height for table in tables if isinstance(table, Beside))
    sides = [_side(table, height) for table in tables]
    if len({(width, len(columns)) for width, columns in sides}) > 1:
        return None
    columns = zip(*(columns for _, columns in sides), strict=True)
    return exact_sum([reduce(np.multiply, factors) for factors in columns], height)


def _side(table: Beside | Table, height: int) -> tuple[int, list[Payload]]:
    """How wide a range is, and its numbers in each row; what is no number counts as 0."""
    if isinstance(table, Beside):
        return table.width, table.zeros_elsewhere()
    if table.size > MAX_WIDE:
        return table.width, []
    cells = [
        table.column(n).taken(slice(row, row + 1))
        for row in range(table.height)
        for n in range(table.width)
    ]
    parts = [with_errors(each) for each in cells]
    return table.width, Beside(1, parts).zeros_elsewhere()


@function("AVERAGE")
def _average(totals: list[Total]) -> float:
    count = sum(total.count for total in totals)
    if not count:
        raise Failure(DIV0, "There is no number to take the average of.")
    return math.fsum(part for total in totals for part in total.parts) / count


@at_once("AVERAGE")
def _average_in_rows(numbers: Beside) -> Payload:
    found: Payload = numbers.sum() / numbers.count()
    return found


@function("MIN")
def _min(totals: list[Total]) -> float:
    return min((total.low for total in totals if total.count), default=0.0)


at_once("MIN")(methodcaller("lowest"))


@function("MAX")
def _max(totals: list[Total]) -> float:
    return max((total.high for total in totals if total.count), default=0.0)


at_once("MAX")(methodcaller("highest"))


@function("COUNT")
def _count(totals: list[Total]) -> float:
    return float(sum(total.count for total in totals))


at_once("COUNT")(methodcaller("count"))


@function("COUNTA")
def _counta(totals: list[Total]) -> float:
    return float(sum(total.filled for total in totals))


at_once("COUNTA")(methodcaller("filled"))


@function("COUNTBLANK")
def _countblank(cells: Range) -> float:
    return float(cells.size - sum(value != "" for value in cells.filled()))


def _of_all(name: str, compute: Callable[..., float]) -> None:
    """Register a function for which TRUE is 1 and text in ranges is 0."""

    def computed(values: Iterator[Value]) -> float:
        return compute([as_number(value) for value in values])

    function(name)(computed)


def as_number(value: Value) -> float:
    """What a value counts as: TRUE as 1, text as 0. Raises Failure for an error."""
    if isinstance(value, Error):
        raise Failure.of(value)
    return float(value) if isinstance(value, float | bool) else 0.0


def _mean(numbers: list[float]) -> float:
    if not numbers:
        raise Failure(DIV0, "There is no value to take the average of.")
    return math.fsum(numbers) / len(numbers)


_of_all("AVERAGEA", _mean)
_of_all("MAXA", lambda n: max(n, default=0.0))
_of_all("MINA", lambda n: min(n, default=0.0))


@function("GEOMEAN")
def _geomean(numbers: Iterator[float]) -> float:
    return statistics.geometric_mean(_positive(numbers))


@function("HARMEAN")
def _harmean(numbers: Iterator[float]) -> float:
    return statistics.harmonic_mean(_positive(numbers))


def _positive(numbers: Iterator[float]) -> list[float]:
    found = list(numbers)
    if not found or min(found) <= 0:
        raise Failure(NUM, "All numbers have to be above 0, and there has to be one.")
    return found
