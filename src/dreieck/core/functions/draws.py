"""Functions that draw numbers by chance. They stay the same until one draws again."""

from __future__ import annotations

import math

from dreieck.core.functions.registry import Failure, Takes, Trait, arg, function
from dreieck.core.values import NUM

_DRAWN = (Trait.DRAWS, Trait.MOVES_ALONG)


@function(
    "RAND",
    "6.16.50",
    "A number by chance, from 0 to below 1. It stays until you draw again.",
    words="a number by chance between 0 and 1",
    example=("=RAND()<1", True),
    traits=_DRAWN,
)
def _rand(drawn: float) -> float:
    return drawn


@function(
    "RANDBETWEEN",
    "6.16.51",
    "A whole number by chance. It stays until you draw again.",
    arg("least", Takes.NUMBER, "the smallest number that can come"),
    arg("most", Takes.NUMBER, "the largest one"),
    words="a whole number by chance from {0} to {1}",
    example=("=RANDBETWEEN(3,3)", 3.0),
    traits=_DRAWN,
)
def _randbetween(drawn: float, least: float, most: float) -> float:
    low, high = math.ceil(least), math.floor(most)
    if low > high:
        raise Failure(NUM, "There is no whole number between the two.")
    return float(low + math.floor(drawn * (high - low + 1)))
