"""Functions that find values: by what they are, or by their place."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

import numpy as np

from dreieck.core.budget import spend
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Branches, Failure, at_once, function
from dreieck.core.functions.wildcards import Wildcards, has_marks
from dreieck.core.ranges.beside import Beside
from dreieck.core.ranges.index import NO_CODE, Positions, key_of
from dreieck.core.ranges.operands import MAX_TABLE, Range, Table
from dreieck.core.sheet.cells import Cells, Kind, is_kind, told_once
from dreieck.core.values import NA, REF, VALUE, Error, Value, compared
from dreieck.core.values.roundings import Numbers

_NOT_THERE = "is not in the list."
_ASKED = 16
"""So many steps it takes to ask an index for a place."""
_BEFORE = "lies before the first value of the list."


@function("MATCH")
def _match(sought: Value, cells: Table, kind: float = 1.0) -> float:
    if cells.width > 1 and cells.height > 1:
        raise Failure(NA, "The list has to be one row or one column.")
    if kind == 0:
        return float(_exact(sought, cells) + 1)
    return float(_nearest(sought, cells, 1 if kind > 0 else -1) + 1)


@at_once("MATCH")
def _match_in_rows(sought: Cells | Value, cells: Table, kind: Numbers = 1.0) -> Cells | None:
    if not isinstance(sought, Cells) or isinstance(kind, np.ndarray):
        return None
    if cells.width > 1 and cells.height > 1:
        return None
    direction = 0 if kind == 0 else 1 if kind > 0 else -1
    places = _all_places(sought, cells, direction)
    found = Cells.numbers((places + 1).astype(np.float64)).pending(places < 0)
    return _with_missing(found, sought, places, direction)


@function("VLOOKUP")
def _vlookup(sought: Value, table: Table, column: int, in_order: bool = True) -> Result:
    _check_index(column, table.width, "column")
    first = table.part(0, 0, 1, table.height)
    row = _nearest(sought, first, 1) if in_order else _exact(sought, first)
    return table.part(column - 1, row, 1, 1)


@at_once("VLOOKUP")
def _vlookup_in_rows(
    sought: Cells | Value, table: Table, column: Numbers, in_order: bool = True
) -> Cells | None:
    if not isinstance(sought, Cells) or not isinstance(column, int | float):
        return None
    if not 1 <= column <= table.width or not isinstance(in_order, bool):
        return None
    places = _all_places(sought, table.part(0, 0, 1, table.height), int(in_order))
    found = _found_at(places, partial(table.column_at, int(column) - 1))
    return _with_missing(found, sought, places, int(in_order))


@function("HLOOKUP")
def _hlookup(sought: Value, table: Table, row: int, in_order: bool = True) -> Result:
    _check_index(row, table.height, "row")
    first = table.part(0, 0, table.width, 1)
    column = _nearest(sought, first, 1) if in_order else _exact(sought, first)
    return table.part(column, row - 1, 1, 1)


@at_once("HLOOKUP")
def _hlookup_in_rows(
    sought: Cells | Value, table: Table, row: Numbers, in_order: bool = True
) -> Cells | None:
    if not isinstance(sought, Cells) or not isinstance(row, int | float):
        return None
    if not 1 <= row <= table.height or not isinstance(in_order, bool):
        return None
    places = _all_places(sought, table.part(0, 0, table.width, 1), int(in_order))
    return _found_at(places, table.part(0, int(row) - 1, table.width, 1).all_cells().taken)


@function("INDEX")
def _index(areas: list[Table], row: int = 0, column: int | None = None, area: int = 1) -> Result:
    if not 1 <= area <= len(areas):
        raise Failure(REF, f"There is no range {area} among {len(areas)}.")
    cells = areas[area - 1]
    if column is None and cells.height == 1 and cells.width > 1:
        row, column = (1 if row else 0), row
    column = column or 0
    if row < 0 or column < 0:
        raise Failure(VALUE, "Rows and columns are counted from 1.")
    if row > cells.height or column > cells.width:
        name = cells.area.text if isinstance(cells, Range) else "The table"
        raise Failure(REF, f"{name} has no row {row}, column {column}.")
    left, width = (column - 1, 1) if column else (0, cells.width)
    top, height = (row - 1, 1) if row else (0, cells.height)
    return cells.part(left, top, width, height)


@at_once("INDEX")
def _index_in_rows(
    areas: list[Table], row: Numbers = 0, column: Numbers | None = None, area: Numbers = 1
) -> Cells | None:
    if isinstance(area, np.ndarray) or not 1 <= area <= len(areas):
        return None
    cells = areas[int(area) - 1]
    if column is None and cells.height == 1 and cells.width > 1:
        row, column = 1, row
    if column is None and cells.width == 1:
        column = 1
    if column is None or (np.size(column) > 1 and cells.size > MAX_TABLE):
        return None
    down, across = np.broadcast_arrays(np.asarray(row, np.float64), np.asarray(column, np.float64))
    inside = (down >= 1) & (down <= cells.height) & (across >= 1) & (across <= cells.width)
    if not isinstance(column, np.ndarray):
        rows = np.where(inside, down - 1, -1).astype(np.intp)
        return _found_at(rows, partial(cells.column_at, int(column) - 1))
    places = np.where(inside, (across - 1) * cells.height + down - 1, -1).astype(np.intp)
    return _found_at(places, cells.all_cells().taken)


@function("CHOOSE")
def _choose(number: int, *values: Callable[[], Result]) -> Result:
    if not 1 <= number <= len(values):
        raise Failure(VALUE, f"There is no value number {number} of {len(values)}.")
    return values[number - 1]()


@at_once("CHOOSE")
def _choose_in_rows(rows: Branches) -> None:
    numbers = np.trunc(rows.numbers(0))
    for number in range(1, rows.count):
        chosen = numbers == number
        rows.give(number, chosen)
        numbers = numbers[~chosen]


@function("LOOKUP")
def _lookup(sought: Value, cells: Table, results: Table | None = None) -> Result:
    place = _nearest(sought, _edge(cells), 1)
    if results is None:
        results = _edge(cells, last=True)
    if results.width > 1 and results.height > 1:
        raise Failure(NA, "The results have to be one row or one column.")
    try:
        return results.part(place, 0, 1, 1) if results.width > 1 else results.part(0, place, 1, 1)
    except IndexError:
        raise Failure(NA, "The results are shorter than the list.") from None


@at_once("LOOKUP")
def _lookup_in_rows(
    sought: Cells | Value, cells: Table | Beside, results: Table | Beside | None = None
) -> Cells | None:
    if not isinstance(sought, Cells) or isinstance(cells, Beside) or isinstance(results, Beside):
        return None
    if results is not None and results.width > 1 < results.height:
        return None
    places = _all_places(sought, _edge(cells), 1)
    if results is None:
        results = _edge(cells, last=True)
    places = np.where(places < results.size, places, -1)
    return _found_at(places, results.all_cells().taken)


@function("XMATCH")
def _xmatch(sought: Value, cells: Table, kind: int = 0, order: int = 1) -> float:
    return float(_place_of(sought, cells, kind, order) + 1)


@at_once("XMATCH")
def _xmatch_in_rows(
    sought: Cells | Value, cells: Table, kind: Numbers = 0, order: Numbers = 1
) -> Cells | None:
    places = _same_places(sought, cells, kind, order)
    if places is None:
        return None
    return Cells.numbers((places + 1).astype(np.float64)).pending(places < 0)


@function("XLOOKUP")
def _xlookup(
    sought: Value,
    cells: Table,
    results: Table,
    instead: Value = None,
    kind: int = 0,
    order: int = 1,
) -> Result:
    across = cells.height == 1 and cells.width > 1
    if (results.width if across else results.height) != cells.size:
        raise Failure(VALUE, "The list and the results have to be equally long.")
    try:
        place = _place_of(sought, cells, kind, order)
    except Failure as failure:
        if failure.code != NA or instead is None or isinstance(sought, Error):
            raise
        return instead
    if across:
        return results.part(place, 0, 1, results.height)
    return results.part(0, place, results.width, 1)


@at_once("XLOOKUP")
def _xlookup_in_rows(
    sought: Cells | Value,
    cells: Table,
    results: Table,
    instead: Cells | Value = None,
    kind: Numbers = 0,
    order: Numbers = 1,
) -> Cells | None:
    # Where there are several results, which of them counts depends on the row.
    if results.size != cells.size:
        return None
    places = _same_places(sought, cells, kind, order)
    if places is None or not isinstance(sought, Cells):
        return None
    found = _found_at(places, results.all_cells().taken)
    return _with_missing(found, sought, places, 0) if instead is None else found


def _place_of(sought: Value, cells: Table, kind: int, order: int) -> int:
    """The place of what is the same as a value, or nearest to it, counted from 0."""
    if cells.width > 1 and cells.height > 1:
        raise Failure(VALUE, "The list has to be one row or one column.")
    if kind not in (-1, 0, 1, 2) or order not in (-2, -1, 1, 2):
        raise Failure(VALUE, "The kind is -1, 0, 1 or 2; the order -2, -1, 1 or 2.")
    if isinstance(sought, Error):
        raise Failure.of(sought)
    if kind == 2:
        if not isinstance(sought, str):
            return _place_of(sought, cells, 0, order)
        wanted = Wildcards(sought)
        fits = [at for at, each in _along(cells) if isinstance(each, str) and wanted.fit(each)]
    else:
        sought = 0.0 if sought is None else sought
        fits = cells.indexed().places(key_of(sought)).tolist()
        if not fits and kind and isinstance(sought, float):
            fits = _next_number(sought, cells, kind)
        elif not fits and kind:
            fits = _next_to(sought, cells, kind)
    if not fits:
        raise Failure(NA, f"{_said(sought)} {_NOT_THERE}")
    return int(fits[0] if order > 0 else fits[-1])


def _next_number(sought: float, cells: Table, direction: int) -> list[int]:
    """The places of the next larger number, or of the next smaller one below 0."""
    numbers = cells.indexed().numbers
    spend(_ASKED)
    at = int(numbers.searchsorted(sought)) - (direction < 0)
    if not 0 <= at < len(numbers):
        return []
    places: list[int] = cells.indexed().places(float(numbers[at])).tolist()
    return places


def _next_to(sought: Value, cells: Table, direction: int) -> list[int]:
    """The same for values of other kinds."""
    spend(cells.size)
    best: list[int] = []
    nearest: Value = None
    for place, value in _along(cells):
        if type(value) is not type(sought) or _order(value, sought) * direction < 0:
            continue
        apart = 1 if nearest is None else _order(nearest, value) * direction
        if apart > 0:
            best, nearest = [place], value
        elif apart == 0:
            best.append(place)
    return best


def _order(one: Value, other: Value) -> int:
    """How two values of one kind, none of them an error, are ordered."""
    order = compared(one, other)
    assert not isinstance(order, Error)
    return order


def _same_places(
    sought: Cells | Value, cells: Table, kind: Numbers, order: Numbers
) -> Positions | None:
    """The first places of many values; below 0 where a value is to be asked alone."""
    if not isinstance(sought, Cells) or isinstance(kind, np.ndarray) or kind != 0:
        return None
    if isinstance(order, np.ndarray) or order < 1 or (cells.width > 1 and cells.height > 1):
        return None
    return _all_places(sought, cells, 0)


def _edge(cells: Table, *, last: bool = False) -> Table:
    """The first or the last line of a table, along its longer side."""
    if cells.width > cells.height:
        return cells.part(0, cells.height - 1 if last else 0, cells.width, 1)
    return cells.part(cells.width - 1 if last else 0, 0, 1, cells.height)


def _found_at(places: Positions, take: Callable[[Positions], Cells]) -> Cells:
    """The cells at some places; pending where there is no place."""
    known = places >= 0
    if not known.any():
        return Cells.alike(None, len(places)).pending(~known)
    return take(np.where(known, places, 0)).pending(~known)


def _with_missing(found: Cells, sought: Cells, places: Positions, direction: int) -> Cells:
    """The same cells, numbers that are not in the list as the error that says so."""
    missing = np.flatnonzero((places < 0) & is_kind(sought.kinds, Kind.NUMBER, Kind.EMPTY))
    if not len(missing):
        return found
    error = Error(NA, f"{_said(0.0)} {_BEFORE if direction else _NOT_THERE}")
    return found.replaced([(missing, Cells.alike(error, len(missing)))])


def _all_places(sought: Cells, line: Table, direction: int) -> Positions:
    """The places of many values in a row or column; below 0 where a value is to be asked alone.

    They are those of equal values, or, for a direction, the last ones that do not lie beyond.
    """
    index = line.indexed()
    if direction:
        numbers = is_kind(sought.kinds, Kind.NUMBER, Kind.EMPTY)
        return np.where(numbers, index.nearest_of(sought.payload, direction), -1)
    codes = index.codes_of(sought)
    places = np.where(codes == NO_CODE, -1, index.first_places[codes])
    texts = np.flatnonzero(sought.kinds == Kind.TEXT)
    if len(texts):
        held = sought.payload[texts].astype(np.intp)
        places[texts[told_once(held, sought.pool.objects, has_marks, bool)]] = -1
    return places


def _exact(sought: Value, line: Table) -> int:
    """The first place in a row or column that holds the same value; wildcards count."""
    if isinstance(sought, Error):
        raise Failure.of(sought)
    wanted = Wildcards(sought) if isinstance(sought, str) and has_marks(sought) else None
    sought = 0.0 if sought is None else sought
    index = None if wanted else line.index()
    if index:
        places = index.places(key_of(sought))
        if len(places):
            return int(places[0])
    for place, value in () if index else _along(line):
        if wanted and isinstance(value, str):
            if wanted.fit(value):
                return place
        elif type(value) is type(sought) and compared(value, sought) == 0:
            return place
    raise Failure(NA, f"{_said(sought)} {_NOT_THERE}")


def _nearest(sought: Value, line: Table, direction: int) -> int:
    """The last place in a sorted list whose value does not lie beyond what is sought."""
    if isinstance(sought, Error):
        raise Failure.of(sought)
    sought = 0.0 if sought is None else sought
    if index := line.index():
        spend(_ASKED)
        place = index.nearest(sought, direction)
        if place >= 0:
            return place
        raise Failure(NA, f"{_said(sought)} {_BEFORE}")
    last: int | None = None
    for place, value in _along(line):
        if type(value) is not type(sought):
            continue
        order = compared(value, sought)
        assert not isinstance(order, Error)
        if order * direction > 0:
            break
        last = place
    if last is None:
        raise Failure(NA, f"{_said(sought)} {_BEFORE}")
    return last


def _along(line: Table) -> Iterator[tuple[int, Value]]:
    """The places of a row or column that are not empty, with their values."""
    return ((max(column, row), value) for column, row, value in line.placed())


def _check_index(index: int, limit: int, what: str) -> None:
    if index < 1:
        raise Failure(VALUE, f"A {what} of a table is counted from 1.")
    if index > limit:
        raise Failure(REF, f"The table has no {what} {index}; it has {limit}.")


def _said(value: Value) -> str:
    return f"“{value}”" if isinstance(value, str) else "The value"
