"""Functions of two lists, number by number: how one goes with the other."""

from __future__ import annotations

import math
from collections.abc import Callable
from operator import mul

from dreieck.core.functions.families.spread import deviations
from dreieck.core.functions.registry import Failure, also, function
from dreieck.core.functions.side_by_side import numbers_of_pairs
from dreieck.core.ranges.operands import Table
from dreieck.core.values import DIV0

_LEAST = 2
_TOO_FEW = "At least two pairs of numbers are needed, and not all of them alike."


def _line(ys: Table, xs: Table) -> tuple[float, float]:
    """Slope and height at 0 of the straight line that fits best."""
    heights, places = numbers_of_pairs(ys, xs)
    above, beside = _apart(heights), _apart(places)
    squares = _sum_of_products(beside, beside)
    if squares == 0:
        raise Failure(DIV0, _TOO_FEW)
    slope = _sum_of_products(beside, above) / squares
    return slope, (math.fsum(heights) - slope * math.fsum(places)) / len(places)


def _correlation(one: Table, other: Table) -> float:
    firsts, seconds = map(_apart, numbers_of_pairs(one, other))
    squares = _sum_of_products(firsts, firsts) * _sum_of_products(seconds, seconds)
    if squares == 0:
        raise Failure(DIV0, _TOO_FEW)
    found = _sum_of_products(firsts, seconds) / math.sqrt(squares)
    return min(max(found, -1.0), 1.0)


def _apart(numbers: list[float]) -> list[float]:
    """How far numbers lie above their mean. Raises Failure where there are not two of them."""
    if len(numbers) < _LEAST:
        raise Failure(DIV0, _TOO_FEW)
    return deviations(numbers)


def _sum_of_products(ones: list[float], others: list[float]) -> float:
    return math.fsum(map(mul, ones, others))


@function("SLOPE")
def _slope(ys: Table, xs: Table) -> float:
    return _line(ys, xs)[0]


@function("INTERCEPT")
def _intercept(ys: Table, xs: Table) -> float:
    return _line(ys, xs)[1]


@function("FORECAST")
def _forecast(x: float, ys: Table, xs: Table) -> float:
    slope, intercept = _line(ys, xs)
    return intercept + slope * x


@function("CORREL")
def _correl(one: Table, other: Table) -> float:
    return _correlation(one, other)


@function("RSQ")
def _rsq(ys: Table, xs: Table) -> float:
    return _correlation(ys, xs) ** 2


@function("COVAR")
def _covar(one: Table, other: Table) -> float:
    firsts, seconds = numbers_of_pairs(one, other)
    if not firsts:
        raise Failure(DIV0, "There is no pair of numbers.")
    return _sum_of_products(deviations(firsts), deviations(seconds)) / len(firsts)


def _of_squares(name: str, term: Callable[[float, float], float]) -> None:
    """Register a sum over pairs."""

    def summed(one: Table, other: Table) -> float:
        return math.fsum(map(term, *numbers_of_pairs(one, other)))

    function(name)(summed)


_of_squares("SUMX2MY2", lambda x, y: x * x - y * y)
_of_squares("SUMX2PY2", lambda x, y: x * x + y * y)
_of_squares("SUMXMY2", lambda x, y: (x - y) ** 2)


@function("COVARIANCE.S")
def _covariance_of_sample(one: Table, other: Table) -> float:
    firsts, seconds = map(_apart, numbers_of_pairs(one, other))
    return _sum_of_products(firsts, seconds) / (len(firsts) - 1)


@function("STEYX")
def _off_line(ys: Table, xs: Table) -> float:
    heights, places = numbers_of_pairs(ys, xs)
    if len(heights) < _LEAST + 1:
        raise Failure(DIV0, "At least three pairs of numbers are needed.")
    above, beside = _apart(heights), _apart(places)
    slope, _ = _line(ys, xs)
    left = math.fsum((high - slope * far) ** 2 for high, far in zip(above, beside, strict=True))
    return math.sqrt(left / (len(heights) - 2))


also("COVAR", "COVARIANCE.P")
also("CORREL", "PEARSON")
