"""Functions of how far numbers lie apart."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Iterator

import numpy as np

from dreieck.core.functions.registry import Failure, also, at_once, function
from dreieck.core.ranges.beside import Beside
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import DIV0, NUM


def _spread(name: str, least: int, compute: Callable[..., float]) -> None:
    """Register a measure of spread or form, which needs at least so many numbers."""

    def measured(numbers: Iterator[float]) -> float:
        found = list(numbers)
        if len(found) < least:
            raise Failure(DIV0, f"{name} needs {least} number{'s' * (least > 1)} or more.")
        return compute(found)

    function(name)(measured)


def deviations(numbers: list[float]) -> list[float]:
    """How far numbers lie above their mean; those that are all alike lie 0 above it.

    The mean is taken of the distances from the first number: it may miss by its last bit.
    """
    distances = [number - numbers[0] for number in numbers]
    mean = math.fsum(distances) / len(numbers)
    return [distance - mean for distance in distances]


def _average_deviation(numbers: list[float]) -> float:
    return math.fsum(map(abs, deviations(numbers))) / len(numbers)


def _squares(numbers: list[float]) -> float:
    return math.fsum(off * off for off in deviations(numbers))


def _variance(numbers: list[float]) -> float:
    return _squares(numbers) / (len(numbers) - 1)


def _variance_of_all(numbers: list[float]) -> float:
    return _squares(numbers) / len(numbers)


def _deviation(numbers: list[float]) -> float:
    return math.sqrt(_variance(numbers))


def _deviation_of_all(numbers: list[float]) -> float:
    return math.sqrt(_variance_of_all(numbers))


def _powers(numbers: list[float], power: int) -> float:
    """The sum of powers of how many deviations each number lies off the mean."""
    mean, deviation = statistics.fmean(numbers), statistics.stdev(numbers)
    if deviation == 0:
        raise Failure(DIV0, "All numbers are alike.")
    return math.fsum(((number - mean) / deviation) ** power for number in numbers)


def _skew(numbers: list[float]) -> float:
    n = len(numbers)
    return _powers(numbers, 3) * n / ((n - 1) * (n - 2))


def _kurt(numbers: list[float]) -> float:
    n = len(numbers)
    outer = 3 * (n - 1) ** 2 / ((n - 2) * (n - 3))
    return _powers(numbers, 4) * n * (n + 1) / ((n - 1) * (n - 2) * (n - 3)) - outer


_spread("VAR", 2, _variance)
_spread("VARP", 1, _variance_of_all)
_spread("STDEV", 2, _deviation)
_spread("STDEVP", 1, _deviation_of_all)
_spread("AVEDEV", 1, _average_deviation)
_spread("DEVSQ", 1, _squares)
_spread("SKEW", 3, _skew)
_spread("KURT", 4, _kurt)


def _in_rows(name: str, least: int, form: Callable[[Payload, Payload], Payload]) -> None:
    """Give a measure its array form, by the squared deviations and how many numbers there are."""

    def measured(numbers: Beside) -> Payload:
        count = numbers.count()
        return np.where(count >= least, form(numbers.squared_deviations(), count), np.nan)

    at_once(name)(measured)


_in_rows("DEVSQ", 1, lambda squares, count: squares)
_in_rows("VAR", 2, lambda squares, count: squares / (count - 1))
_in_rows("VARP", 1, lambda squares, count: squares / count)
_in_rows("STDEV", 2, lambda squares, count: np.sqrt(squares / (count - 1)))
_in_rows("STDEVP", 1, lambda squares, count: np.sqrt(squares / count))


@function("STANDARDIZE")
def _standardize(number: float, mean: float, deviation: float) -> float:
    if deviation <= 0:
        raise Failure(NUM, "The deviation has to be above 0.")
    return (number - mean) / deviation


also("VAR", "VAR.S")
also("VARP", "VAR.P")
also("STDEV", "STDEV.S")
also("STDEVP", "STDEV.P")
