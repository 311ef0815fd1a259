"""Functions that decide."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import reduce
from operator import xor

import numpy as np

from dreieck.core.functions.registry import (
    Branches,
    Failure,
    Result,
    Speech,
    Takes,
    Trait,
    arg,
    at_once,
    function,
    optional,
    repeated,
)
from dreieck.core.ranges.beside import Condition, Mask, all_of, any_of, odd_of
from dreieck.core.ranges.operands import Several, Table
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import NA, VALUE, Error, Value, compared, to_logical

_CONDITIONS = repeated("conditions", Takes.LOGICALS, "conditions or ranges of them")
_ANY = arg("value", Takes.VALUE, "what may be an error")
_INSTEAD = arg("instead", Takes.LATER, "the value if it is one")


@function(
    "IF",
    "6.15.4",
    "One value if a condition holds, another if it does not.",
    arg("condition", Takes.LOGICAL, "what is asked"),
    optional("then", Takes.LATER, "the value if it holds", "true"),
    optional("else", Takes.LATER, "the value if it does not", "false"),
    words="if {0}, then {1}, else {2}",
    example=('=IF(B2>40,"full","free")', "full"),
    traits=(Trait.CHOOSES, Trait.ASKS),
    speech=Speech.BRANCHES,
)
def _if(
    condition: bool,
    then: Callable[[], Result] = lambda: True,
    otherwise: Callable[[], Result] = lambda: False,
) -> Result:
    return then() if condition else otherwise()


@at_once("IF")
def _if_in_rows(rows: Branches) -> None:
    holds = rows.conditions(0)
    if rows.count == 1:
        rows.put(np.ones(len(holds), np.bool_), Cells.logicals(holds))
        return
    rows.give(1, holds)
    if rows.count > 2:
        rows.give_rest(2)
    else:
        left = np.zeros(len(rows.open), np.bool_)
        rows.put(~left, Cells.logicals(left))


@function(
    "AND",
    "6.15.2",
    "Whether all conditions hold.",
    _CONDITIONS,
    words="all of {*} hold",
    example=("=AND(B2>40,B3>40)", False),
    speech=Speech.ALL_OF,
)
def _and(conditions: Iterator[bool]) -> bool:
    return all(_some(conditions))


@at_once("AND")
def _and_in_rows(conditions: Sequence[Condition]) -> Cells | None:
    return _where_any(conditions, all_of(conditions)) if conditions else None


@function(
    "OR",
    "6.15.8",
    "Whether at least one condition holds.",
    _CONDITIONS,
    words="at least one of {*} holds",
    example=("=OR(B2>40,B3>40)", True),
    speech=Speech.ONE_OF,
)
def _or(conditions: Iterator[bool]) -> bool:
    return any(_some(conditions))


@at_once("OR")
def _or_in_rows(conditions: Sequence[Condition]) -> Cells | None:
    return _where_any(conditions, any_of(conditions)) if conditions else None


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


@at_once("XOR")
def _xor_in_rows(conditions: Sequence[Condition]) -> Cells | None:
    return _where_any(conditions, odd_of(conditions)) if conditions else None


def _some(conditions: Iterator[bool]) -> list[bool]:
    found = list(conditions)
    if not found:
        raise Failure(VALUE, "There is no condition among the values.")
    return found


def _where_any(conditions: Sequence[Condition], found: Mask) -> Cells:
    """Logical values, where there is a condition at all."""
    cells = Cells.logicals(found)
    masks = [at for _, at in conditions if at is not None]
    if len(masks) == len(conditions):
        cells.kinds[~np.logical_or.reduce(masks)] = Kind.PENDING
    return cells


@function(
    "NOT",
    "6.15.7",
    "The opposite of a condition.",
    arg("condition", Takes.LOGICAL, "what is asked"),
    words="not {0}",
    example=("=NOT(B2>40)", False),
    speech=Speech.DENIES,
)
def _not(condition: bool) -> bool:
    return not condition


at_once("NOT")(np.logical_not)


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
    traits=(Trait.GUARDS, Trait.CHOOSES),
    speech=Speech.IF_ERROR,
)
def _iferror(value: Value, instead: Callable[[], Result]) -> Result:
    return instead() if isinstance(value, Error) else value


@at_once("IFERROR")
def _iferror_in_rows(rows: Branches) -> None:
    values = rows.values(0)
    rows.put(values.kinds != Kind.ERROR, values)
    rows.give_rest(1)


@function(
    "IFNA",
    "6.15.6",
    "Another value where the first is the error #N/A.",
    _ANY,
    _INSTEAD,
    words="{0}, or {1} if that is not available",
    example=('=IFNA(MATCH("Salt",A2:A5,0),0)', 0.0),
    traits=(Trait.GUARDS, Trait.CHOOSES),
    speech=Speech.IF_MISSING,
)
def _ifna(value: Value, instead: Callable[[], Result]) -> Result:
    return instead() if isinstance(value, Error) and value.code == NA else value


@at_once("IFNA")
def _ifna_in_rows(rows: Branches) -> None:
    values = rows.values(0)
    pool = values.pool.objects
    missing = np.array([isinstance(each, Error) and each.code == NA for each in pool], np.bool_)
    instead = values.kinds == Kind.ERROR
    instead[instead] = missing[values.payload[instead].astype(np.intp)]
    rows.put(~instead, values)
    rows.give_rest(1)


@function(
    "IFS",
    "",
    "The value behind the first condition that holds.",
    repeated("choices", Takes.LATER, "a condition and its value, again and again"),
    words="the value behind the first that holds of {*}",
    example=('=IFS(B2>100,"heavy",B2>40,"full",TRUE,"free")', "full"),
    traits=(Trait.CHOOSES, Trait.ASKS),
    speech=Speech.CASES,
)
def _ifs(*choices: Callable[[], Result]) -> Result:
    if len(choices) % 2:
        raise Failure(VALUE, "A condition stands without its value.")
    for condition, value in zip(choices[::2], choices[1::2], strict=True):
        holds = to_logical(_one(condition()))
        if isinstance(holds, Error):
            return holds
        if holds:
            return value()
    raise Failure(NA, "None of the conditions holds.")


@at_once("IFS")
def _ifs_in_rows(rows: Branches) -> None:
    if rows.count % 2 == 0:
        for number in range(0, rows.count, 2):
            if not rows.is_single(number):
                return
            rows.give(number + 1, rows.conditions(number))


@function(
    "SWITCH",
    "",
    "The value behind the first case that a value equals, or the one at the end.",
    arg("value", Takes.VALUE, "what is compared"),
    repeated("cases", Takes.LATER, "a case and its value, again and again; one for all others"),
    words="by {0}, the value behind its case among {*1}",
    example=('=SWITCH(C2,"Larch","low","Kestrel","high","?")', "high"),
    traits=(Trait.CHOOSES,),
    speech=Speech.SWITCHES,
)
def _switch(value: Value, *cases: Callable[[], Result]) -> Result:
    if isinstance(value, Error):
        return value
    if len(cases) < 2:
        raise Failure(VALUE, "There has to be a case with its value.")
    for case, result in zip(cases[::2], cases[1::2], strict=False):
        order = compared(value, _one(case()))
        if isinstance(order, Error):
            return order
        if order == 0:
            return result()
    if len(cases) % 2:
        return cases[-1]()
    raise Failure(NA, "The value is none of the cases.")


@at_once("SWITCH")
def _switch_in_rows(rows: Branches) -> None:
    values = rows.values(0)
    errors = values.kinds == Kind.ERROR
    rows.put(errors, values)
    values = values.taken(~errors)
    for number in range(1, rows.count - 1, 2):
        if not rows.is_single(number):
            return
        cases = rows.values(number)
        same = rows.equal(values, cases)
        wrong = cases.kinds == Kind.ERROR
        rows.put(wrong, cases)
        same, values = same[~wrong], values.taken(~wrong)
        rows.give(number + 1, same)
        values = values.taken(~same)
    if rows.count > 2 and rows.count % 2 == 0:
        rows.give_rest(rows.count - 1)


def _one(result: Result) -> Value:
    """A value, or that of a single cell."""
    if isinstance(result, Table) and result.size == 1:
        return result.at(0, 0)
    if isinstance(result, Table | Several):
        raise Failure(VALUE, "A range stands where one value is needed.")
    return result
