"""Functions of arithmetic, powers and counting."""

from __future__ import annotations

import math
import sys
from collections.abc import Iterator

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.one_number import number_by_number, of_one
from dreieck.core.functions.registry import (
    Failure,
    at_once,
    function,
)
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import DIV0, NUM
from dreieck.core.values.powers import power, powers
from dreieck.core.values.roundings import Numbers

_LARGEST = int(sys.float_info.max)
_LARGEST_FACTORIAL = 170
"""The factorial of the next number is beyond all numbers."""
_POSITIVE = "Only numbers above 0 have a logarithm."
_NO_FACTORIAL = "A number below 0 has no factorial; that of a number above 170 is too large."


def _factorial(number: float) -> float:
    if int(number) > _LARGEST_FACTORIAL:
        raise ValueError
    return float(math.factorial(int(number)))


for _each in (
    ("ABS", abs, np.abs),
    ("SIGN", lambda n: float((n > 0) - (n < 0)), np.sign),
    ("SQRT", math.sqrt, np.sqrt, "A number below 0 has no square root."),
    ("EXP", math.exp),
    ("LN", math.log, None, _POSITIVE),
    ("LOG10", math.log10, None, _POSITIVE),
    ("FACT", _factorial, None, _NO_FACTORIAL),
):
    of_one(__name__, *_each)


@function("LOG")
def _log(number: float, base: float = 10.0) -> float:
    if number <= 0 or base <= 0:
        raise Failure(NUM, _POSITIVE)
    if base == 1:
        raise Failure(DIV0, "There is no logarithm to base 1.")
    if base in (2, 10):
        return math.log2(number) if base == 2 else math.log10(number)
    return math.log(number, base)


at_once("LOG")(number_by_number(_log))


@function("POWER")
def _power(base: float, exponent: float) -> float:
    if base == 0 and exponent < 0:
        raise Failure(DIV0, "0 to a power below 0 divides by 0.")
    if base < 0 and exponent % 1:
        raise Failure(NUM, "A number below 0 has no such power.")
    return power(base, exponent)


at_once("POWER")(powers)


@function("MOD")
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


@function("QUOTIENT")
def _quotient(number: float, divisor: float) -> float:
    if divisor == 0:
        raise Failure(DIV0, "The divisor is 0 or empty.")
    return float(math.trunc(number / divisor))


@at_once("QUOTIENT")
def _quotient_in_rows(number: Numbers, divisor: Numbers) -> Payload:
    found: Payload = np.trunc(np.divide(number, divisor))
    return found


@function("COMBIN")
def _combin(number: int, chosen: int) -> float:
    _check_choice(number, chosen)
    return float(_product(number, min(chosen, number - chosen), divided=True))


at_once("COMBIN")(number_by_number(lambda n, k: _combin(int(n), int(k))))


@function("PERMUT")
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


@function("GCD")
def _gcd(numbers: Iterator[float]) -> float:
    return float(math.gcd(*_whole(numbers)))


@function("LCM")
def _lcm(numbers: Iterator[float]) -> float:
    found = 1
    for number in _whole(numbers):
        found = math.lcm(found, number)
        if found > _LARGEST:
            raise OverflowError
    return float(found)


@function("MULTINOMIAL")
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
