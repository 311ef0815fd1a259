"""Functions that decide."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from functools import reduce
from operator import xor

import numpy as np

from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Branches, Failure, at_once, function
from dreieck.core.ranges.beside import Condition, Mask, all_of, any_of, odd_of
from dreieck.core.ranges.operands import Several, Table
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import NA, VALUE, Error, Value, compared, to_logical


@function("IF")
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


@function("AND")
def _and(conditions: Iterator[bool]) -> bool:
    return all(_some(conditions))


@at_once("AND")
def _and_in_rows(conditions: Sequence[Condition]) -> Cells | None:
    return _where_any(conditions, all_of(conditions)) if conditions else None


@function("OR")
def _or(conditions: Iterator[bool]) -> bool:
    return any(_some(conditions))


@at_once("OR")
def _or_in_rows(conditions: Sequence[Condition]) -> Cells | None:
    return _where_any(conditions, any_of(conditions)) if conditions else None


@function("XOR")
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


@function("NOT")
def _not(condition: bool) -> bool:
    return not condition


at_once("NOT")(np.logical_not)


@function("TRUE")
def _true() -> bool:
    return True


@function("FALSE")
def _false() -> bool:
    return False


@function("IFERROR")
def _iferror(value: Value, instead: Callable[[], Result]) -> Result:
    return instead() if isinstance(value, Error) else value


@at_once("IFERROR")
def _iferror_in_rows(rows: Branches) -> None:
    values = rows.values(0)
    rows.put(values.kinds != Kind.ERROR, values)
    rows.give_rest(1)


@function("LET")
def _let(*parts: Callable[[], Result]) -> Result:
    # Where it is written as it has to be, what it says is worked out without these names.
    if len(parts) % 2 == 0:
        raise Failure(VALUE, "Names and values take turns; a calculation stands at the end.")
    raise Failure(VALUE, "A name is no name here, or the formula is too large without its names.")


@function("IFNA")
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


@function("IFS")
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


@function("SWITCH")
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
