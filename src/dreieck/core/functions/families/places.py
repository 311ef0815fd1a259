"""Functions of where cells stand: rows, columns, sheets, addresses."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.formula.printer import sheet_text
from dreieck.core.functions.record import Result
from dreieck.core.functions.registry import Failure, at_once, function
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, column_letters
from dreieck.core.ranges.operands import Array, Range, Table
from dreieck.core.sheet.cells import Cells, Payload
from dreieck.core.values import NA, REF, VALUE


@function("ROW")
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


@function("COLUMN")
def _column(here: Range, cells: Range | None = None) -> Result:
    area = (cells or here).area
    return _counted(area.left, area.width, down=False)


@function("HERE")
def _here(here: Range, cells: Range) -> Result:
    cell = cells.level_with(here.area.first)
    if cell is None:
        raise Failure(VALUE, f"{cells.area.text} has no cell that is level with this one.")
    return Range(cells.reader, cells.sheet, Area.of(cell))


@function("FAN")
def _fan(cell: Range) -> Result:
    start = cell.area.first
    area = cell.reader.fan(cell.sheet, start)
    return Range(cell.reader, cell.sheet, area or Area.of(start))


@function("ROWS")
def _rows(cells: Table) -> float:
    return float(cells.height)


@function("COLUMNS")
def _columns(cells: Table) -> float:
    return float(cells.width)


@function("ADDRESS")
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


@function("OFFSET")
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


@function("INDIRECT")
def _indirect(read: Callable[..., Result], style: bool = True) -> Result:
    return read(by_number=not style)


@function("AREAS")
def _areas(areas: list[Table]) -> float:
    return float(len(areas))


@function("SHEET")
def _sheet(here: Range, asked: Callable[[], Result] | None = None) -> float:
    found = asked() if asked else here
    name = found.sheet if isinstance(found, Range) else found
    if not isinstance(name, str):
        raise Failure(VALUE, "A reference or the name of a sheet is needed.")
    names = [sheet.name.casefold() for sheet in here.reader.workbook.sheets]
    if name.casefold() not in names:
        raise Failure(NA, f"There is no sheet “{name[:60]}”.")
    return float(names.index(name.casefold()) + 1)


@function("SHEETS")
def _sheets(here: Range, cells: Range | None = None) -> float:
    return 1.0 if cells else float(len(here.reader.workbook.sheets))
