"""Functions that find cells: by place, by value, by address."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dreieck.core.address import column_letters
from dreieck.core.formula.printer import sheet_text
from dreieck.core.functions.registry import (
    Failure,
    Result,
    Takes,
    arg,
    function,
    optional,
    repeated,
)
from dreieck.core.functions.wildcards import wildcards
from dreieck.core.index import key_of
from dreieck.core.ranges import Range, Table
from dreieck.core.values import NA, REF, VALUE, Error, Value, compared

_SOUGHT = arg("sought", Takes.VALUE, "what is looked for")
_TABLE = arg("table", Takes.RANGE, "the table")
_SORTED = optional(
    "sorted", Takes.LOGICAL, "FALSE for the same value only; else the last one that is not larger"
)
_CELLS = arg("range", Takes.RANGE, "a range")
_HERE = optional("reference", Takes.PLACE, "a cell or range; this cell if left out")


@function(
    "MATCH",
    "6.14.9",
    "The place of a value in a row or column, counted from 1.",
    _SOUGHT,
    arg("list", Takes.RANGE, "one row or one column"),
    optional("kind", Takes.NUMBER, "0: the same value; 1: sorted upwards; -1: sorted downwards"),
    words="the place of {0} in {1}",
    example=('=MATCH("Cheese",A2:A5,0)', 4.0),
)
def _match(sought: Value, cells: Table, kind: float = 1.0) -> float:
    if cells.width > 1 and cells.height > 1:
        raise Failure(NA, "The list has to be one row or one column.")
    if kind == 0:
        return float(_exact(sought, cells) + 1)
    return float(_nearest(sought, cells, 1 if kind > 0 else -1) + 1)


@function(
    "VLOOKUP",
    "6.14.12",
    "Finds a value in the first column of a table and gives what stands beside it.",
    _SOUGHT,
    _TABLE,
    arg("column", Takes.WHOLE, "which column of the table, counted from 1"),
    _SORTED,
    words="what stands beside {0} in column {2} of {1}",
    example=('=VLOOKUP("Cheese",A2:D5,4,FALSE)', 14.5),
)
def _vlookup(sought: Value, table: Table, column: int, in_order: bool = True) -> Result:
    _check_index(column, table.width, "column")
    first = table.part(0, 0, 1, table.height)
    row = _nearest(sought, first, 1) if in_order else _exact(sought, first)
    return table.part(column - 1, row, 1, 1)


@function(
    "HLOOKUP",
    "6.14.5",
    "Finds a value in the first row of a table and gives what stands below it.",
    _SOUGHT,
    _TABLE,
    arg("row", Takes.WHOLE, "which row of the table, counted from 1"),
    _SORTED,
    words="what stands below {0} in row {2} of {1}",
    example=('=HLOOKUP("Weight",A1:D5,2,FALSE)', 50.4),
)
def _hlookup(sought: Value, table: Table, row: int, in_order: bool = True) -> Result:
    _check_index(row, table.height, "row")
    first = table.part(0, 0, table.width, 1)
    column = _nearest(sought, first, 1) if in_order else _exact(sought, first)
    return table.part(column, row - 1, 1, 1)


@function(
    "INDEX",
    "6.14.6",
    "The cell at a row and column of a range, counted from 1; 0 for all of them.",
    _CELLS,
    optional("row", Takes.WHOLE, "which row"),
    optional("column", Takes.WHOLE, "which column"),
    words="row {1}, column {2} of {0}",
    example=("=INDEX(A2:D5,4,4)", 14.5),
)
def _index(cells: Table, row: int = 0, column: int | None = None) -> Result:
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


@function(
    "CHOOSE",
    "6.14.3",
    "One of several values, by its number.",
    arg("number", Takes.WHOLE, "1 for the first value"),
    repeated("values", Takes.LATER, "the values to choose from"),
    words="number {0} of {*1}",
    example=('=CHOOSE(2,"low","middle","high")', "middle"),
)
def _choose(number: int, *values: Callable[[], Result]) -> Result:
    if not 1 <= number <= len(values):
        raise Failure(VALUE, f"There is no value number {number} of {len(values)}.")
    return values[number - 1]()


@function(
    "ROW",
    "6.13.29",
    "The number of a row.",
    _HERE,
    words="the row number of {0}",
    example=("=ROW(B7)", 7.0),
)
def _row(cells: Range) -> float:
    return float(cells.area.top)


@function(
    "COLUMN",
    "6.13.4",
    "The number of a column: A is 1.",
    _HERE,
    words="the column number of {0}",
    example=("=COLUMN(B7)", 2.0),
)
def _column(cells: Range) -> float:
    return float(cells.area.left)


@function(
    "ROWS",
    "6.13.30",
    "How many rows a range has.",
    arg("range", Takes.PLACE, "a range"),
    words="how many rows {0} has",
    example=("=ROWS(A2:D5)", 4.0),
)
def _rows(cells: Range) -> float:
    return float(cells.height)


@function(
    "COLUMNS",
    "6.13.5",
    "How many columns a range has.",
    arg("range", Takes.PLACE, "a range"),
    words="how many columns {0} has",
    example=("=COLUMNS(A2:D5)", 4.0),
)
def _columns(cells: Range) -> float:
    return float(cells.width)


@function(
    "ADDRESS",
    "6.14.2",
    "The address of a row and column, as text.",
    arg("row", Takes.WHOLE, "the row"),
    arg("column", Takes.WHOLE, "the column: 1 for A"),
    optional("locks", Takes.WHOLE, "1: both, 2: the row, 3: the column, 4: none"),
    optional("style", Takes.LOGICAL, "TRUE, since addresses have letters here"),
    optional("sheet", Takes.TEXT, "a sheet to name"),
    words="the address of row {0}, column {1}",
    example=("=ADDRESS(5,3,2)", "C$5"),
)
def _address(
    row: int, column: int, locks: int = 1, style: bool = True, sheet: str | None = None
) -> str:
    if not style:
        raise Failure(VALUE, "Addresses have letters here; leave the style out.")
    if not (1 <= column <= 18_278 and 1 <= row <= 1_000_000) or locks not in (1, 2, 3, 4):
        raise Failure(VALUE, "There is no such cell, or no such kind of locks.")
    text = "$" * (locks in (1, 3)) + column_letters(column) + "$" * (locks in (1, 2)) + str(row)
    if sheet is None:
        return text
    return f"{sheet_text(sheet)}!{text}"


@function(
    "OFFSET",
    "6.14.11",
    "A range so many rows and columns away from another.",
    arg("reference", Takes.PLACE, "where to begin"),
    arg("rows", Takes.WHOLE, "how far down"),
    arg("columns", Takes.WHOLE, "how far to the right"),
    optional("height", Takes.WHOLE, "how many rows; as many as before if left out"),
    optional("width", Takes.WHOLE, "how many columns"),
    words="the cells {1} rows and {2} columns away from {0}",
    example=("=OFFSET(A1,1,3)", 0.95),
)
def _offset(
    cells: Range, rows: int, columns: int, height: int | None = None, width: int | None = None
) -> Result:
    height = cells.height if height is None else height
    width = cells.width if width is None else width
    if height < 1 or width < 1:
        raise Failure(VALUE, "A range has at least one row and one column.")
    try:
        return cells.part(columns, rows, width, height)
    except IndexError:
        raise Failure(REF, "The cells would lie off the sheet.") from None


@function(
    "INDIRECT",
    "6.14.7",
    "The cells that an address in a text names.",
    arg("address", Takes.ADDRESS, "a text such as Loads!B4"),
    optional("style", Takes.LOGICAL, "TRUE, since addresses have letters here"),
    words="the cells at the address {0}",
    example=('=INDIRECT("B"&2)', 50.4),
)
def _indirect(cells: Range | Error, style: bool = True) -> Result:
    if not style:
        raise Failure(VALUE, "Addresses have letters here; leave the style out.")
    return cells


def _exact(sought: Value, line: Table) -> int:
    """The first place in a row or column that holds the same value; wildcards count."""
    if isinstance(sought, Error):
        raise Failure(sought.code, sought.why, sought.origin)
    wanted = wildcards(sought) if isinstance(sought, str) else None
    sought = 0.0 if sought is None else sought
    index = None if wanted else line.index()
    if index:
        places = index.places(key_of(sought))
        if len(places):
            return int(places[0])
    for place, value in () if index else _along(line):
        if wanted and isinstance(value, str):
            if wanted.fit(value.casefold()):
                return place
        elif type(value) is type(sought) and compared(value, sought) == 0:
            return place
    raise Failure(NA, f"{_said(sought)} is not in the list.")


def _nearest(sought: Value, line: Table, direction: int) -> int:
    """The last place in a sorted list whose value does not lie beyond what is sought."""
    if isinstance(sought, Error):
        raise Failure(sought.code, sought.why, sought.origin)
    sought = 0.0 if sought is None else sought
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
        raise Failure(NA, f"{_said(sought)} lies before the first value of the list.")
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
