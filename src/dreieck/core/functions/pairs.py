"""Functions of two lists, number by number: how one goes with the other."""

from __future__ import annotations

import math
from collections.abc import Callable
from operator import mul

from dreieck.core.functions.registry import Failure, Takes, arg, function
from dreieck.core.functions.side_by_side import numbers_of_pairs
from dreieck.core.functions.spread import deviations
from dreieck.core.ranges.operands import Table
from dreieck.core.values import DIV0

_YS = arg("ys", Takes.ARRAY, "what is explained")
_XS = arg("xs", Takes.ARRAY, "what explains it, as many numbers")
_LISTS = (arg("one", Takes.ARRAY, "numbers"), arg("other", Takes.ARRAY, "as many numbers"))
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


@function(
    "SLOPE", "6.18.69", "How much the best straight line rises for each step to the right.",
    _YS, _XS,
    words="the slope of {0} over {1}", example=("=SLOPE({3;5;7},{1;2;3})", 2.0),
)  # fmt: skip
def _slope(ys: Table, xs: Table) -> float:
    return _line(ys, xs)[0]


@function(
    "INTERCEPT", "6.18.38", "Where the best straight line stands at 0.",
    _YS, _XS,
    words="the height at 0 of {0} over {1}", example=("=INTERCEPT({3;5;7},{1;2;3})", 1.0),
)  # fmt: skip
def _intercept(ys: Table, xs: Table) -> float:
    return _line(ys, xs)[1]


@function(
    "FORECAST", "6.18.28", "Where the best straight line stands at a number.",
    arg("x", Takes.NUMBER, "where it is asked for"), _YS, _XS,
    words="what {1} over {2} let expect at {0}", example=("=FORECAST(4,{3;5;7},{1;2;3})", 9.0),
)  # fmt: skip
def _forecast(x: float, ys: Table, xs: Table) -> float:
    slope, intercept = _line(ys, xs)
    return intercept + slope * x


@function(
    "CORREL", "6.18.17", "How closely two lists go together: 1 exactly, 0 not, -1 the other way.",
    *_LISTS,
    words="how closely {0} and {1} go together", example=("=CORREL({1;2;3},{2;4;6})", 1.0),
)  # fmt: skip
def _correl(one: Table, other: Table) -> float:
    return _correlation(one, other)


@function(
    "RSQ", "6.18.66", "Which part of one list the best straight line explains, from 0 to 1.",
    _YS, _XS,
    words="the part of {0} that {1} explain", example=("=RSQ({2;4;6},{1;2;3})", 1.0),
)  # fmt: skip
def _rsq(ys: Table, xs: Table) -> float:
    return _correlation(ys, xs) ** 2


@function(
    "COVAR", "6.18.18", "The covariance of two lists that hold all values.",
    *_LISTS,
    words="the covariance of {0} and {1}", example=("=COVAR({1;2;3},{2;4;9})", 7 / 3),
)  # fmt: skip
def _covar(one: Table, other: Table) -> float:
    firsts, seconds = numbers_of_pairs(one, other)
    if not firsts:
        raise Failure(DIV0, "There is no pair of numbers.")
    return _sum_of_products(deviations(firsts), deviations(seconds)) / len(firsts)


def _of_squares(
    name: str, section: str, what: str, result: float, term: Callable[[float, float], float]
) -> None:
    """Register a sum over pairs."""

    def summed(one: Table, other: Table) -> float:
        return math.fsum(map(term, *numbers_of_pairs(one, other)))

    example = (f"={name}({{5;3}},{{2;1}})", result)
    function(name, section, f"The sum of {what}, pair by pair.", *_LISTS,
             words=f"the sum of {what} of {{0}} and {{1}}", example=example)(summed)  # fmt: skip


_of_squares("SUMX2MY2", "6.16.66", "the differences of the squares", 29.0,
            lambda x, y: x * x - y * y)  # fmt: skip
_of_squares("SUMX2PY2", "6.16.67", "the squares of both", 39.0, lambda x, y: x * x + y * y)
_of_squares("SUMXMY2", "6.16.68", "the squares of the differences", 13.0,
            lambda x, y: (x - y) ** 2)  # fmt: skip
