"""Registering functions of one number, most of which Python's math module computes."""

from __future__ import annotations

import math
from collections.abc import Callable
from itertools import repeat
from typing import Any

import numpy as np

from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import NUM, Value
from dreieck.core.values.roundings import Numbers

OUTSIDE = "The number is outside of what the function can take."


def of_one(
    module: str,
    name: str,
    compute: Callable[[float], Value],
    form: Callable[[Payload], Any] | None = None,
    refusal: str = OUTSIDE,
) -> None:
    """Register a function of one number that belongs to a module; it may raise ValueError.

    Without an array form of its own it is called for number after number.
    """

    def computed(number: float) -> Value:
        try:
            return compute(number)
        except ValueError:
            raise Failure(NUM, refusal) from None

    computed.__module__ = module
    function(name)(computed)
    at_once(name)(form or number_by_number(compute))


def number_by_number(compute: Callable[..., Value]) -> Callable[..., Payload]:
    """The array form of a function that has to be called for each number of its own.

    The results are those of the function to the last bit, whatever the processor; a number that
    it refuses is left to those who call it.
    """

    def found(*numbers: float) -> Value:
        try:
            return compute(*numbers)
        except (ArithmeticError, ValueError, Failure):
            return math.nan

    def form(*numbers: Numbers) -> Payload:
        lists = [
            each.tolist() if isinstance(each, np.ndarray) else repeat(each) for each in numbers
        ]
        try:
            return np.array(list(map(compute, *lists)), np.float64)
        except (ArithmeticError, ValueError, Failure):
            return np.array(list(map(found, *lists)), np.float64)

    return form
