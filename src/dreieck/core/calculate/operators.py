"""What the operators of formulas give for single values, and the conversions before it.

They follow OpenFormula (OpenDocument part 4), 6.4.
"""

from __future__ import annotations

from dreieck.core.values import (
    DIV0,
    NUM,
    Error,
    Value,
    bounded_text,
    compared,
    from_number,
    to_number,
    to_text,
)
from dreieck.core.values.powers import power

LAST_BITS = 2.0**-48
"""Numbers whose difference is smaller, in proportion, count as equal."""
ORDERS = {
    "=": (0,),
    "<>": (-1, 1),
    "<": (-1,),
    ">": (1,),
    "<=": (-1, 0),
    ">=": (0, 1),
}
"""For each comparison the orders, as ``compared`` tells them, in which it holds."""


def binary(operator: str, left: Value, right: Value) -> Value:
    """Two values and an operator; the first error of the two passes through."""
    if operator == "&":
        return _joined(left, right)
    if operator in ORDERS:
        order = 0 if _alike(left, right) else compared(left, right)
        return order if isinstance(order, Error) else order in ORDERS[operator]
    one = to_number(left)
    if isinstance(one, Error):
        return one
    two = to_number(right)
    if isinstance(two, Error):
        return two
    return _arithmetic(operator, one, two)


def _alike(left: Value, right: Value) -> bool:
    """Whether two numbers are the same but for the last bits, as 0.1 * 3 and 0.3 are.

    OpenFormula 6.4.7 lets a comparison ignore what a number cannot hold exactly.
    """
    if type(left) is not float or type(right) is not float:
        return False
    return abs(left - right) <= LAST_BITS * max(abs(left), abs(right))


def signed(sign: str, value: Value) -> Value:
    """A value with a sign in front; a plus changes nothing (OpenFormula 6.4.14)."""
    if sign == "+":
        return value
    number = to_number(value)
    if isinstance(number, Error):
        return number
    return from_number(-number)


def percent(value: Value) -> Value:
    """A value with a percent sign behind it."""
    number = to_number(value)
    return number if isinstance(number, Error) else from_number(number / 100)


def _arithmetic(operator: str, one: float, two: float) -> Value:
    match operator:
        case "+":
            return from_number(one + two)
        case "-":
            return from_number(one - two)
        case "*":
            return from_number(one * two)
        case "/":
            if two == 0:
                return Error(DIV0, "The divisor is 0 or empty.")
            return from_number(one / two)
        case _:
            return _power(one, two)


def _power(base: float, exponent: float) -> Value:
    if base == 0 and exponent < 0:
        return Error(DIV0, "0 to a power below 0 divides by 0.")
    if base < 0 and exponent % 1:
        return Error(NUM, "A number below 0 has no such power.")
    return from_number(power(base, exponent))


def _joined(left: Value, right: Value) -> Value:
    one = to_text(left)
    if isinstance(one, Error):
        return one
    two = to_text(right)
    return two if isinstance(two, Error) else bounded_text((one, two))
