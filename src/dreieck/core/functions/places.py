"""Functions of where cells stand: rows, columns, sheets, addresses."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.formula.printer import sheet_text
from dreieck.core.functions.registry import (
    Failure,
    Result,
    Takes,
    Trait,
    arg,
    at_once,
    function,
    optional,
)
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, column_letters
from dreieck.core.ranges.operands import Array, Range, Table
from dreieck.core.sheet.cells import Cells, Payload
from dreieck.core.values import NA, REF, VALUE

_HERE = optional("reference", Takes.PLACE, "a cell or range; this cell if left out", "this cell")
_OWN_PLACE = (Trait.HERE, Trait.TELLS_PLACE, Trait.MOVES_ALONG)
_ELSEWHERE = (Trait.READS_ELSEWHERE, Trait.MOVES_ALONG, Trait.REFERS)


@function(
    "ROW",
    "6.13.29",
    "The number of a row.",
    _HERE,
    words="the row number of {0}",
    example=("=ROW(B7)", 7.0),
    traits=_OWN_PLACE,
)
def _row(here: Range, cells: Range | None = None) -> Result:
    area = (cells or here).area
    return _counted(area.top, area.height, down=True)


@at_once("ROW")
def _row_in_rows(rows: Payload) -> Payload:
    return rows


def _counted(first: int, count: int, *, down: bool) -> Result:
    """Numbers from the first on; where one value is needed, that is the first one."""
    if count == 1:
        return float(first)
    spend(count // AT_ONCE)
    cells = Cells.numbers(np.arange(first, first + count, dtype=np.float64))
    return Array(cells, 1, count) if down else Array(cells, count, 1)


@function(
    "COLUMN",
    "6.13.4",
    "The number of a column: A is 1.",
    _HERE,
    words="the column number of {0}",
    example=("=COLUMN(B7)", 2.0),
    traits=_OWN_PLACE,
)
def _column(here: Range, cells: Range | None = None) -> Result:
    area = (cells or here).area
    return _counted(area.left, area.width, down=False)


@function(
    "ROWS",
    "6.13.30",
    "How many rows a range has.",
    arg("range", Takes.PLACE, "a range"),
    words="how many rows {0} has",
    example=("=ROWS(A2:D5)", 4.0),
    traits=(Trait.TELLS_PLACE,),
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
    traits=(Trait.TELLS_PLACE,),
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
    optional("style", Takes.LOGICAL, "FALSE for addresses by number, such as R5C3 or R5C[3]"),
    optional("sheet", Takes.TEXT, "a sheet to name"),
    words="the address of row {0}, column {1}",
    example=("=ADDRESS(5,3,2)", "C$5"),
)
def _address(
    row: int, column: int, locks: int = 1, style: bool = True, sheet: str | None = None
) -> str:
    if not (1 <= column <= MAX_COLUMN and 1 <= row <= MAX_ROW) or locks not in (1, 2, 3, 4):
        raise Failure(VALUE, "There is no such cell, or no such kind of locks.")
    row_stays, column_stays = locks in (1, 2), locks in (1, 3)
    if style:
        text = "$" * column_stays + column_letters(column) + "$" * row_stays + str(row)
    else:
        rows = str(row) if row_stays else f"[{row}]"
        text = f"R{rows}C{column if column_stays else f'[{column}]'}"
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
    traits=_ELSEWHERE,
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
    optional("style", Takes.LOGICAL, "FALSE for addresses by number, such as R4C2 or R[-1]C"),
    words="the cells at the address {0}",
    example=('=INDIRECT("B"&2)', 50.4),
    traits=_ELSEWHERE,
)
def _indirect(read: Callable[..., Result], style: bool = True) -> Result:
    return read(by_number=not style)


@function(
    "AREAS",
    "6.13.2",
    "How many ranges there are in several joined by ~.",
    arg("ranges", Takes.AREAS, "a range, or several joined by ~"),
    words="how many ranges there are in {0}",
    example=("=AREAS(A2:B3~D2:D5)", 2.0),
    traits=(Trait.TELLS_PLACE,),
)
def _areas(areas: list[Table]) -> float:
    return float(len(areas))


@function(
    "SHEET",
    "6.13.31",
    "The number of a sheet, counted from 1.",
    optional("sheet", Takes.LATER, "a reference or a sheet's name; this one if left out", "here"),
    words="the number of the sheet of {0}",
    example=("=SHEET()", 1.0),
    traits=(Trait.HERE, Trait.TELLS_PLACE),
)
def _sheet(here: Range, asked: Callable[[], Result] | None = None) -> float:
    found = asked() if asked else here
    name = found.sheet if isinstance(found, Range) else found
    if not isinstance(name, str):
        raise Failure(VALUE, "A reference or the name of a sheet is needed.")
    names = [sheet.name.casefold() for sheet in here.reader.workbook.sheets]
    if name.casefold() not in names:
        raise Failure(NA, f"There is no sheet “{name[:60]}”.")
    return float(names.index(name.casefold()) + 1)


@function(
    "SHEETS",
    "6.13.32",
    "How many sheets there are.",
    optional("reference", Takes.PLACE, "a range, which lies on one sheet", "the workbook"),
    words="how many sheets {0} has",
    example=("=SHEETS()", 1.0),
    traits=(Trait.HERE, Trait.TELLS_PLACE),
)
def _sheets(here: Range, cells: Range | None = None) -> float:
    return 1.0 if cells else float(len(here.reader.workbook.sheets))
