"""Writing edits to the tables, each in the transaction of its action."""

from __future__ import annotations

import json

from sqlalchemy import delete, update
from sqlmodel import Session, col

from dreieck.core.edits import AddSheet, ArrangeSheet, Cells, Edit, RemoveSheet, SetCells
from dreieck.core.workbook import Workbook
from dreieck.store.encoding import Kind, runs
from dreieck.store.shapes import Shapes
from dreieck.store.tables import SheetRow


def write(session: Session, workbook_id: int, edit: Edit, shapes: Shapes) -> None:
    """Write one edit that has been applied to the workbook."""
    match edit:
        case AddSheet():
            row = SheetRow(
                id=edit.sheet_id,
                workbook_id=workbook_id,
                name=edit.name,
                position=edit.position,
                widths=json.dumps(edit.widths),
            )
            session.add(row)
            session.flush()
            _write_cells(session, edit.sheet_id, edit.cells, shapes)
        case RemoveSheet():
            session.execute(delete(SheetRow).where(col(SheetRow.id) == edit.sheet_id))
        case ArrangeSheet():
            named = update(SheetRow).where(col(SheetRow.id) == edit.sheet_id)
            session.execute(named.values(name=edit.name))
        case SetCells():
            _write_cells(session, edit.sheet_id, edit.cells, shapes)


def write_order(session: Session, workbook: Workbook) -> None:
    """Write the positions of all sheets."""
    for position, sheet in enumerate(workbook.sheets):
        placed = update(SheetRow).where(col(SheetRow.id) == sheet.id)
        session.execute(placed.values(position=position))


# Plain tuples to the driver: a fill of many thousand cells is one statement.
_PUT = """INSERT OR REPLACE INTO cell (sheet_id, "column", row, look, kind, number, text, shape)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?)"""
_TAKE = """DELETE FROM cell WHERE sheet_id = ? AND "column" = ? AND row = ?"""


def _write_cells(session: Session, sheet_id: int, cells: Cells, shapes: Shapes) -> None:
    connection = session.connection()
    put: list[tuple[object, ...]] = []
    taken: list[tuple[object, ...]] = []
    for run in runs(cells, shapes.number_of):
        rows = range(run.top, run.bottom + 1)
        if run.content.kind == Kind.EMPTY and run.look is None:
            taken.extend((sheet_id, run.column, row) for row in rows)
        else:
            rest = (run.look, *run.content)
            put.extend((sheet_id, run.column, row, *rest) for row in rows)
    if put:
        connection.exec_driver_sql(_PUT, put)
    if taken:
        connection.exec_driver_sql(_TAKE, taken)
