"""Writing edits to the tables, each in the transaction of its action."""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from operator import itemgetter

from sqlalchemy import Connection, delete, insert, update
from sqlmodel import Session, col

from dreieck.core.grid import Lines
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.edits import (
    AddSheet,
    ArrangeSheet,
    DeleteLines,
    Edit,
    InsertLines,
    LookRun,
    RemoveSheet,
    Runs,
    SetCells,
    SetFeed,
    SetLocale,
    SetLooks,
    SetName,
    SetSeed,
    SetStated,
)
from dreieck.core.sheet.feed import Feed
from dreieck.core.sheet.stated import STANDS, Sort, Stated
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look_words import look_text
from dreieck.store.encoding import SERIES, stored_run
from dreieck.store.feeds import feed_said
from dreieck.store.layouts import layout_text
from dreieck.store.shapes import Shapes
from dreieck.store.stretches import NUMBERS, TEXTS, parted, together
from dreieck.store.tables import FeedRow, NameRow, SheetRow, StatedRow, WorkbookRow


def write(session: Session, workbook_id: int, edit: Edit, shapes: Shapes) -> None:
    """Write one edit that has been applied to the workbook."""
    match edit:
        case AddSheet():
            row = SheetRow(
                id=edit.sheet_id,
                workbook_id=workbook_id,
                name=edit.name,
                position=edit.position,
                layout=layout_text(edit.layout, shapes.number_of),
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
        case SetFeed():
            write_feed(session, workbook_id, edit.key, edit.feed)
        case SetStated():
            write_stated(session, workbook_id, edit.sort, edit.stated, shapes)
        case SetSeed():
            owned_by = update(WorkbookRow).where(col(WorkbookRow.id) == workbook_id)
            session.execute(owned_by.values(seed=edit.seed))
        case SetLocale():
            owned_by = update(WorkbookRow).where(col(WorkbookRow.id) == workbook_id)
            session.execute(owned_by.values(locale=edit.locale))
        case SetCells():
            _write_runs(session, edit.sheet_id, edit.runs, shapes)
        case SetLooks():
            for run in edit.looks:
                _write_look(session.connection(), edit.sheet_id, run)
        case InsertLines():
            _insert(session.connection(), edit.sheet_id, edit.lines)
            _write_runs(session, edit.sheet_id, edit.runs, shapes)
        case DeleteLines():
            _delete(session.connection(), edit.sheet_id, edit.lines)


def write_feed(session: Session, workbook_id: int, key: str, feed: Feed | None) -> None:
    """Write what is known of a feed, or that nothing is."""
    owned = (col(FeedRow.workbook_id) == workbook_id, col(FeedRow.key) == key)
    session.execute(delete(FeedRow).where(*owned))
    if feed:
        values = {"key": feed.key, "feed": json.dumps(feed_said(feed))}
        session.execute(insert(FeedRow).values(workbook_id=workbook_id, **values))


def write_stated(
    session: Session, workbook_id: int, sort: Sort, stated: Sequence[Stated], shapes: Shapes
) -> None:
    """Write the proofs or sweeps of a workbook, in place of those that it had."""
    owned = (col(StatedRow.workbook_id) == workbook_id, col(StatedRow.sort) == sort)
    session.execute(delete(StatedRow).where(*owned))
    rows = [
        {
            "workbook_id": workbook_id,
            "sort": sort,
            "position": position,
            "number": each.number,
            "shape": shapes.number_of(each.shape, STANDS),
        }
        for position, each in enumerate(stated)
    ]
    if rows:
        session.execute(insert(StatedRow), rows)


def write_sheets(session: Session, workbook: Workbook, shapes: Shapes) -> None:
    """Write the positions and the layouts of all sheets."""
    for position, sheet in enumerate(workbook.sheets):
        placed = update(SheetRow).where(col(SheetRow.id) == sheet.id)
        layout = layout_text(sheet.layout, shapes.number_of)
        session.execute(placed.values(position=position, layout=layout))


# Plain tuples to the driver, so that many runs are one statement.
PUT = """INSERT INTO run (sheet_id, "column", top, bottom, look, kind, number, text, shape)
    VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)"""
_HEAD = """SELECT top, bottom, kind, text FROM run WHERE sheet_id = ? AND "column" = ? AND top < ?
    ORDER BY top DESC LIMIT 1"""
# What counts on goes on from where it is cut.
_TAIL = """INSERT INTO run
    SELECT sheet_id, "column", ?, bottom, kind,
        CASE WHEN kind = ? THEN number + ? - top ELSE number END, text, shape, look FROM run
    WHERE sheet_id = ? AND "column" = ? AND top = ?"""
_CUT = """UPDATE run SET bottom = ? WHERE sheet_id = ? AND "column" = ? AND top = ?"""
_DATA = """UPDATE run SET text = ? WHERE sheet_id = ? AND "column" = ? AND top = ?"""
_TAKE = """DELETE FROM run WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ?"""


def _write_runs(session: Session, sheet_id: int, runs: Runs, shapes: Shapes) -> None:
    connection = session.connection()
    for column, top, bottom in _stretches(runs):
        _make_room(connection, sheet_id, column, top, bottom)
    put: list[tuple[object, ...]] = []
    for run in together(runs):
        look, content = look_text(run.look), stored_run(run, shapes.number_of)
        if content.kind != Kind.EMPTY or look is not None:
            put.append((sheet_id, run.column, run.top, run.bottom, look, *content))
    if put:
        connection.exec_driver_sql(PUT, put)


def _make_room(connection: Connection, sheet_id: int, column: int, top: int, bottom: int) -> None:
    """Take out what is stored in some rows; of runs that reach beyond them the rest stays."""
    for at in (top, bottom + 1):
        _split_column(connection, sheet_id, column, at)
    connection.exec_driver_sql(_TAKE, (sheet_id, column, top, bottom))


def _split_column(connection: Connection, sheet_id: int, column: int, at: int) -> None:
    """See that no run of a column reaches over the edge above a row."""
    ask, where = connection.exec_driver_sql, (sheet_id, column)
    found = ask(_HEAD, (*where, at)).first()
    if found and found.bottom >= at:
        ask(_TAIL, (at, SERIES, at, *where, found.top))
        ask(_CUT, (at - 1, *where, found.top))
        if found.kind in (NUMBERS, TEXTS):
            head, tail = parted(found.kind, found.text, at - found.top)
            ask(_DATA, (head, *where, found.top))
            ask(_DATA, (tail, *where, at))


_HELD = """SELECT top, bottom FROM run WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ?
    ORDER BY top"""
_DRESS = """UPDATE run SET look = ?
    WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ?"""
_UNDRESS = """DELETE FROM run
    WHERE sheet_id = ? AND "column" = ? AND top BETWEEN ? AND ? AND kind = ? AND look IS NULL"""


def _write_look(connection: Connection, sheet_id: int, run: LookRun) -> None:
    """Let rows of a column look otherwise; what they hold stays."""
    ask = connection.exec_driver_sql
    place = (sheet_id, run.column, run.top, run.bottom)
    look = look_text(run.look)
    for at in (run.top, run.bottom + 1):
        _split_column(connection, sheet_id, run.column, at)
    ask(_DRESS, (look, *place))
    if look is None:
        ask(_UNDRESS, (*place, Kind.EMPTY))
        return
    free = run.top
    put: list[tuple[object, ...]] = []
    for top, bottom in [*ask(_HELD, place), (run.bottom + 1, run.bottom)]:
        if free < top:
            put.append((sheet_id, run.column, free, top - 1, look, Kind.EMPTY, None, None, None))
        free = bottom + 1
    if put:
        ask(PUT, put)


_OVER = """SELECT "column" FROM run WHERE sheet_id = ? AND top < ? AND bottom >= ?"""
_GONE = {
    "row": "DELETE FROM run WHERE sheet_id = :sheet AND top BETWEEN :first AND :last",
    "column": """DELETE FROM run WHERE sheet_id = :sheet AND "column" BETWEEN :first AND :last""",
}
# Over negative numbers, since no key may stand twice even for a moment.
_SLIDE = {
    "row": (
        """UPDATE run SET top = -top - :steps, bottom = bottom + :steps
            WHERE sheet_id = :sheet AND top >= :at""",
        "UPDATE run SET top = -top WHERE sheet_id = :sheet AND top < 0",
    ),
    "column": (
        """UPDATE run SET "column" = -"column" - :steps
            WHERE sheet_id = :sheet AND "column" >= :at""",
        """UPDATE run SET "column" = -"column" WHERE sheet_id = :sheet AND "column" < 0""",
    ),
}


def _insert(connection: Connection, sheet_id: int, lines: Lines) -> None:
    _split(connection, sheet_id, lines, lines.first)
    _slide(connection, sheet_id, lines, lines.first, lines.count)


def _delete(connection: Connection, sheet_id: int, lines: Lines) -> None:
    for at in (lines.first, lines.last + 1):
        _split(connection, sheet_id, lines, at)
    gone = {"sheet": sheet_id, "first": lines.first, "last": lines.last}
    connection.exec_driver_sql(_GONE[lines.axis], gone)
    _slide(connection, sheet_id, lines, lines.last + 1, -lines.count)


def _split(connection: Connection, sheet_id: int, lines: Lines, at: int) -> None:
    """See that no run reaches over the edge above a row."""
    if lines.axis == "row":
        for (column,) in connection.exec_driver_sql(_OVER, (sheet_id, at, at)).fetchall():
            _split_column(connection, sheet_id, column, at)


def _slide(connection: Connection, sheet_id: int, lines: Lines, at: int, steps: int) -> None:
    """Move what is stored from a row or column on."""
    for statement in _SLIDE[lines.axis]:
        names = {"sheet": sheet_id, "at": at, "steps": steps}
        connection.exec_driver_sql(statement, names)


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
