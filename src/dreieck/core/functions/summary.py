"""Functions that make one value of many: sums, averages, counts, extremes, spread."""

from __future__ import annotations

import math
import statistics
from collections import Counter
from collections.abc import Callable, Iterator
from functools import reduce
from itertools import chain
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import spend
from dreieck.core.cells import Cells, Kind
from dreieck.core.functions.registry import (
    Failure,
    Parameter,
    Takes,
    arg,
    function,
    optional,
    repeated,
)
from dreieck.core.ranges import Range, Table
from dreieck.core.totals import Total
from dreieck.core.values import DIV0, NA, NUM, VALUE, Error

_NUMBERS = repeated("numbers", Takes.NUMBERS, "numbers or ranges")
_TOTALS = repeated("numbers", Takes.TOTALS, "numbers or ranges")
_COUNTED = repeated("values", Takes.COUNTED, "values or ranges")
_LIST = arg("numbers", Takes.NUMBERS, "a range of numbers")


@function(
    "SUM",
    "6.16.61",
    "Adds numbers; text and empty cells in ranges are left out.",
    _TOTALS,
    words="the sum of {*}",
    example=("=SUM(B2:B5)", 235.2),
)
def _sum(totals: list[Total]) -> float:
    return math.fsum(part for total in totals for part in total.parts)


@function(
    "SUMSQ",
    "6.16.65",
    "Adds the squares of numbers.",
    _NUMBERS,
    words="the sum of the squares of {*}",
    example=("=SUMSQ(3,4)", 25.0),
)
def _sumsq(numbers: Iterator[float]) -> float:
    return math.fsum(number * number for number in numbers)


@function(
    "PRODUCT",
    "6.16.47",
    "Multiplies numbers; text and empty cells in ranges are left out.",
    _NUMBERS,
    words="the product of {*}",
    example=("=PRODUCT(4,5,6)", 120.0),
)
def _product(numbers: Iterator[float]) -> float:
    found = list(numbers)
    return math.prod(found) if found else 0.0


@function(
    "SUMPRODUCT",
    "6.16.64",
    "Multiplies ranges cell by cell and adds the products; what is no number counts as 0.",
    repeated("ranges", Takes.ARRAY, "ranges of one size"),
    words="the sum of the products of {*}",
    example=("=SUMPRODUCT(B2:B3,D2:D3)", 128.52),
)
def _sumproduct(*tables: Table) -> float:
    sizes = {(table.width, table.height) for table in tables}
    if len(sizes) > 1:
        raise Failure(VALUE, "The ranges differ in size.")
    if all(isinstance(table, Range) for table in tables):
        tables = _without_empty_ends(tables)
    columns = (_products(column, tables) for column in range(tables[0].width))
    return math.fsum(chain.from_iterable(columns))


def _without_empty_ends(ranges: tuple[Any, ...]) -> tuple[Table, ...]:
    """Ranges of one size without the columns and rows at their ends that are empty in all."""
    sizes = [each.filled_size() for each in ranges]
    width, height = max(1, *(w for w, _ in sizes)), max(1, *(h for _, h in sizes))
    return tuple(each.part(0, 0, width, height) for each in ranges)


def _products(column: int, tables: tuple[Table, ...]) -> list[float]:
    """The products along the rows of one column; raises the first error among the cells."""
    parts = [table.column(column) for table in tables]
    errors = [(places[0], cells) for cells in parts if len(places := _errors(cells))]
    if errors:
        place, cells = min(errors, key=lambda each: each[0])
        error = cells.value(int(place))
        assert isinstance(error, Error)
        raise Failure(error.code, error.why, error.origin)
    with np.errstate(all="ignore"):
        numbers = [np.where(cells.kinds == Kind.NUMBER, cells.payload, 0.0) for cells in parts]
        product = reduce(np.multiply, numbers)
    listed: list[float] = product[product != 0].tolist()
    spend(len(listed) // 8)
    return listed


def _errors(cells: Cells) -> NDArray[np.intp]:
    return np.flatnonzero(cells.kinds == Kind.ERROR)


@function(
    "AVERAGE",
    "6.18.3",
    "The mean of numbers; text and empty cells in ranges are left out.",
    _TOTALS,
    words="the average of {*}",
    example=("=AVERAGE(B2:B5)", 58.8),
)
def _average(totals: list[Total]) -> float:
    count = sum(total.count for total in totals)
    if not count:
        raise Failure(DIV0, "There is no number to take the average of.")
    return math.fsum(part for total in totals for part in total.parts) / count


@function(
    "MEDIAN",
    "6.18.47",
    "The number in the middle when all are sorted.",
    _NUMBERS,
    words="the middle one of {*}",
    example=("=MEDIAN(B2:B5)", 42.0),
)
def _median(numbers: Iterator[float]) -> float:
    found = list(numbers)
    if not found:
        raise Failure(NUM, "There is no number to take the middle of.")
    return statistics.median(found)


@function(
    "MODE",
    "6.18.50",
    "The number that occurs most often.",
    _NUMBERS,
    words="the most frequent of {*}",
    example=("=MODE(3,1,3,2)", 3.0),
)
def _mode(numbers: Iterator[float]) -> float:
    counted = Counter(numbers)
    most = max(counted.values(), default=0)
    if most < 2:
        raise Failure(NA, "No number occurs twice.")
    return min(number for number, count in counted.items() if count == most)


@function(
    "MIN",
    "6.18.48",
    "The smallest number; 0 where there is none.",
    _TOTALS,
    words="the smallest of {*}",
    example=("=MIN(B2:B5)", 25.2),
)
def _min(totals: list[Total]) -> float:
    return min((total.low for total in totals if total.count), default=0.0)


@function(
    "MAX",
    "6.18.45",
    "The largest number; 0 where there is none.",
    _TOTALS,
    words="the largest of {*}",
    example=("=MAX(B2:B5)", 126.0),
)
def _max(totals: list[Total]) -> float:
    return max((total.high for total in totals if total.count), default=0.0)


@function(
    "COUNT",
    "6.13.6",
    "How many numbers there are; text, errors and empty cells are not counted.",
    _COUNTED,
    words="how many numbers there are in {*}",
    example=("=COUNT(A2:B5)", 4.0),
)
def _count(totals: list[Total]) -> float:
    return float(sum(total.count for total in totals))


@function(
    "COUNTA",
    "6.13.7",
    "How many values of any kind there are; empty cells are not counted.",
    _COUNTED,
    words="how many entries there are in {*}",
    example=("=COUNTA(A1:B6)", 10.0),
)
def _counta(totals: list[Total]) -> float:
    return float(sum(total.filled for total in totals))


@function(
    "COUNTBLANK",
    "6.13.8",
    "How many cells of a range are empty or hold no text.",
    arg("range", Takes.RANGE, "the cells that are looked at"),
    words="how many cells of {0} are empty",
    example=("=COUNTBLANK(A1:B6)", 2.0),
)
def _countblank(cells: Range) -> float:
    return float(cells.size - sum(value != "" for value in cells.filled()))


@function(
    "LARGE",
    "6.18.42",
    "The largest number but so many.",
    _LIST,
    arg("place", Takes.WHOLE, "1 for the largest, 2 for the next"),
    words="number {1} of {0} from the largest down",
    example=("=LARGE(B2:B5,2)", 50.4),
)
def _large(numbers: Iterator[float], place: int) -> float:
    return _ranked(sorted(numbers, reverse=True), place)


@function(
    "SMALL",
    "6.18.70",
    "The smallest number but so many.",
    _LIST,
    arg("place", Takes.WHOLE, "1 for the smallest, 2 for the next"),
    words="number {1} of {0} from the smallest up",
    example=("=SMALL(B2:B5,2)", 33.6),
)
def _small(numbers: Iterator[float], place: int) -> float:
    return _ranked(sorted(numbers), place)


def _ranked(numbers: list[float], place: int) -> float:
    if not 1 <= place <= len(numbers):
        raise Failure(NUM, f"There is no place {place} among {len(numbers)} numbers.")
    return numbers[place - 1]


@function(
    "RANK",
    "6.18.65",
    "The place of a number among others; equal numbers share it.",
    arg("number", Takes.NUMBER, "whose place is asked"),
    _LIST,
    optional("upwards", Takes.LOGICAL, "true to count from the smallest"),
    words="the place of {0} among {1}",
    example=("=RANK(B2,B2:B5)", 2.0),
)
def _rank(number: float, numbers: Iterator[float], upwards: bool = False) -> float:
    found = list(numbers)
    if number not in found:
        raise Failure(NA, "The number is not among the others.")
    ahead = sum(other < number if upwards else other > number for other in found)
    return float(ahead + 1)


def _spread(
    name: str, section: str, what: str, least: int, result: float, compute: Callable[..., float]
) -> None:
    """Register one of the four measures of spread."""

    def measured(numbers: Iterator[float]) -> float:
        found = list(numbers)
        if len(found) < least:
            raise Failure(DIV0, f"{name} needs {least} number{'s' * (least > 1)} or more.")
        return compute(found)

    purpose, parameter = (
        f"The {what}.",
        Parameter("numbers", Takes.NUMBERS, "numbers or ranges", repeated=True),
    )
    example = (f"={name}(2,4,4,4,5,5,7,9)", result)
    function(name, section, purpose, parameter, words=f"the {what} of {{*}}", example=example)(
        measured
    )


_spread("VAR", "6.18.82", "variance of a sample", 2, 32 / 7, statistics.variance)
_spread("VARP", "6.18.84", "variance of all values", 1, 4.0, statistics.pvariance)
_spread("STDEV", "6.18.72", "standard deviation of a sample", 2, (32 / 7) ** 0.5, statistics.stdev)
_spread("STDEVP", "6.18.74", "standard deviation of all values", 1, 2.0, statistics.pstdev)
