"""Functions that decide."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import reduce
from operator import xor

from dreieck.core.functions.registry import (
    Failure,
    Result,
    Takes,
    arg,
    function,
    optional,
    repeated,
)
from dreieck.core.values import NA, VALUE, Error, Value

_CONDITIONS = repeated("conditions", Takes.LOGICALS, "conditions or ranges of them")
_ANY = arg("value", Takes.VALUE, "what may be an error")
_INSTEAD = arg("instead", Takes.LATER, "the value if it is one")


@function(
    "IF",
    "6.15.4",
    "One value if a condition holds, another if it does not.",
    arg("condition", Takes.LOGICAL, "what is asked"),
    optional("then", Takes.LATER, "the value if it holds"),
    optional("else", Takes.LATER, "the value if it does not"),
    words="if {0}, then {1}, else {2}",
    example=('=IF(B2>40,"full","free")', "full"),
)
def _if(
    condition: bool,
    then: Callable[[], Result] = lambda: True,
    otherwise: Callable[[], Result] = lambda: False,
) -> Result:
    return then() if condition else otherwise()


@function(
    "AND",
    "6.15.2",
    "Whether all conditions hold.",
    _CONDITIONS,
    words="all of {*} hold",
    example=("=AND(B2>40,B3>40)", False),
)
def _and(conditions: Iterator[bool]) -> bool:
    return all(_some(conditions))


@function(
    "OR",
    "6.15.8",
    "Whether at least one condition holds.",
    _CONDITIONS,
    words="at least one of {*} holds",
    example=("=OR(B2>40,B3>40)", True),
)
def _or(conditions: Iterator[bool]) -> bool:
    return any(_some(conditions))


@function(
    "XOR",
    "6.15.10",
    "Whether an odd number of conditions holds.",
    _CONDITIONS,
    words="an odd number of {*} hold",
    example=("=XOR(B2>40,B3>40)", True),
)
def _xor(conditions: Iterator[bool]) -> bool:
    return reduce(xor, _some(conditions))


def _some(conditions: Iterator[bool]) -> list[bool]:
    found = list(conditions)
    if not found:
        raise Failure(VALUE, "There is no condition among the values.")
    return found


@function(
    "NOT",
    "6.15.7",
    "The opposite of a condition.",
    arg("condition", Takes.LOGICAL, "what is asked"),
    words="not {0}",
    example=("=NOT(B2>40)", False),
)
def _not(condition: bool) -> bool:
    return not condition


@function("TRUE", "6.15.9", "The value TRUE.", words="true", example=("=TRUE()", True))
def _true() -> bool:
    return True


@function("FALSE", "6.15.3", "The value FALSE.", words="false", example=("=FALSE()", False))
def _false() -> bool:
    return False


@function(
    "IFERROR",
    "6.15.5",
    "Another value where the first is an error.",
    _ANY,
    _INSTEAD,
    words="{0}, or {1} if that is an error",
    example=('=IFERROR(B2/0,"none")', "none"),
)
def _iferror(value: Value, instead: Callable[[], Result]) -> Result:
    return instead() if isinstance(value, Error) else value


@function(
    "IFNA",
    "6.15.6",
    "Another value where the first is the error #N/A.",
    _ANY,
    _INSTEAD,
    words="{0}, or {1} if that is not available",
    example=('=IFNA(MATCH("Salt",A2:A5,0),0)', 0.0),
)
def _ifna(value: Value, instead: Callable[[], Result]) -> Result:
    return instead() if isinstance(value, Error) and value.code == NA else value
