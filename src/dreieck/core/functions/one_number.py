"""Registering functions of one number, most of which Python's math module computes."""

from __future__ import annotations

from collections.abc import Callable

from dreieck.core.functions.registry import Failure, Parameter, Takes, arg, function
from dreieck.core.values import NUM, Value

NUMBER = arg("number", Takes.NUMBER, "any number")
OUTSIDE = "The number is outside of what the function can take."


def of_one(
    module: str,
    name: str,
    section: str,
    purpose: str,
    words: str,
    compute: Callable[[float], Value],
    example: tuple[str, Value],
    refusal: str = OUTSIDE,
    parameter: Parameter = NUMBER,
) -> None:
    """Register a function of one number that belongs to a module; it may raise ValueError."""

    def computed(number: float) -> Value:
        try:
            return compute(number)
        except ValueError:
            raise Failure(NUM, refusal) from None

    computed.__module__ = module
    function(name, section, purpose, parameter, words=words, example=example)(computed)
