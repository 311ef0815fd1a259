"""The dialog that puts rows in order: by which columns, and what would come of it."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice
from typing import Annotated

from fastapi import APIRouter, Query, Request
from starlette.responses import Response

from dreieck.core.calculate import text_at
from dreieck.core.editing.ordering import (
    MAX_KEYS,
    Ordered,
    Stray,
    has_headings,
    rows_of,
    table_of,
)
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import sheet_text
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed
from dreieck.core.words.headings import heading_above
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page, sheet_and_area
from dreieck.web.workbench.actions.ordering import Order, in_order

router = APIRouter(include_in_schema=False)
_MAX_COLUMNS = 200
_ROWS, _COLUMNS, _STRAYS = 8, 5, 6
_ROOM = 20


@dataclass(frozen=True)
class Preview:
    """What ordering would come to: the first rows, and the formulas that stray."""

    moved: int
    rows: list[tuple[int, list[str]]]
    letters: list[str]
    strays: list[tuple[str, Stray]]
    more: int
    problem: str = ""


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/order")
def dialog(request: Request, opened: TheWorkbook, sheet_id: int, area: str) -> Response:
    """By which columns the rows of an area can be ordered."""
    with opened.lock:
        sheet, selected = sheet_and_area(opened, sheet_id, area)
        table = table_of(sheet, selected)
        headed = has_headings(opened.calculation, sheet, table)
        rows = rows_of(sheet, table, headed=headed)
        numbers = range(rows.left, min(rows.right + 1, rows.left + _MAX_COLUMNS))
        columns = {
            column_letters(number): heading_above(sheet, Cell(number, rows.top)) or ""
            for number in numbers
        }
    first = column_letters(selected.left)
    return page(
        request, "order.html", opened=opened, sheet=sheet, table=table, rows=rows, headed=headed,
        columns=columns, keys=range(1, MAX_KEYS + 1), first=first,
    )  # fmt: skip


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/ordered")
def preview(
    request: Request, opened: TheWorkbook, sheet_id: int, wish: Annotated[Order, Query()]
) -> Response:
    """What ordering rows would come to."""
    with opened.lock:
        sheet, _ = sheet_and_area(opened, sheet_id, wish.table)
        try:
            rows, made = in_order(opened, sheet, wish)
            found = _preview(opened, sheet, rows, made)
        except DreieckError as refusal:
            found = Preview(0, [], [], [], 0, str(refusal))
    return page(request, "ordered.html", preview=found)


def _preview(opened: OpenWorkbook, sheet: Sheet, rows: Area, made: Ordered) -> Preview:
    columns = range(rows.left, min(rows.right + 1, rows.left + _COLUMNS))
    shown = [
        (row, [text_at(opened.calculation, sheet, Cell(column, row), _ROOM) for column in columns])
        for row in islice(made.rows, _ROWS)
    ]
    strays = [(_where(sheet, each), each) for each in made.strays[:_STRAYS]]
    more = sum(area.size for each in made.strays[_STRAYS:] for area in each.areas)
    return Preview(made.moved, shown, [column_letters(n) for n in columns], strays, more)


def _where(sheet: Sheet, stray: Stray) -> str:
    """Where the formulas stand, with their sheet if that is another one."""
    where = listed(stray.areas)
    return where if stray.sheet == sheet.name else f"{sheet_text(stray.sheet)}!{where}"
