"""Functions of arithmetic, powers and counting."""

from __future__ import annotations

import math
import sys
from collections.abc import Iterator

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.one_number import NUMBER, number_by_number, of_one
from dreieck.core.functions.registry import (
    Failure,
    Takes,
    arg,
    at_once,
    function,
    optional,
    repeated,
)
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import DIV0, NUM
from dreieck.core.values.powers import power, powers
from dreieck.core.values.roundings import Numbers

_LARGEST = int(sys.float_info.max)
_LARGEST_FACTORIAL = 170
"""The factorial of the next number is beyond all numbers."""
_CHOICE = (
    arg("all", Takes.WHOLE, "how many there are"),
    arg("chosen", Takes.WHOLE, "how many are chosen"),
)
_NUMBERS = repeated("numbers", Takes.NUMBERS, "whole numbers or ranges of them")
_POSITIVE = "Only numbers above 0 have a logarithm."


def _factorial(number: float) -> float:
    if int(number) > _LARGEST_FACTORIAL:
        raise ValueError
    return float(math.factorial(int(number)))


for _each in (
    ("ABS", "6.16.2", "A number without its sign.", "{0} without its sign", abs, np.abs,
     ("=ABS(-4)", 4.0)),
    ("SIGN", "6.16.54", "1, 0 or -1, as the number is above, at or below 0.",
     "the sign of {0}", lambda n: float((n > 0) - (n < 0)), np.sign,
     ("=SIGN(-4)", -1.0)),
    ("SQRT", "6.16.58", "The square root of a number.", "the square root of {0}",
     math.sqrt, np.sqrt, ("=SQRT(144)", 12.0), "A number below 0 has no square root."),
    ("EXP", "6.16.31", "e to the power of a number.", "e to the power of {0}", math.exp, None,
     ("=EXP(0)", 1.0)),
    ("LN", "6.16.39", "The natural logarithm of a number.", "the natural logarithm of {0}",
     math.log, None, ("=LN(1)", 0.0), _POSITIVE),
    ("LOG10", "6.16.41", "The logarithm of a number to base 10.", "the logarithm of {0}",
     math.log10, None, ("=LOG10(1000)", 3.0), _POSITIVE),
    ("FACT", "6.16.32", "The product of all whole numbers up to a number.",
     "the factorial of {0}", _factorial, None, ("=FACT(5)", 120.0),
     "A number below 0 has no factorial; that of a number above 170 is too large."),
):  # fmt: skip
    of_one(__name__, *_each)


@function(
    "LOG",
    "6.16.40",
    "The logarithm of a number to any base.",
    NUMBER,
    optional("base", Takes.NUMBER, "10 if left out", "10"),
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


at_once("LOG")(number_by_number(_log))


@function(
    "POWER",
    "6.16.46",
    "A number to a power.",
    NUMBER,
    arg("exponent", Takes.NUMBER, "the power"),
    words="{0} to the power of {1}",
    example=("=POWER(2,10)", 1024.0),
)
def _power(base: float, exponent: float) -> float:
    if base == 0 and exponent < 0:
        raise Failure(DIV0, "0 to a power below 0 divides by 0.")
    if base < 0 and exponent % 1:
        raise Failure(NUM, "A number below 0 has no such power.")
    return power(base, exponent)


at_once("POWER")(powers)


@function(
    "MOD",
    "6.16.42",
    "What is left after a division; it has the sign of the divisor.",
    NUMBER,
    arg("divisor", Takes.NUMBER, "not 0"),
    words="what is left of {0} divided by {1}",
    example=("=MOD(-7,3)", 2.0),
)
def _mod(number: float, divisor: float) -> float:
    if divisor == 0:
        raise Failure(DIV0, "The divisor is 0 or empty.")
    left = math.fmod(number, divisor)
    if left == 0 or (left < 0) == (divisor < 0):
        return left
    if left + divisor != divisor:
        return left + divisor
    if left % 1 == 0:
        raise Failure(NUM, "What is left differs from the divisor by less than numbers can tell.")
    # What is so small comes of earlier rounding: as near as numbers come, nothing is left.
    return 0.0


@at_once("MOD")
def _mod_in_rows(number: Numbers, divisor: Numbers) -> Payload:
    left = np.fmod(number, divisor)
    turned = (left != 0) & (np.less(left, 0) != np.less(divisor, 0))
    found = np.where(turned, left + divisor, left)
    lost = turned & np.equal(found, divisor)
    return np.where(lost, np.where(left % 1 == 0, np.nan, 0.0), found)


@function(
    "QUOTIENT",
    "6.16.48",
    "The whole part of a division.",
    NUMBER,
    arg("divisor", Takes.NUMBER, "not 0"),
    words="the whole part of {0} divided by {1}",
    example=("=QUOTIENT(-7,3)", -2.0),
)
def _quotient(number: float, divisor: float) -> float:
    if divisor == 0:
        raise Failure(DIV0, "The divisor is 0 or empty.")
    return float(math.trunc(number / divisor))


@at_once("QUOTIENT")
def _quotient_in_rows(number: Numbers, divisor: Numbers) -> Payload:
    found: Payload = np.trunc(np.divide(number, divisor))
    return found


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
    return float(_product(number, min(chosen, number - chosen), divided=True))


at_once("COMBIN")(number_by_number(lambda n, k: _combin(int(n), int(k))))


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
    return float(_product(number, chosen, divided=False))


at_once("PERMUT")(number_by_number(lambda n, k: _permut(int(n), int(k))))


def _check_choice(number: int, chosen: int) -> None:
    if not 0 <= chosen <= number:
        raise Failure(NUM, f"{chosen:.15g} cannot be chosen of {number:.15g}.")


def _product(number: int, count: int, *, divided: bool) -> int:
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
    return found


@function(
    "GCD",
    "6.16.36",
    "The largest whole number that divides all of some whole numbers.",
    _NUMBERS,
    words="the largest common divisor of {*}",
    example=("=GCD(12,18,30)", 6.0),
)
def _gcd(numbers: Iterator[float]) -> float:
    return float(math.gcd(*_whole(numbers)))


@function(
    "LCM",
    "6.16.38",
    "The smallest whole number that all of some whole numbers divide.",
    _NUMBERS,
    words="the smallest common multiple of {*}",
    example=("=LCM(4,6,10)", 60.0),
)
def _lcm(numbers: Iterator[float]) -> float:
    found = 1
    for number in _whole(numbers):
        found = math.lcm(found, number)
        if found > _LARGEST:
            raise OverflowError
    return float(found)


@function(
    "MULTINOMIAL",
    "6.16.43",
    "In how many ways things can be parted into groups of given sizes.",
    _NUMBERS,
    words="the ways to part things into groups of {*}",
    example=("=MULTINOMIAL(2,3,1)", 60.0),
)
def _multinomial(numbers: Iterator[float]) -> float:
    found, count = 1, 0
    for number in _whole(numbers):
        count += number
        found *= _product(count, min(number, count - number), divided=True)
        if found > _LARGEST:
            raise OverflowError
    return float(found)


def _whole(numbers: Iterator[float]) -> Iterator[int]:
    """Whole numbers from 0; what stands behind the point is cut off."""
    for number in numbers:
        spend(1)
        if number < 0:
            raise Failure(NUM, "The numbers have to be 0 or more.")
        yield int(number)
