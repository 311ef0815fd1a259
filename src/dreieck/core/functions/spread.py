"""Functions of how far numbers lie apart."""

from __future__ import annotations

import math
import statistics
from collections.abc import Callable, Iterator

import numpy as np

from dreieck.core.functions.registry import Failure, Takes, arg, at_once, function, repeated
from dreieck.core.ranges.beside import Beside
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import DIV0, NUM

_NUMBERS = repeated("numbers", Takes.NUMBERS, "numbers or ranges")


def _spread(
    name: str, section: str, what: str, least: int, result: float, compute: Callable[..., float]
) -> None:
    """Register a measure of spread or form, which needs at least so many numbers."""

    def measured(numbers: Iterator[float]) -> float:
        found = list(numbers)
        if len(found) < least:
            raise Failure(DIV0, f"{name} needs {least} number{'s' * (least > 1)} or more.")
        return compute(found)

    example = (f"=ROUND({name}(2,4,4,4,5,5,7,9),9)", result)
    function(name, section, f"The {what}.", _NUMBERS, words=f"the {what} of {{*}}",
             example=example)(measured)  # fmt: skip


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


for _each in (
    ("VAR", "6.18.82", "variance of a sample", 2, 4.571428571, _variance),
    ("VARP", "6.18.84", "variance of all values", 1, 4.0, _variance_of_all),
    (
        "STDEV",
        "6.18.72",
        "standard deviation of a sample",
        2,
        2.138089935,
        _deviation,
    ),
    (
        "STDEVP",
        "6.18.74",
        "standard deviation of all values",
        1,
        2.0,
        _deviation_of_all,
    ),
    ("AVEDEV", "6.18.2", "mean distance from the mean", 1, 1.5, _average_deviation),
    ("DEVSQ", "6.18.20", "sum of the squared distances from the mean", 1, 32.0, _squares),
    ("SKEW", "6.18.67", "skewness of a sample: how far it leans", 3, 0.818487553, _skew),
    ("KURT", "6.18.39", "kurtosis of a sample: how peaked it is", 4, 0.940625, _kurt),
):
    _spread(*_each)


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


@function(
    "STANDARDIZE",
    "6.18.71",
    "How many deviations a number lies above the mean.",
    arg("number", Takes.NUMBER, "what is asked about"),
    arg("mean", Takes.NUMBER, "the middle"),
    arg("deviation", Takes.NUMBER, "the standard deviation, above 0"),
    words="how many deviations of {2} {0} lies above {1}",
    example=("=STANDARDIZE(130,100,15)", 2.0),
)
def _standardize(number: float, mean: float, deviation: float) -> float:
    if deviation <= 0:
        raise Failure(NUM, "The deviation has to be above 0.")
    return (number - mean) / deviation
