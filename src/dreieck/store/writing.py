"""Writing edits to the tables, each in the transaction of its action."""

from __future__ import annotations

import json
from collections.abc import Iterator

from sqlalchemy import delete, insert, update
from sqlmodel import Session, col

from dreieck.core.edits import AddSheet, ArrangeSheet, Cells, Edit, RemoveSheet, SetCells
from dreieck.core.workbook import Workbook
from dreieck.store.encoding import look_text, stored
from dreieck.store.shapes import Shapes
from dreieck.store.tables import CellRow, SheetRow


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


def _write_cells(session: Session, sheet_id: int, cells: Cells, shapes: Shapes) -> None:
    rows = list(_rows(sheet_id, cells, shapes))
    if rows:
        session.execute(insert(CellRow).prefix_with("OR REPLACE"), rows)


def _rows(sheet_id: int, cells: Cells, shapes: Shapes) -> Iterator[dict[str, object]]:
    for cell, (content, look) in cells.items():
        yield {
            "sheet_id": sheet_id,
            "column": cell.column,
            "row": cell.row,
            "look": look_text(look),
            **stored(content, cell, shapes.number_of)._asdict(),
        }
