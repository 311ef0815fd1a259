"""Functions that make one value of many: sums, averages, counts, extremes."""

from __future__ import annotations

import math
from collections.abc import Iterator

from dreieck.core.functions.registry import Failure, Parameter, Takes, function
from dreieck.core.values import DIV0, Value

_NUMBERS = Parameter("numbers", Takes.NUMBERS, "numbers or ranges", repeated=True)
_VALUES = Parameter("values", Takes.VALUES, "values or ranges", repeated=True)


@function(
    "SUM",
    "6.16.61",
    "Adds numbers; text and empty cells in ranges are left out.",
    _NUMBERS,
    words="the sum of {*}",
    example=("=SUM(0.12,0.08,0.3)", 0.5),
)
def _sum(numbers: Iterator[float]) -> float:
    return math.fsum(numbers)


@function(
    "AVERAGE",
    "6.18.3",
    "The mean of numbers; text and empty cells in ranges are left out.",
    _NUMBERS,
    words="the average of {*}",
    example=("=AVERAGE(420,280,320)", 340.0),
)
def _average(numbers: Iterator[float]) -> float:
    found = list(numbers)
    if not found:
        raise Failure(DIV0, "There is no number to take the average of.")
    return math.fsum(found) / len(found)


@function(
    "MIN",
    "6.18.48",
    "The smallest number; 0 where there is none.",
    _NUMBERS,
    words="the smallest of {*}",
    example=("=MIN(420,280,315)", 280.0),
)
def _min(numbers: Iterator[float]) -> float:
    return min(numbers, default=0.0)


@function(
    "MAX",
    "6.18.45",
    "The largest number; 0 where there is none.",
    _NUMBERS,
    words="the largest of {*}",
    example=("=MAX(420,280,315)", 420.0),
)
def _max(numbers: Iterator[float]) -> float:
    return max(numbers, default=0.0)


@function(
    "COUNT",
    "6.13.6",
    "How many numbers there are; text, errors and empty cells are not counted.",
    _VALUES,
    words="how many numbers there are in {*}",
    example=('=COUNT(420,"Kestrel",280)', 2.0),
)
def _count(values: Iterator[Value]) -> float:
    return float(sum(isinstance(value, float) for value in values))


@function(
    "COUNTA",
    "6.13.7",
    "How many values of any kind there are; empty cells are not counted.",
    _VALUES,
    words="how many entries there are in {*}",
    example=('=COUNTA(420,"Kestrel",280)', 3.0),
)
def _counta(values: Iterator[Value]) -> float:
    return float(sum(value is not None for value in values))
