"""Functions that give many values: lists filtered, put in order, cut and joined."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.functions.families.text import texts_of
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Failure, function
from dreieck.core.ranges.index import Positions
from dreieck.core.ranges.operands import MAX_TABLE, Array, Range, Table, row_by_row
from dreieck.core.sheet.cells import Cells, Kind, Payload, told_once
from dreieck.core.values import NA, VALUE, Error, Value, to_logical, to_text

_A_LINE = 64
"""What it costs to look at one more line, beside its values."""
_KINDS = (Kind.NUMBER, Kind.TEXT, Kind.LOGICAL, Kind.ERROR, Kind.EMPTY)
"""The order of values of different kinds; empty cells come last."""


def _array(columns: Sequence[Cells], height: int) -> Array:
    """The table that has these columns, all of one height."""
    return Array(Cells.joined(columns), len(columns), height, is_result=True)


def _columns(table: Table) -> list[Cells]:
    spend(table.size // AT_ONCE + table.width * _A_LINE)
    return [table.column(number) for number in range(table.width)]


def _rows_of(table: Table, rows: Positions) -> Array:
    _check_size(table.width, len(rows))
    return _array([table.column_at(number, rows) for number in range(table.width)], len(rows))


def _columns_of(table: Table, columns: Positions) -> Array:
    _check_size(len(columns), table.height)
    spend(len(columns) * _A_LINE)
    return _array([table.column(number) for number in columns.tolist()], table.height)


def _lines_of(table: Table, lines: Positions, *, across: bool) -> Array:
    """Some of the rows, or of the columns, by their places."""
    return _columns_of(table, lines) if across else _rows_of(table, lines)


def _line(table: Table, number: int, *, across: bool) -> Table:
    """A row, or a column, by its place."""
    if across:
        return table.part(0, number, table.width, 1)
    return table.part(number, 0, 1, table.height)


def _filled(table: Table) -> Table:
    """A table, of which whole columns end with what is filled."""
    return table.ended() if isinstance(table, Range) else table


def _check_size(width: int, height: int) -> None:
    if width < 1 or height < 1:
        raise Failure(VALUE, "An array has at least one row and one column.")
    if width * height > MAX_TABLE:
        raise Failure(VALUE, f"An array can have {MAX_TABLE:,} values.")


@function("FILTER")
def _filter(table: Table, wanted: Table, instead: Value = None) -> Result:
    across = wanted.height == 1 and wanted.width == table.width and table.width > 1
    if not across and (wanted.width != 1 or wanted.height != table.height):
        raise Failure(VALUE, "There has to be one condition for each row, or for each column.")
    spend(wanted.size // AT_ONCE + 1)
    kept = np.flatnonzero(_conditions(wanted.all_cells()))
    if len(kept):
        return _lines_of(table, kept, across=across)
    if instead is None:
        raise Failure(NA, f"No {'column' if across else 'row'} fits.")
    return instead


def _conditions(cells: Cells) -> Payload:
    """Which values hold. Raises Failure where one is an error, or no condition."""
    others = np.flatnonzero((cells.kinds == Kind.TEXT) | (cells.kinds == Kind.ERROR))
    if len(others):
        first = to_logical(cells.value(int(others[0])))
        if isinstance(first, Error):
            raise Failure.of(first)
        return np.array([to_logical(each) is True for each in cells.values()])
    return np.where(cells.kinds == Kind.EMPTY, 0.0, cells.payload)


def _coded(cells: Cells) -> tuple[Positions, int]:
    """A number for each value, the same for equal ones and in their order; all lie below a limit.

    Numbers come first, then texts, of which case does not count, logical values, errors.
    """
    spend(len(cells) // AT_ONCE + 1)
    found, limit = np.zeros(len(cells), np.intp), 0
    for kind in _KINDS:
        which = cells.kinds == kind
        if not which.any():
            continue
        held = cells.payload[which]
        if kind == Kind.NUMBER:
            _, own = np.unique(held, return_inverse=True)
        elif kind == Kind.TEXT:
            own = _text_ranks(held.astype(np.intp), cells.pool.objects)
        elif kind == Kind.LOGICAL:
            own = held.astype(np.intp)
        else:
            own = np.zeros(len(held), np.intp)
        found[which] = own + limit
        limit += int(own.max()) + 1
    return found, limit


def _text_ranks(held: Positions, objects: list[Any]) -> NDArray[Any]:
    """Where texts, of which a pool holds each once, stand in their order."""
    texts = sorted({objects[each].casefold() for each in set(held.tolist())})
    spend(len(texts))
    order = {text: number for number, text in enumerate(texts)}
    return told_once(held, objects, lambda text: order[text.casefold()], int)


def _in_order(lines: Sequence[Table], directions: Sequence[int]) -> Positions:
    """The places in the order of lines, the first of which counts most; equal ones stay so."""
    keys = []
    for line, direction in zip(lines, directions, strict=True):
        if direction not in (1, -1):
            raise Failure(VALUE, "The order is 1 upwards or -1 downwards.")
        cells = line.all_cells()
        codes, limit = _coded(cells)
        # Downwards empty cells come last, too.
        keys.append(np.where(cells.kinds == Kind.EMPTY, limit, codes * direction))
    spend(len(keys[0]) // 8 * len(keys))
    return np.lexsort(keys[::-1])


@function("SORT")
def _sort(table: Table, by: int = 1, direction: int = 1, across: bool = False) -> Result:
    table = _filled(table)
    limit = table.height if across else table.width
    if not 1 <= by <= limit:
        raise Failure(VALUE, f"There is no {'row' if across else 'column'} {by} of {limit}.")
    line = _line(table, by - 1, across=across)
    return _lines_of(table, _in_order([line], [direction]), across=across)


@function("SORTBY")
def _sortby(table: Table, *more: Table) -> Result:
    keys, directions = more[::2], [_direction(each) for each in more[1::2]]
    directions += [1] * (len(keys) - len(directions))
    across = table.height == 1 and table.width > 1
    length = table.width if across else table.height
    if any(key.size != length or min(key.width, key.height) > 1 for key in keys):
        raise Failure(VALUE, "It is ordered by a row or column that is as long as it is.")
    found = _in_order(keys, directions)
    return _lines_of(table, found, across=across)


def _direction(table: Table) -> int:
    value = table.at(0, 0)
    return int(value) if isinstance(value, float) else 0


@function("UNIQUE")
def _unique(table: Table, across: bool = False, once: bool = False) -> Result:
    table = _filled(table)
    _check_size(table.width, table.height)
    count = table.height if across else table.width
    spend(count * _A_LINE)
    parts = [_line(table, number, across=across) for number in range(count)]
    codes, limit = _coded(parts[0].all_cells())
    for part in parts[1:]:
        own, size = _coded(part.all_cells())
        _, codes = np.unique(codes * size + own, return_inverse=True)
        limit = len(codes)
    places = np.full(limit, -1, np.intp)
    # The last one that is written stays, so the first place has to come last.
    places[codes[::-1]] = np.arange(len(codes))[::-1]
    if once:
        places[np.bincount(codes, minlength=limit) > 1] = -1
    kept = np.sort(places[places >= 0])
    if not len(kept):
        raise Failure(NA, "Each value occurs more than once.")
    return _lines_of(table, kept, across=across)


@function("SEQUENCE")
def _sequence(rows: int, columns: int = 1, first: float = 1.0, step: float = 1.0) -> Result:
    _check_size(columns, rows)
    spend(rows * columns // AT_ONCE + 1)
    numbers = first + step * np.arange(rows * columns, dtype=np.float64)
    return Array(
        Cells.numbers(numbers.reshape(rows, columns).T.ravel()), columns, rows, is_result=True
    )


@function("TAKE")
def _take(table: Table, rows: int | None = None, columns: int | None = None) -> Result:
    down, across = _end(table.height, rows), _end(table.width, columns)
    return _part(table, across, down)


@function("DROP")
def _drop(table: Table, rows: int | None = None, columns: int | None = None) -> Result:
    down, across = _rest(table.height, rows), _rest(table.width, columns)
    return _part(table, across, down)


def _part(table: Table, across: range, down: range) -> Result:
    if not across or not down:
        raise Failure(VALUE, "Nothing is left.")
    _check_size(len(across), len(down))
    rows = np.arange(down.start, down.stop)
    return _array([table.column_at(number, rows) for number in across], len(rows))


def _end(length: int, count: int | None) -> range:
    """So many places from the beginning, or at the end for a number below 0."""
    if count is None:
        return range(length)
    if count < 0:
        return range(max(length + count, 0), length)
    return range(min(count, length))


def _rest(length: int, count: int | None) -> range:
    """The places that are left without so many at the beginning, or at the end."""
    count = count or 0
    return range(min(count, length), length) if count >= 0 else range(max(length + count, 0))


@function("CHOOSEROWS")
def _chooserows(table: Table, *numbers: Table) -> Result:
    return _rows_of(table, _chosen(table.height, numbers, "row"))


@function("CHOOSECOLS")
def _choosecols(table: Table, *numbers: Table) -> Result:
    return _columns_of(table, _chosen(table.width, numbers, "column"))


def _chosen(length: int, tables: Sequence[Table], what: str) -> Positions:
    """The places of lines by their numbers, which are counted from -1 at the end."""
    found: list[int] = []
    for value in (value for table in tables for value in table.filled()):
        number = int(value) if isinstance(value, float) else 0
        if not 1 <= abs(number) <= length:
            raise Failure(VALUE, f"There is no {what} {to_text(value)} among {length}.")
        found.append(number - 1 if number > 0 else length + number)
    if not found:
        raise Failure(VALUE, f"No {what} is told.")
    _check_size(1, len(found))
    return np.array(found, np.intp)


@function("HSTACK")
def _hstack(*tables: Table) -> Result:
    height = max(table.height for table in tables)
    _check_size(sum(table.width for table in tables), height)
    return _array([_long(each, height) for table in tables for each in _columns(table)], height)


@function("VSTACK")
def _vstack(*tables: Table) -> Result:
    width, height = max(t.width for t in tables), sum(t.height for t in tables)
    _check_size(width, height)
    columns = []
    for number in range(width):
        parts = [
            table.column(number) if number < table.width else _lacking(table.height)
            for table in tables
        ]
        columns.append(Cells.joined(parts))
    spend(width * height // AT_ONCE)
    return _array(columns, height)


def _lacking(count: int) -> Cells:
    return Cells.alike(Error(NA, "The other array is longer."), count)


def _long(cells: Cells, height: int) -> Cells:
    """Cells, with ``#N/A`` for those that a longer column has more."""
    return cells if len(cells) == height else Cells.joined([cells, _lacking(height - len(cells))])


@function("TOROW")
def _torow(table: Table, left_out: int = 0, by_column: bool = False) -> Result:
    cells = _in_line(table, left_out, by_column=by_column)
    return Array(cells, len(cells), 1, is_result=True)


@function("TOCOL")
def _tocol(table: Table, left_out: int = 0, by_column: bool = False) -> Result:
    cells = _in_line(table, left_out, by_column=by_column)
    return Array(cells, 1, len(cells), is_result=True)


def _in_line(table: Table, left_out: int, *, by_column: bool) -> Cells:
    """The values one after the other; 1 leaves out empty ones, 2 errors, 3 both."""
    if left_out not in (0, 1, 2, 3):
        raise Failure(VALUE, "Left out is nothing with 0, 1 empty cells, 2 errors, 3 both.")
    table = _filled(table)
    _check_size(table.width, table.height)
    cells = table.all_cells()
    spend(len(cells) // AT_ONCE + 1)
    if not by_column:
        cells = cells.taken(row_by_row(table.width, table.height))
    gone = np.zeros(len(cells), np.bool_)
    for bit, kind in ((1, Kind.EMPTY), (2, Kind.ERROR)):
        if left_out & bit:
            gone |= cells.kinds == kind
    if gone.all():
        raise Failure(NA, "Nothing is left.")
    return cells.taken(~gone)


@function("TRANSPOSE")
def _transpose(table: Table) -> Result:
    table = _filled(table)
    _check_size(table.width, table.height)
    spend(table.size // AT_ONCE + 1)
    cells = table.all_cells().taken(row_by_row(table.width, table.height))
    return Array(cells, table.height, table.width, is_result=True)


@function("TEXTSPLIT")
def _textsplit(
    text: str,
    marks: Table,
    row_marks: Table | None = None,
    without_empty: bool = False,
    any_case: bool = False,
    instead: Value = None,
) -> Result:
    spend(len(text) // 8 + 1)
    lines = _pieces(text, row_marks, any_case=any_case) if row_marks else [text]
    rows: list[list[Value]] = [list(_pieces(line, marks, any_case=any_case)) for line in lines]
    if without_empty:
        rows = [[each for each in row if each] for row in rows if any(row)]
    width = max((len(row) for row in rows), default=0)
    _check_size(width, len(rows))
    lacking = Error(NA, "Another row has more pieces.") if instead is None else instead
    full = [row + [lacking] * (width - len(row)) for row in rows]
    return Array.of(full, is_result=True)


def _pieces(text: str, marks: Table, *, any_case: bool) -> list[str]:
    """A text parted at each of some marks."""
    wanted = [each for each in texts_of(marks.filled()) if each]
    if not wanted:
        return [text]
    pattern = "|".join(re.escape(each) for each in sorted(wanted, key=len, reverse=True))
    return re.split(pattern, text, flags=re.IGNORECASE if any_case else 0)
