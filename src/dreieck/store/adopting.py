"""Taking in a workbook that was made elsewhere: from a file, or a copy of another one.

It is written in parts, so that others can write between, and shown when it is whole.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from itertools import islice
from typing import Any

from sqlalchemy import delete, update
from sqlmodel import Session, col, insert

from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Run
from dreieck.core.sheet.stated import SORTS
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look_words import look_text
from dreieck.store.database import Database
from dreieck.store.encoding import stored_run
from dreieck.store.layouts import layout_text
from dreieck.store.shapes import Shapes
from dreieck.store.stretches import together
from dreieck.store.tables import NOBODY, ArrivalRow, NameRow, SheetRow, WorkbookRow
from dreieck.store.told_history import ToldHistory, changes_of
from dreieck.store.writing import PUT, write_feed, write_stated

_BATCH = 20_000
Advance = Callable[[float], None]


def adopt(
    database: Database,
    workbook: Workbook,
    name: str,
    *,
    report: str = "",
    history: object = None,
    advance: Advance = lambda share: None,
    owner: int = NOBODY,
) -> tuple[int, bool]:
    """Keep a workbook under a name; its number, and whether its history could be kept.

    ``report`` tells what else the file held that it came with. ``advance`` is told how far it is,
    and may raise to give it up.
    """
    database.check_there()
    total = max(sum(len(sheet) for sheet in workbook.sheets), 1)
    with database.session() as session:
        row = WorkbookRow(
            name=name, locale=workbook.locale, seed=workbook.seed, is_coming=True, owner=owner
        )
        session.add(row)
        session.commit()
        assert row.id is not None
        id = row.id
    try:
        with database.session() as session:
            numbers = [
                _add_sheet(session, id, sheet.name, position)
                for position, sheet in enumerate(workbook.sheets)
            ]
            session.commit()
        shapes = Shapes(id)
        kept = 0
        for sheet, number in zip(workbook.sheets, numbers, strict=True):
            for batch in _batches(_rows(sheet.all_runs(), number, shapes)):
                with database.session() as session:
                    session.connection().exec_driver_sql(PUT, batch)
                    session.commit()
                kept += len(batch)
                advance(min(kept / total, 1.0))
        _finish(database, id, workbook, numbers, shapes, report)
        told = _keep_history(database, id, workbook, numbers, shapes, history)
        with database.session() as session:
            found = session.get(WorkbookRow, id)
            assert found is not None
            found.is_coming = False
            session.commit()
    except BaseException:
        with database.session() as session:
            session.execute(delete(WorkbookRow).where(col(WorkbookRow.id) == id))
            session.commit()
        raise
    return id, told


def forget_coming(session: Session) -> None:
    """Give up workbooks that were on their way when the server stopped."""
    session.execute(delete(WorkbookRow).where(col(WorkbookRow.is_coming)))
    session.commit()


def _add_sheet(session: Session, workbook_id: int, name: str, position: int) -> int:
    row = SheetRow(workbook_id=workbook_id, name=name, position=position)
    session.add(row)
    session.flush()
    assert row.id is not None
    return row.id


def _rows(runs: Iterable[Run], sheet_id: int, shapes: Shapes) -> Iterator[tuple[Any, ...]]:
    for run in together(runs):
        content = stored_run(run, shapes.number_of)
        look = look_text(run.look)
        if content.kind != Kind.EMPTY or look is not None:
            yield (sheet_id, run.column, run.top, run.bottom, look, *content)


def _batches(rows: Iterator[tuple[Any, ...]]) -> Iterator[list[tuple[Any, ...]]]:
    while batch := list(islice(rows, _BATCH)):
        yield batch


def _finish(
    database: Database,
    id: int,
    workbook: Workbook,
    numbers: list[int],
    shapes: Shapes,
    report: str,
) -> None:
    """Names, feeds, proofs, sweeps, layouts, shapes, and what came with it."""
    with database.session() as session:
        for sheet, number in zip(workbook.sheets, numbers, strict=True):
            layout = layout_text(sheet.layout, shapes.number_of)
            laid_out = update(SheetRow).where(col(SheetRow.id) == number)
            session.execute(laid_out.values(layout=layout))
        for each in workbook.names.values():
            shape = shapes.number_of(each.shape, each.base)
            values = {"key": each.key, "name": each.name, "shape": shape}
            session.execute(insert(NameRow).values(workbook_id=id, **values))
        for key, feed in workbook.feeds.items():
            write_feed(session, id, key, feed)
        for sort in SORTS:
            write_stated(session, id, sort, workbook.stated(sort), shapes)
        if report:
            session.add(ArrivalRow(workbook_id=id, report=report))
        shapes.write_new(session)
        session.commit()
    shapes.written()


def _keep_history(
    database: Database,
    id: int,
    workbook: Workbook,
    numbers: list[int],
    shapes: Shapes,
    history: object,
) -> bool:
    """Keep the changes that can be taken back, if they lead to this workbook."""
    if history is None:
        return True
    with database.session() as session:

        def new_sheet() -> int:
            number = _add_sheet(session, id, "", 0)
            session.execute(delete(SheetRow).where(col(SheetRow.id) == number))
            return number

        told = ToldHistory.of(history)
        if told is None:
            return False
        changes = changes_of(told, workbook, numbers, new_sheet, shapes)
        if changes is None:
            return False
        session.add_all([each.row(id) for each in changes])
        found = session.get(WorkbookRow, id)
        assert found is not None
        found.done = told.done
        shapes.write_new(session)
        session.commit()
    shapes.written()
    return True
