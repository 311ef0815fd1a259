"""Functions of angles, and the hyperbolic ones that are like them."""

from __future__ import annotations

import math

import numpy as np

from dreieck.core.functions.one_number import OUTSIDE, number_by_number, of_one
from dreieck.core.functions.registry import Failure, Takes, arg, at_once, function
from dreieck.core.values import DIV0

_ANGLE = arg("angle", Takes.NUMBER, "in radians")
_FROM_1_TO_1 = "The number has to lie between -1 and 1."


def _cot(angle: float) -> float:
    if math.sin(angle) == 0:
        raise Failure(DIV0, "At 0 there is no cotangent.")
    return 1 / math.tan(angle)


for _name, _section, _purpose, _words, _compute, _example in (
    ("SIN", "6.16.55", "The sine of an angle.", "the sine of {0}", math.sin, ("=SIN(0)", 0.0)),
    ("COS", "6.16.19", "The cosine of an angle.", "the cosine of {0}", math.cos,
     ("=COS(0)", 1.0)),
    ("TAN", "6.16.69", "The tangent of an angle.", "the tangent of {0}", math.tan,
     ("=TAN(0)", 0.0)),
    ("COT", "6.16.21", "The cotangent of an angle.", "the cotangent of {0}", _cot,
     ("=ROUND(COT(PI()/4),9)", 1.0)),
):  # fmt: skip
    of_one(__name__, _name, _section, _purpose, _words, _compute, None, _example, parameter=_ANGLE)

for _one in (
    ("ASIN", "6.16.7", "The angle whose sine is a number.", "the angle whose sine is {0}",
     math.asin, None, ("=ASIN(0)", 0.0), _FROM_1_TO_1),
    ("ACOS", "6.16.3", "The angle whose cosine is a number.", "the angle whose cosine is {0}",
     math.acos, None, ("=ACOS(1)", 0.0), _FROM_1_TO_1),
    ("ATAN", "6.16.9", "The angle whose tangent is a number.",
     "the angle whose tangent is {0}",
     math.atan, None, ("=ATAN(0)", 0.0), OUTSIDE),
    ("RADIANS", "6.16.49", "Degrees in radians.", "{0} degrees in radians",
     math.radians, np.radians, ("=RADIANS(180)", math.pi), OUTSIDE),
    ("DEGREES", "6.16.25", "Radians in degrees.", "{0} radians in degrees",
     math.degrees, np.degrees, ("=DEGREES(0)", 0.0), OUTSIDE),
    ("SINH", "6.16.56", "The hyperbolic sine of a number.", "the hyperbolic sine of {0}",
     math.sinh, None, ("=SINH(0)", 0.0), OUTSIDE),
    ("COSH", "6.16.20", "The hyperbolic cosine of a number.", "the hyperbolic cosine of {0}",
     math.cosh, None, ("=COSH(0)", 1.0), OUTSIDE),
    ("TANH", "6.16.70", "The hyperbolic tangent of a number.", "the hyperbolic tangent of {0}",
     math.tanh, None, ("=ROUND(TANH(1),4)", 0.7616), OUTSIDE),
    ("ASINH", "6.16.8", "The number whose hyperbolic sine is another.",
     "the number whose hyperbolic sine is {0}",
     math.asinh, None, ("=ASINH(SINH(2))", 2.0), OUTSIDE),
    ("ACOSH", "6.16.4", "The number whose hyperbolic cosine is another.",
     "the number whose hyperbolic cosine is {0}", math.acosh, None, ("=ACOSH(COSH(2))", 2.0),
     "The number has to be 1 or more."),
    ("ATANH", "6.16.11", "The number whose hyperbolic tangent is another.",
     "the number whose hyperbolic tangent is {0}",
     math.atanh, None, ("=ROUND(ATANH(TANH(2)),9)", 2.0),
     "The number has to lie between -1 and 1, both left out."),
):  # fmt: skip
    of_one(__name__, *_one)


@function(
    "PI",
    "6.16.45",
    "The number π.",
    words="π",
    example=("=ROUND(PI(),5)", 3.14159),
)
def _pi() -> float:
    return math.pi


@function(
    "ATAN2",
    "6.16.10",
    "The angle of a point, seen from the origin.",
    arg("x", Takes.NUMBER, "to the right"),
    arg("y", Takes.NUMBER, "upwards"),
    words="the angle of the point {0}, {1}",
    example=("=DEGREES(ATAN2(1,1))", 45.0),
)
def _atan2(x: float, y: float) -> float:
    if x == 0 and y == 0:
        raise Failure(DIV0, "The origin has no angle.")
    return math.atan2(y, x)


at_once("ATAN2")(number_by_number(_atan2))
