"""Writing edits to the tables, each in the transaction of its action."""

from __future__ import annotations

import json
from collections.abc import Iterator
from operator import itemgetter

from sqlalchemy import Connection, delete, insert, update
from sqlmodel import Session, col

from dreieck.core.cells import Kind
from dreieck.core.edits import AddSheet, ArrangeSheet, Edit, RemoveSheet, Runs, SetCells, SetName
from dreieck.core.workbook import Workbook
from dreieck.store.encoding import look_text, stored_run
from dreieck.store.shapes import Shapes
from dreieck.store.tables import NameRow, SheetRow


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
            _write_runs(session, edit.sheet_id, edit.runs, shapes)
        case RemoveSheet():
            session.execute(delete(SheetRow).where(col(SheetRow.id) == edit.sheet_id))
        case ArrangeSheet():
            named = update(SheetRow).where(col(SheetRow.id) == edit.sheet_id)
            session.execute(named.values(name=edit.name))
        case SetName():
            owned = (col(NameRow.workbook_id) == workbook_id, col(NameRow.key) == edit.key)
            session.execute(delete(NameRow).where(*owned))
            if edit.named:
                number = shapes.number_of(edit.named.shape, edit.named.base)
                name = {"key": edit.named.key, "name": edit.named.name, "shape": number}
                session.execute(insert(NameRow).values(workbook_id=workbook_id, **name))
        case SetCells():
            _write_runs(session, edit.sheet_id, edit.runs, shapes)


def write_order(session: Session, workbook: Workbook) -> None:
    """Write the positions of all sheets."""
    for position, sheet in enumerate(workbook.sheets):
        placed = update(SheetRow).where(col(SheetRow.id) == sheet.id)
        session.execute(placed.values(position=position))


# Plain tuples to the driver, so that many runs are one statement.
_PUT = """INSERT INTO run (sheet_id, "column", top, bottom, look, kind, number, text, shape)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)"""
_HEAD = """SELECT top, bottom FROM run WHERE sheet_id = ? AND "column" = ? AND top < ?
    ORDER BY top DESC LIMIT 1"""
_LAST = """SELECT top, bottom FROM run WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ?
    ORDER BY top DESC LIMIT 1"""
_TAIL = """INSERT INTO run
    SELECT sheet_id, "column", ?, bottom, kind, number, text, shape, look FROM run
    WHERE sheet_id = ? AND "column" = ? AND top = ?"""
_CUT = """UPDATE run SET bottom = ? WHERE sheet_id = ? AND "column" = ? AND top = ?"""
_TAKE = """DELETE FROM run WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ?"""


def _write_runs(session: Session, sheet_id: int, runs: Runs, shapes: Shapes) -> None:
    connection = session.connection()
    for column, top, bottom in _stretches(runs):
        _make_room(connection, sheet_id, column, top, bottom)
    put: list[tuple[object, ...]] = []
    for run in runs:
        look, content = look_text(run.look), stored_run(run, shapes.number_of)
        if content.kind != Kind.EMPTY or look is not None:
            put.append((sheet_id, run.column, run.top, run.bottom, look, *content))
    if put:
        connection.exec_driver_sql(_PUT, put)


def _make_room(connection: Connection, sheet_id: int, column: int, top: int, bottom: int) -> None:
    """Take out what is stored in some rows; of runs that reach beyond them the rest stays."""
    ask = connection.exec_driver_sql
    where = (sheet_id, column)
    for query, limits in ((_HEAD, (top,)), (_LAST, (top, bottom))):
        found = ask(query, (*where, *limits)).first()
        if found and found.bottom > bottom:
            ask(_TAIL, (bottom + 1, *where, found.top))
        if found and found.top < top <= found.bottom:
            ask(_CUT, (top - 1, *where, found.top))
    ask(_TAKE, (*where, top, bottom))


def _stretches(runs: Runs) -> Iterator[tuple[int, int, int]]:
    """The rows of each column that the runs cover, those that touch each other taken together."""
    current: list[int] = []
    for run in sorted(runs, key=itemgetter(0, 1)):
        if current and run.column == current[0] and run.top == current[2] + 1:
            current[2] = run.bottom
            continue
        if current:
            yield current[0], current[1], current[2]
        current = [run.column, run.top, run.bottom]
    if current:
        yield current[0], current[1], current[2]
