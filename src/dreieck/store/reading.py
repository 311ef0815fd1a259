"""Reading a whole workbook from the data file, in bulk."""

from __future__ import annotations

import json
from functools import cache

from sqlmodel import Session, col, select

from dreieck.core.address import Cell
from dreieck.core.sheet import Sheet
from dreieck.core.workbook import Workbook
from dreieck.store.encoding import Stored, content_of, look_of
from dreieck.store.shapes import Shapes
from dreieck.store.tables import CellRow, SheetRow, WorkbookRow


def read_workbook(session: Session, row: WorkbookRow, shapes: Shapes) -> Workbook:
    """The workbook of a row, with all its sheets and cells; ``shapes`` learns its shapes."""
    assert row.id is not None
    shapes.read(session)
    workbook = Workbook(row.name)
    owned = select(SheetRow).where(SheetRow.workbook_id == row.id).order_by(col(SheetRow.position))
    for sheet_row in session.exec(owned):
        workbook.sheets.append(_read_sheet(session, sheet_row, shapes))
    return workbook


def _read_sheet(session: Session, row: SheetRow, shapes: Shapes) -> Sheet:
    assert row.id is not None
    sheet = Sheet(row.id, row.name)
    sheet.widths = {int(column): width for column, width in json.loads(row.widths).items()}
    look = cache(look_of)
    cells = select(  # type: ignore[call-overload]  # overloads end at four columns
        CellRow.column,
        CellRow.row,
        CellRow.look,
        CellRow.kind,
        CellRow.number,
        CellRow.text,
        CellRow.shape,
    ).where(CellRow.sheet_id == row.id)
    for column, line, look_text, *content in session.exec(cells):
        sheet.put(
            Cell(column, line), content_of(Stored(*content), shapes.shape_of), look(look_text)
        )
    return sheet
