"""Operators on many values at once.

Plain numbers go through an operator as arrays. Whatever else there is is worked out by the very
rules for single values, once for each two values that meet.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from functools import lru_cache, partial
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.calculate.operators import LAST_BITS, ORDERS, binary, percent, signed
from dreieck.core.ranges.operands import MAX_TABLE, Array, Range, Several, Table
from dreieck.core.sheet.cells import Cells, Kind, Payload, Pool, distinct_numbers, is_kind, pooled
from dreieck.core.values import MAX_TEXT, NA, VALUE, Error, Value, bounded_text
from dreieck.core.values.powers import powers

_ONE_BY_ONE = 4
"""How many steps two values cost that are worked out alone."""
_TICKED = 8
"""Where numbers are so many times more than rows at most, they are ticked off and not sorted."""
_MOST_NUMBERS = 2**62
_SHORTER = "A range is shorter here than another one in the same calculation."
Mask = NDArray[np.bool_]


class Operation(NamedTuple):
    """An operator: its rule for two values, and for arrays of plain numbers if it has one.

    ``plain`` are the kinds that count as numbers in it, ``gives`` the kind of the result.
    ``refuses`` says for which second numbers it gives an error, whatever the first is.
    ``texts`` is the rule for lists of texts.
    """

    rule: Callable[[Value, Value], Value]
    at_once: Callable[[Any, Any], Any] | None = None
    plain: tuple[int, ...] = (Kind.NUMBER, Kind.EMPTY, Kind.LOGICAL)
    gives: int = Kind.NUMBER
    refuses: float | None = None
    texts: Callable[[list[str], list[str]], Sequence[Value]] | None = None


def _all_compared(orders: tuple[int, ...], lefts: list[str], rights: list[str]) -> list[Value]:
    """Whether texts are in one of some orders, pair by pair; case does not count."""
    ones, others = map(str.casefold, lefts), map(str.casefold, rights)
    if orders in ((0,), (-1, 1)):
        return list(map(str.__eq__ if orders == (0,) else str.__ne__, ones, others))
    pairs = zip(ones, others, strict=True)
    return [(one > other) - (one < other) in orders for one, other in pairs]


def _all_joined(lefts: list[str], rights: list[str]) -> list[Value]:
    """Texts joined pair by pair."""
    longest = max(map(len, lefts), default=0) + max(map(len, rights), default=0)
    if longest > MAX_TEXT:
        return [bounded_text(pair) for pair in zip(lefts, rights, strict=True)]
    spend((sum(map(len, lefts)) + sum(map(len, rights))) // 2)
    return list(map(str.__add__, lefts, rights))


_ARITHMETIC: dict[str, Callable[[Any, Any], Any]] = {
    "+": lambda one, two: one + two,
    "-": lambda one, two: one - two,
    "*": lambda one, two: one * two,
    "/": np.divide,
    "^": powers,
}


@lru_cache(maxsize=64)
def operation(operator: str) -> Operation:
    """The operation of an operator between two values."""

    def rule(one: Value, two: Value) -> Value:
        return binary(operator, one, two)

    if operator in ORDERS:
        texts = partial(_all_compared, ORDERS[operator])
        return Operation(rule, _comparison(operator), (Kind.NUMBER,), Kind.LOGICAL, texts=texts)
    if operator == "&":
        return Operation(rule, texts=_all_joined)
    return Operation(rule, _ARITHMETIC.get(operator), refuses=0.0 if operator == "/" else None)


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
        return _pair_by_pair(operation, left, right, count)
    with np.errstate(all="ignore"):
        found = np.asarray(operation.at_once(one[0], two[0])) + 0.0
    plain = np.ones(count, np.bool_) if operation.gives == Kind.LOGICAL else np.isfinite(found)
    for _, mask in (one, two):
        if mask is not None:
            plain &= mask
    if plain.all():
        if operation.gives == Kind.NUMBER:
            return Cells.numbers(found)
        return Cells(np.full(count, operation.gives, np.uint8), found, Pool())
    kinds = np.full(count, operation.gives, np.uint8)
    pool = Pool()
    if operation.refuses is not None:
        refused = np.equal(two[0], operation.refuses) & ~plain
        for _, mask in (one, two):
            if mask is not None:
                refused &= mask
        if refused.any():
            error = operation.rule(1.0, operation.refuses)
            kinds[refused], found[refused] = Kind.ERROR, pool.number(error)
            plain |= refused
    others = np.flatnonzero(~plain)
    rest = _pair_by_pair(operation, _taken(left, others), _taken(right, others), len(others))
    kinds[others], found[others] = rest.kinds, pooled(rest, pool)
    return Cells(kinds, found, pool)


def combined_tables(
    operation: Operation, one: Table | Several | Value, two: Table | Several | Value
) -> Table | Value:
    """The same for ranges and tables, cell by cell; a single value, row or column is repeated."""
    one, two = alone(one), alone(two)
    size = size_of([one, two])
    if isinstance(size, Error):
        return size
    if size is None:
        return operation.rule(one, two)  # type: ignore[arg-type]  # neither is a table
    left, right = spread(one, *size), spread(two, *size)
    return Array(combined(operation, left, right), *size)


def alone(operand: Table | Several | Value) -> Table | Several | Value:
    """The value of a table that has just one; all else as it is."""
    return operand.at(0, 0) if isinstance(operand, Table) and operand.size == 1 else operand


def size_of(operands: Sequence[Table | Several | Value]) -> tuple[int, int] | Error | None:
    """How many columns and rows operands come to side by side; None where none is a table."""
    if any(isinstance(part, Several) for part in operands):
        return Error(VALUE, "A calculation with ranges cannot take several at once.")
    tables = [part for part in operands if isinstance(part, Table)]
    if not tables:
        return None
    width, height = max(t.width for t in tables), max(t.height for t in tables)
    if width * height > MAX_TABLE:
        return Error(VALUE, f"A calculation with ranges can have {MAX_TABLE:,} cells.")
    return width, height


def spread(operand: Table | Several | Value, width: int, height: int) -> Cells | Value:
    """The cells of an operand, column by column, in a table of so many columns and rows.

    A single row or column is repeated; where another one has nothing, there is ``#N/A``
    (OpenFormula 3.3).
    """
    if not isinstance(operand, Range | Array):
        return operand  # type: ignore[return-value]  # several are refused before
    cells = operand.all_cells()
    if operand.size == width * height:
        return cells
    across = np.arange(width) if operand.width > 1 else np.zeros(width, np.intp)
    down = np.arange(height) if operand.height > 1 else np.zeros(height, np.intp)
    places = np.add.outer(across * operand.height, down)
    if operand.width in (1, width) and operand.height in (1, height):
        return cells.taken(places.ravel())
    inside = np.logical_and.outer(across < operand.width, down < operand.height).ravel()
    lacking = Cells.alike(Error(NA, _SHORTER), width * height)
    return lacking.replaced([(inside, cells.taken(places.ravel()[inside]))])


_PLAINLY: dict[str, Callable[[Any, Any], Mask]] = {
    "=": np.equal,
    "<>": np.not_equal,
    "<": np.less,
    ">": np.greater,
    "<=": np.less_equal,
    ">=": np.greater_equal,
}


def _comparison(operator: str) -> Callable[[Any, Any], Mask]:
    """A comparison of numbers, which ignores their last bits as ``binary`` does."""
    plainly, equal_holds = _PLAINLY[operator], 0 in ORDERS[operator]

    def holds(one: Any, two: Any) -> Mask:
        found = np.asarray(plainly(one, two))
        apart = np.asarray(np.subtract(one, two))
        np.abs(apart, out=apart)
        # No two numbers are as good as equal that lie further apart than the largest ones may.
        near = np.flatnonzero(apart <= LAST_BITS * max(_largest(one), _largest(two)))
        if len(near):
            ones, twos = _at(one, near), _at(two, near)
            alike = apart[near] <= LAST_BITS * np.maximum(np.abs(ones), np.abs(twos))
            found[near[alike]] = equal_holds
        return found

    return holds


def _largest(numbers: Any) -> float:
    if not isinstance(numbers, np.ndarray):
        return float(abs(numbers))
    return float(max(numbers.max(initial=0.0), -numbers.min(initial=0.0)))


def _at(numbers: Any, places: NDArray[np.intp]) -> Any:
    return numbers[places] if isinstance(numbers, np.ndarray) else numbers


def _numbers(column: Cells | Value, kinds: tuple[int, ...]) -> tuple[Any, Mask | None] | None:
    """What counts as a number as it is, and where; None where nothing does."""
    if isinstance(column, Cells):
        if column.all_numbers:
            return column.payload, None
        plain = is_kind(column.kinds, *kinds)
        if plain.all():
            return column.payload, None
        return (np.where(plain, column.payload, 0.0), plain) if plain.any() else None
    if type(column) is float:
        return column, None
    if Kind.EMPTY in kinds and (column is None or isinstance(column, bool)):
        return float(column or 0), None
    return None


def _pair_by_pair(
    operation: Operation, left: Cells | Value, right: Cells | Value, count: int
) -> Cells:
    """What a rule gives, worked out once for each two values that meet."""
    if isinstance(left, Cells) and isinstance(right, str) and (left.kinds == Kind.TEXT).all():
        return _each_text(operation, left, right)
    first, inverse = distinct((left, right), count)
    spend(len(first) * _ONE_BY_ONE)
    lefts, rights = _listed(left, first), _listed(right, first)
    if operation.texts and _are_texts(lefts) and _are_texts(rights):
        return Cells.of(operation.texts(lefts, rights)).taken(inverse)  # type: ignore[arg-type]  # texts
    found = Cells.of([operation.rule(*pair) for pair in zip(lefts, rights, strict=True)])
    return found.taken(inverse)


def _each_text(operation: Operation, texts: Cells, other: str) -> Cells:
    """What an operation makes of texts, of which a pool holds each once, and of another one."""
    held, objects = texts.payload.astype(np.intp), texts.pool.objects
    numbers = distinct_numbers(held, len(objects))
    spend(len(numbers) * _ONE_BY_ONE)
    lefts = [objects[number] for number in numbers.tolist()]
    if operation.texts:
        found = Cells.of(operation.texts(lefts, [other] * len(lefts)))
    else:
        found = Cells.of([operation.rule(left, other) for left in lefts])
    which = np.zeros(len(objects), np.intp)
    which[numbers] = np.arange(len(numbers))
    return found.taken(which[held])


def _are_texts(values: list[Value]) -> bool:
    return set(map(type, values)) <= {str}


def distinct(
    columns: Iterable[Cells | Value], count: int
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """Where each row of values, side by side, stands first; and for each row which of them it is.

    A single value stands in all of so many rows.
    """
    spend(count // AT_ONCE + 1)
    rows, limit = np.zeros(count, np.int64), 1
    for column in columns:
        if isinstance(column, Cells):
            own, size = _numbered(column)
            if limit * size > _MOST_NUMBERS:
                rows, limit = np.unique(rows, return_inverse=True)[1], count
            rows, limit = rows * size + own, limit * size
    if limit > _TICKED * count + 1024:
        rows, limit = np.unique(rows, return_inverse=True)[1], count
    first = np.full(limit, count, np.intp)
    # The last one that is written stays, so the first row has to come last.
    first[rows[::-1]] = np.arange(count - 1, -1, -1)
    held = np.flatnonzero(first < count)
    which = np.zeros(limit, np.intp)
    which[held] = np.arange(len(held))
    return first[held], which[rows]


def _numbered(column: Cells) -> tuple[NDArray[np.int64], int]:
    """A number for each value, the same for equal ones of one kind; and what they lie below."""
    if not len(column):
        return np.zeros(0, np.int64), 1
    low, high = float(column.payload.min()), float(column.payload.max())
    if high - low < _TICKED * len(column) and low % 1 == 0:
        numbers = (column.payload - low).astype(np.int64)
        if (numbers + low == column.payload).all():
            return _with_kinds(column, numbers, int(high - low) + 1)
    _, numbers = np.unique(column.payload, return_inverse=True)
    return _with_kinds(column, numbers, len(column))


def _negative_zeros(payload: Payload) -> NDArray[np.bool_] | None:
    """Where a number is the 0 with a minus, which is another value though it is equal."""
    negative = np.signbit(payload)
    if not negative.any():
        return None
    negative &= payload == 0
    return negative if negative.any() else None


def _with_kinds(
    column: Cells, numbers: NDArray[np.int64], limit: int
) -> tuple[NDArray[np.int64], int]:
    if (zeros := _negative_zeros(column.payload)) is not None:
        numbers, limit = numbers * 2 + zeros, limit * 2
    if (column.kinds == column.kinds[0]).all():
        return numbers, limit
    return numbers * (Kind.LOOK + 1) + column.kinds, limit * (Kind.LOOK + 1)


def _listed(column: Cells | Value, which: NDArray[np.intp]) -> list[Value]:
    return column.taken(which).values() if isinstance(column, Cells) else [column] * len(which)


def _taken(column: Cells | Value, which: NDArray[np.intp]) -> Cells | Value:
    return column.taken(which) if isinstance(column, Cells) else column
