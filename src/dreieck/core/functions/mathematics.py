"""Functions of arithmetic, rounding, counting and trigonometry."""

from __future__ import annotations

import math
import sys
from collections.abc import Callable

from dreieck.core.budget import spend
from dreieck.core.functions.registry import Failure, Takes, arg, function, optional
from dreieck.core.values import DIV0, NUM, rounded, rounded_towards

_NUMBER = arg("number", Takes.NUMBER, "any number")
_ANGLE = arg("angle", Takes.NUMBER, "in radians")
_DIGITS = optional("decimals", Takes.WHOLE, "how many; -1 rounds to tens")
_LARGEST = int(sys.float_info.max)
_CHOICE = (
    arg("all", Takes.WHOLE, "how many there are"),
    arg("chosen", Takes.WHOLE, "how many are chosen"),
)


def _of_one(
    name: str,
    section: str,
    purpose: str,
    words: str,
    compute: Callable[[float], float],
    example: tuple[str, float],
    refusal: str = "The number is outside of what the function can take.",
) -> None:
    """Register a function of one number that Python's math module has or nearly has."""
    parameter = _ANGLE if name in ("SIN", "COS", "TAN") else _NUMBER

    def computed(number: float) -> float:
        try:
            return compute(number)
        except ValueError:
            raise Failure(NUM, refusal) from None

    function(name, section, purpose, parameter, words=words, example=example)(computed)


def _factorial(number: float) -> float:
    if int(number) > _LARGEST_FACTORIAL:
        raise ValueError
    return float(math.factorial(int(number)))


_LARGEST_FACTORIAL = 170
"""The factorial of the next number is beyond all numbers."""


def _next(number: float, odd: bool) -> float:
    size = math.ceil(abs(number))
    if size % 2 != odd:
        size += 1
    return math.copysign(size, number) if number else float(odd)


_POSITIVE = "Only numbers above 0 have a logarithm."
_FROM_1_TO_1 = "The number has to lie between -1 and 1."
for each in (
    (
        "ABS",
        "6.16.2",
        "A number without its sign.",
        "{0} without its sign",
        abs,
        ("=ABS(-4)", 4.0),
    ),
    (
        "SIGN",
        "6.16.54",
        "1, 0 or -1, as the number is above, at or below 0.",
        "the sign of {0}",
        lambda n: float((n > 0) - (n < 0)),
        ("=SIGN(-4)", -1.0),
    ),
    (
        "INT",
        "6.17.2",
        "The whole number at or below a number.",
        "{0}, rounded down to a whole number",
        lambda n: float(math.floor(n)),
        ("=INT(-1.5)", -2.0),
    ),
    (
        "EVEN",
        "6.16.30",
        "The next even number away from 0.",
        "{0}, rounded away from 0 to an even number",
        lambda n: _next(n, odd=False),
        ("=EVEN(1.5)", 2.0),
    ),
    (
        "ODD",
        "6.16.44",
        "The next odd number away from 0.",
        "{0}, rounded away from 0 to an odd number",
        lambda n: _next(n, odd=True),
        ("=ODD(1.5)", 3.0),
    ),
    (
        "SQRT",
        "6.16.58",
        "The square root of a number.",
        "the square root of {0}",
        math.sqrt,
        ("=SQRT(144)", 12.0),
        "A number below 0 has no square root.",
    ),
    (
        "EXP",
        "6.16.31",
        "e to the power of a number.",
        "e to the power of {0}",
        math.exp,
        ("=EXP(0)", 1.0),
    ),
    (
        "LN",
        "6.16.39",
        "The natural logarithm of a number.",
        "the natural logarithm of {0}",
        math.log,
        ("=LN(1)", 0.0),
        _POSITIVE,
    ),
    (
        "LOG10",
        "6.16.41",
        "The logarithm of a number to base 10.",
        "the logarithm of {0}",
        math.log10,
        ("=LOG10(1000)", 3.0),
        _POSITIVE,
    ),
    (
        "FACT",
        "6.16.32",
        "The product of all whole numbers up to a number.",
        "the factorial of {0}",
        _factorial,
        ("=FACT(5)", 120.0),
        "A number below 0 has no factorial; that of a number above 170 is too large.",
    ),
    ("SIN", "6.16.55", "The sine of an angle.", "the sine of {0}", math.sin, ("=SIN(0)", 0.0)),
    ("COS", "6.16.19", "The cosine of an angle.", "the cosine of {0}", math.cos, ("=COS(0)", 1.0)),
    (
        "TAN",
        "6.16.69",
        "The tangent of an angle.",
        "the tangent of {0}",
        math.tan,
        ("=TAN(0)", 0.0),
    ),
    (
        "ASIN",
        "6.16.7",
        "The angle whose sine is a number.",
        "the angle whose sine is {0}",
        math.asin,
        ("=ASIN(0)", 0.0),
        _FROM_1_TO_1,
    ),
    (
        "ACOS",
        "6.16.3",
        "The angle whose cosine is a number.",
        "the angle whose cosine is {0}",
        math.acos,
        ("=ACOS(1)", 0.0),
        _FROM_1_TO_1,
    ),
    (
        "ATAN",
        "6.16.9",
        "The angle whose tangent is a number.",
        "the angle whose tangent is {0}",
        math.atan,
        ("=ATAN(0)", 0.0),
    ),
    (
        "RADIANS",
        "6.16.49",
        "Degrees in radians.",
        "{0} degrees in radians",
        math.radians,
        ("=RADIANS(180)", math.pi),
    ),
    (
        "DEGREES",
        "6.16.25",
        "Radians in degrees.",
        "{0} radians in degrees",
        math.degrees,
        ("=DEGREES(0)", 0.0),
    ),
):
    _of_one(*each)


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


@function(
    "LOG",
    "6.16.40",
    "The logarithm of a number to any base.",
    _NUMBER,
    optional("base", Takes.NUMBER, "10 if left out"),
    words="the logarithm of {0} to base {1}",
    example=("=LOG(8,2)", 3.0),
)
def _log(number: float, base: float = 10.0) -> float:
    if number <= 0 or base <= 0:
        raise Failure(NUM, _POSITIVE)
    if base == 1:
        raise Failure(DIV0, "There is no logarithm to base 1.")
    if base in (2, 10):
        return math.log2(number) if base == 2 else math.log10(number)
    return math.log(number, base)


@function(
    "POWER",
    "6.16.46",
    "A number to a power.",
    _NUMBER,
    arg("exponent", Takes.NUMBER, "the power"),
    words="{0} to the power of {1}",
    example=("=POWER(2,10)", 1024.0),
)
def _power(base: float, exponent: float) -> float:
    if base == 0 and exponent < 0:
        raise Failure(DIV0, "0 to a power below 0 divides by 0.")
    result: float | complex = base**exponent
    if isinstance(result, complex):
        raise Failure(NUM, "A number below 0 has no such power.")
    return result


@function(
    "MOD",
    "6.16.42",
    "What is left after a division; it has the sign of the divisor.",
    _NUMBER,
    arg("divisor", Takes.NUMBER, "not 0"),
    words="what is left of {0} divided by {1}",
    example=("=MOD(-7,3)", 2.0),
)
def _mod(number: float, divisor: float) -> float:
    if divisor == 0:
        raise Failure(DIV0, "The divisor is 0 or empty.")
    return number - divisor * math.floor(number / divisor)


@function(
    "QUOTIENT",
    "6.16.48",
    "The whole part of a division.",
    _NUMBER,
    arg("divisor", Takes.NUMBER, "not 0"),
    words="the whole part of {0} divided by {1}",
    example=("=QUOTIENT(-7,3)", -2.0),
)
def _quotient(number: float, divisor: float) -> float:
    if divisor == 0:
        raise Failure(DIV0, "The divisor is 0 or empty.")
    return float(math.trunc(number / divisor))


@function(
    "ROUND",
    "6.17.5",
    "Rounds a number to so many decimals; a half goes away from zero.",
    _NUMBER,
    _DIGITS,
    words="{0}, rounded to {1} decimals",
    example=("=ROUND(23.456,1)", 23.5),
)
def _round(number: float, decimals: int = 0) -> float:
    return rounded(number, decimals)


@function(
    "ROUNDUP",
    "6.17.7",
    "Rounds a number away from zero.",
    _NUMBER,
    _DIGITS,
    words="{0}, rounded up to {1} decimals",
    example=("=ROUNDUP(23.41,1)", 23.5),
)
def _roundup(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=True)


@function(
    "ROUNDDOWN",
    "6.17.6",
    "Rounds a number towards zero.",
    _NUMBER,
    _DIGITS,
    words="{0}, rounded down to {1} decimals",
    example=("=ROUNDDOWN(23.49,1)", 23.4),
)
def _rounddown(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=False)


@function(
    "TRUNC",
    "6.17.8",
    "Cuts a number off after so many decimals.",
    _NUMBER,
    _DIGITS,
    words="{0}, cut off after {1} decimals",
    example=("=TRUNC(-2.79,1)", -2.7),
)
def _trunc(number: float, decimals: int = 0) -> float:
    return rounded_towards(number, decimals, away=False)


def _multiple(number: float, step: float | None, mode: float, up: bool) -> float:
    """Round to a multiple of ``step``: up or down, or away from or to 0 if ``mode`` is not 0."""
    if step is None:
        step = -1.0 if number < 0 else 1.0
    if number == 0 or step == 0:
        return 0.0
    if number * step < 0:
        raise Failure(NUM, "The number and the step have to have the same sign.")
    quotient = number / step
    if math.isinf(quotient):
        raise Failure(NUM, "The step is too small for the number.")
    quotient = rounded(quotient, 12)
    away = up if mode else up == (number > 0)
    return step * float(math.ceil(quotient) if away else math.floor(quotient))


@function(
    "CEILING",
    "6.17.1",
    "Rounds a number up to a multiple of a step.",
    _NUMBER,
    optional("step", Takes.NUMBER, "1 if left out; it has the sign of the number"),
    optional("mode", Takes.NUMBER, "not 0: numbers below 0 are rounded away from it"),
    words="{0}, rounded up to a multiple of {1}",
    example=("=CEILING(50.4,5)", 55.0),
)
def _ceiling(number: float, step: float | None = None, mode: float = 0.0) -> float:
    return _multiple(number, step, mode, up=True)


@function(
    "FLOOR",
    "6.17.3",
    "Rounds a number down to a multiple of a step.",
    _NUMBER,
    optional("step", Takes.NUMBER, "1 if left out; it has the sign of the number"),
    optional("mode", Takes.NUMBER, "not 0: numbers below 0 are rounded towards it"),
    words="{0}, rounded down to a multiple of {1}",
    example=("=FLOOR(50.4,5)", 50.0),
)
def _floor(number: float, step: float | None = None, mode: float = 0.0) -> float:
    return _multiple(number, step, mode, up=False)


@function(
    "COMBIN",
    "6.16.16",
    "In how many ways some can be chosen, in any order.",
    *_CHOICE,
    words="the ways to choose {1} of {0}",
    example=("=COMBIN(6,2)", 15.0),
)
def _combin(number: int, chosen: int) -> float:
    _check_choice(number, chosen)
    return _product(number, min(chosen, number - chosen), divided=True)


@function(
    "PERMUT",
    "6.18.59",
    "In how many ways some can be chosen, order counted.",
    *_CHOICE,
    words="the ways to line up {1} of {0}",
    example=("=PERMUT(6,2)", 30.0),
)
def _permut(number: int, chosen: int) -> float:
    _check_choice(number, chosen)
    return _product(number, chosen, divided=False)


def _check_choice(number: int, chosen: int) -> None:
    if not 0 <= chosen <= number:
        raise Failure(NUM, f"{chosen:.15g} cannot be chosen of {number:.15g}.")


def _product(number: int, count: int, *, divided: bool) -> float:
    """So many whole numbers from ``number`` down multiplied, divided by the factorial of them.

    Each step multiplies by 1 or more, so that no more steps are taken than numbers are large.
    """
    found = 1
    for step in range(1, count + 1):
        spend(1)
        found *= number - count + step if divided else number - step + 1
        if divided:
            found //= step
        if found > _LARGEST:
            raise OverflowError
    return float(found)
