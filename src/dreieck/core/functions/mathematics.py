"""Functions of arithmetic."""

from __future__ import annotations

import math

from dreieck.core.functions.registry import Failure, Parameter, Takes, function
from dreieck.core.values import NUM, rounded


@function(
    "ROUND",
    "6.17.5",
    "Rounds a number to so many decimals; a half goes away from zero.",
    Parameter("number", Takes.NUMBER, "what is rounded"),
    Parameter("decimals", Takes.NUMBER, "how many; -1 rounds to tens", optional=True),
    words="{0}, rounded to {1} decimals",
    example=("=ROUND(23.456,1)", 23.5),
)
def _round(number: float, decimals: float = 0.0) -> float:
    return rounded(number, int(decimals))


@function(
    "SQRT",
    "6.16.57",
    "The square root of a number.",
    Parameter("number", Takes.NUMBER, "0 or more"),
    words="the square root of {0}",
    example=("=SQRT(144)", 12.0),
)
def _sqrt(number: float) -> float:
    if number < 0:
        raise Failure(NUM, "A number below 0 has no square root.")
    return math.sqrt(number)
