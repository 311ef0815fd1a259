"""Functions of angles, and the hyperbolic ones that are like them."""

from __future__ import annotations

import math

import numpy as np

from dreieck.core.functions.one_number import number_by_number, of_one
from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.values import DIV0

_FROM_1_TO_1 = "The number has to lie between -1 and 1."


def _cot(angle: float) -> float:
    if math.sin(angle) == 0:
        raise Failure(DIV0, "At 0 there is no cotangent.")
    return 1 / math.tan(angle)


for _name, _compute in (("SIN", math.sin), ("COS", math.cos), ("TAN", math.tan), ("COT", _cot)):
    of_one(__name__, _name, _compute)

for _one in (
    ("ASIN", math.asin, None, _FROM_1_TO_1),
    ("ACOS", math.acos, None, _FROM_1_TO_1),
    ("ATAN", math.atan),
    ("RADIANS", math.radians, np.radians),
    ("DEGREES", math.degrees, np.degrees),
    ("SINH", math.sinh),
    ("COSH", math.cosh),
    ("TANH", math.tanh),
    ("ASINH", math.asinh),
    ("ACOSH", math.acosh, None, "The number has to be 1 or more."),
    ("ATANH", math.atanh, None, "The number has to lie between -1 and 1, both left out."),
):
    of_one(__name__, *_one)


@function("PI")
def _pi() -> float:
    return math.pi


@function("ATAN2")
def _atan2(x: float, y: float) -> float:
    if x == 0 and y == 0:
        raise Failure(DIV0, "The origin has no angle.")
    return math.atan2(y, x)


at_once("ATAN2")(number_by_number(_atan2))
