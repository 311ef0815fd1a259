"""Functions that draw numbers by chance. They stay the same until one draws again."""

from __future__ import annotations

import math

from dreieck.core.functions.registry import Failure, function
from dreieck.core.values import NUM


@function("RAND")
def _rand(drawn: float) -> float:
    return drawn


@function("RANDBETWEEN")
def _randbetween(drawn: float, least: float, most: float) -> float:
    low, high = math.ceil(least), math.floor(most)
    if low > high:
        raise Failure(NUM, "There is no whole number between the two.")
    return float(low + math.floor(drawn * (high - low + 1)))
