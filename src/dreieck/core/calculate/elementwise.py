"""Operators on many values at once.

Plain numbers go through an operator as arrays. Whatever else there is is worked out by the very
rules for single values, once for each two values that meet.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.calculate.operators import LAST_BITS, ORDERS, binary, percent, signed
from dreieck.core.ranges.operands import MAX_TABLE, Array, Range, Several, Table
from dreieck.core.sheet.cells import Cells, Kind, Pool
from dreieck.core.values import VALUE, Error, Value

_ONE_BY_ONE = 4
"""How many steps two values cost that are worked out alone."""
Numbers = NDArray[np.float64] | float
Mask = NDArray[np.bool_]


class Operation(NamedTuple):
    """An operator: its rule for two values, and for arrays of plain numbers if it has one.

    ``plain`` are the kinds that count as numbers in it, ``gives`` the kind of the result.
    """

    rule: Callable[[Value, Value], Value]
    at_once: Callable[[Any, Any], Any] | None = None
    plain: tuple[int, ...] = (Kind.NUMBER, Kind.EMPTY, Kind.LOGICAL)
    gives: int = Kind.NUMBER


_ARITHMETIC: dict[str, Callable[[Any, Any], Any]] = {
    "+": lambda one, two: one + two,
    "-": lambda one, two: one - two,
    "*": lambda one, two: one * two,
    "/": np.divide,
}


@lru_cache(maxsize=64)
def operation(operator: str) -> Operation:
    """The operation of an operator between two values."""

    def rule(one: Value, two: Value) -> Value:
        return binary(operator, one, two)

    if operator in ORDERS:
        return Operation(rule, _comparison(operator), (Kind.NUMBER,), Kind.LOGICAL)
    return Operation(rule, _ARITHMETIC.get(operator))


MINUS = Operation(lambda one, _: signed("-", one), lambda one, _: -one)
"""A minus in front; the second value does not count."""
PERCENT = Operation(lambda one, _: percent(one), lambda one, _: one / 100)
"""A percent sign behind; the second value does not count."""


def combined(operation: Operation, left: Cells | Value, right: Cells | Value) -> Cells:
    """What an operation makes of cells side by side; a single value meets each of the others."""
    count = len(left) if isinstance(left, Cells) else len(right)  # type: ignore[arg-type]
    spend(count // AT_ONCE + 1)
    one, two = _numbers(left, operation.plain), _numbers(right, operation.plain)
    if operation.at_once is None or one is None or two is None:
        return _pair_by_pair(operation.rule, left, right, count)
    with np.errstate(all="ignore"):
        found = np.asarray(operation.at_once(one[0], two[0]), np.float64)
    plain = np.isfinite(found)
    for _, mask in (one, two):
        if mask is not None:
            plain &= mask
    if plain.all():
        if operation.gives == Kind.NUMBER:
            return Cells.numbers(found)
        return Cells(np.full(count, operation.gives, np.uint8), found, Pool())
    others = np.flatnonzero(~plain)
    rest = _pair_by_pair(operation.rule, _taken(left, others), _taken(right, others), len(others))
    kinds = np.full(count, operation.gives, np.uint8)
    kinds[others], found[others] = rest.kinds, rest.payload
    return Cells(kinds, found, rest.pool)


def combined_tables(
    operation: Operation, one: Table | Several | Value, two: Table | Several | Value
) -> Table | Value:
    """The same for ranges and tables, cell by cell; a single value, row or column is repeated."""
    size = size_of([one, two])
    if isinstance(size, Error):
        return size
    if size is None:
        return operation.rule(one, two)  # type: ignore[arg-type]  # neither is a table
    width, height = size
    left, right = spread(one, width, height), spread(two, width, height)
    if not isinstance(left, Cells) and not isinstance(right, Cells):
        return Array.of([[operation.rule(left, right)]])
    return Array(combined(operation, left, right), width, height)


def size_of(operands: Sequence[Table | Several | Value]) -> tuple[int, int] | Error | None:
    """How many columns and rows operands come to side by side; None where none is a table."""
    tables = [part for part in operands if isinstance(part, Table)]
    if any(isinstance(part, Several) for part in operands):
        return Error(VALUE, "A calculation with ranges cannot take several at once.")
    if not tables:
        return None
    width, height = max(t.width for t in tables), max(t.height for t in tables)
    if width * height > MAX_TABLE:
        return Error(VALUE, f"A calculation with ranges can have {MAX_TABLE:,} cells.")
    if any(t.width not in (1, width) or t.height not in (1, height) for t in tables):
        return Error(VALUE, "The ranges differ in size.")
    return width, height


def spread(operand: Table | Several | Value, width: int, height: int) -> Cells | Value:
    """The cells of an operand, column by column, repeated to so many columns and rows."""
    if isinstance(operand, Several):
        return Error(VALUE, "Several ranges stand where one is needed.")
    if not isinstance(operand, Range | Array):
        return operand
    cells = operand.all_cells()
    if operand.size == 1:
        return cells.value(0)
    if operand.size == width * height:
        return cells
    places = np.arange(operand.size).reshape(operand.width, operand.height)
    return cells.taken(np.broadcast_to(places, (width, height)).ravel())


def _comparison(operator: str) -> Callable[[Numbers, Numbers], Mask]:
    """A comparison of numbers, which ignores their last bits as ``binary`` does."""
    orders = ORDERS[operator]

    def holds(one: Numbers, two: Numbers) -> Mask:
        larger = np.maximum(np.abs(one), np.abs(two))
        equal = np.abs(np.subtract(one, two)) <= LAST_BITS * larger
        found: Mask = equal if 0 in orders else np.zeros_like(equal)
        if -1 in orders:
            found = found | (np.less(one, two) & ~equal)
        if 1 in orders:
            found = found | (np.greater(one, two) & ~equal)
        return found

    return holds


def _numbers(column: Cells | Value, kinds: tuple[int, ...]) -> tuple[Any, Mask | None] | None:
    """What counts as a number as it is, and where; None where nothing does."""
    if isinstance(column, Cells):
        if column.all_numbers:
            return column.payload, None
        plain = np.isin(column.kinds, kinds)
        return (np.where(plain, column.payload, 0.0), plain) if plain.any() else None
    if type(column) is float:
        return column, None
    if Kind.EMPTY in kinds and (column is None or isinstance(column, bool)):
        return float(column or 0), None
    return None


def _pair_by_pair(
    rule: Callable[[Value, Value], Value], left: Cells | Value, right: Cells | Value, count: int
) -> Cells:
    """What a rule gives, worked out once for each two values that meet."""
    first, inverse = distinct((left, right), count)
    spend(len(first) * _ONE_BY_ONE)
    lefts, rights = _listed(left, first), _listed(right, first)
    found = Cells.of([rule(*pair) for pair in zip(lefts, rights, strict=True)])
    return found.taken(inverse)


def distinct(
    columns: Iterable[Cells | Value], count: int
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Where each row of values, side by side, stands first; and for each row which of them it is.

    A single value stands in all of so many rows.
    """
    spend(count // AT_ONCE + 1)
    rows = np.zeros(count, np.int64)
    for column in columns:
        own = _numbered(column, count)
        _, rows = np.unique(rows * (int(own.max(initial=0)) + 1) + own, return_inverse=True)
    _, first, inverse = np.unique(rows, return_index=True, return_inverse=True)
    return first, inverse


def _numbered(column: Cells | Value, count: int) -> NDArray[np.int64]:
    """The same number for equal values of one kind."""
    if not isinstance(column, Cells):
        return np.zeros(count, np.int64)
    _, inverse = np.unique(column.payload, return_inverse=True)
    return inverse.astype(np.int64) * (Kind.LOOK + 1) + column.kinds


def _listed(column: Cells | Value, which: NDArray[np.intp]) -> list[Value]:
    return column.taken(which).values() if isinstance(column, Cells) else [column] * len(which)


def _taken(column: Cells | Value, which: NDArray[np.intp]) -> Cells | Value:
    return column.taken(which) if isinstance(column, Cells) else column
