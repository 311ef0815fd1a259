"""Reading a whole workbook from the data file, in bulk."""

from __future__ import annotations

import json
from itertools import groupby
from operator import itemgetter
from typing import Any

import numpy as np
from sqlmodel import Session, col, select

from dreieck.core.sheet.cells import Cells, Kind, Pool, encoded, pooled
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.series import Counted
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import SORTS
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look_words import look_of
from dreieck.store.encoding import SERIES, Stored, content_of
from dreieck.store.feeds import feed_of
from dreieck.store.layouts import layout_of
from dreieck.store.shapes import Shapes
from dreieck.store.stretches import NUMBERS, TEXTS
from dreieck.store.tables import FeedRow, NameRow, SheetRow, StatedRow, WorkbookRow


def read_workbook(session: Session, row: WorkbookRow, shapes: Shapes) -> Workbook:
    """The workbook of a row, with all its sheets and cells; ``shapes`` learns its shapes."""
    assert row.id is not None
    shapes.read(session)
    workbook = Workbook(row.name)
    workbook.seed, workbook.locale = row.seed, row.locale
    owned = select(SheetRow).where(SheetRow.workbook_id == row.id).order_by(col(SheetRow.position))
    for sheet_row in session.exec(owned):
        workbook.sheets.append(_read_sheet(session, sheet_row, shapes))
    for name in session.exec(select(NameRow).where(NameRow.workbook_id == row.id)):
        workbook.names[name.key] = Named(name.name, shapes.shape_of(name.shape))
    for known in session.exec(select(FeedRow).where(FeedRow.workbook_id == row.id)):
        if feed := feed_of(json.loads(known.feed)):
            workbook.feeds[known.key] = feed
    for sort, made in SORTS.items():
        kept = select(StatedRow).where(StatedRow.workbook_id == row.id, StatedRow.sort == sort)
        stated = session.exec(kept.order_by(col(StatedRow.position)))
        found = (made(each.number, shapes.shape_of(each.shape)) for each in stated)
        setattr(workbook, sort, tuple(found))
    return workbook


_TOLD = (Kind.TEXT, Kind.UNREADABLE, Kind.FORMULA, SERIES, NUMBERS, TEXTS)
"""The kinds of which more is told than a number."""
_RUNS = """SELECT "column", top, bottom, kind, number, text, shape, look FROM run
    WHERE sheet_id = ? ORDER BY "column", top"""


def _read_sheet(session: Session, row: SheetRow, shapes: Shapes) -> Sheet:
    assert row.id is not None
    sheet = Sheet(row.id, row.name)
    sheet.layout = layout_of(json.loads(row.layout), shapes.shape_of)
    rows = session.connection().exec_driver_sql(_RUNS, (row.id,)).fetchall()
    for column, runs in groupby(rows, key=itemgetter(0)):
        _read_column(sheet, column, list(runs), shapes)
    return sheet


def _read_column(sheet: Sheet, column: int, runs: list[Any], shapes: Shapes) -> None:
    """Put all runs of a column into a sheet, those that touch each other at once."""
    _, tops, bottoms, kinds, numbers, texts, numbered, looks = zip(*runs, strict=True)
    pool = Pool()
    payload = np.array([number or 0.0 for number in numbers], np.float64)
    many: list[tuple[int, Counted | Cells]] = []
    for index in np.flatnonzero(np.isin(kinds, _TOLD)).tolist():
        said = Stored(kinds[index], numbers[index], texts[index], numbered[index])
        content = content_of(said, shapes.shape_of)
        if isinstance(content, Counted | Cells):
            many.append((index, content))
        else:
            payload[index] = encoded(content, pool)[1]
    first, last = np.array(tops), np.array(bottoms)
    lengths = last - first + 1
    all_kinds, all_payload = (
        np.repeat(np.array(kinds, np.uint8), lengths),
        np.repeat(payload, lengths),
    )
    cuts = np.flatnonzero(first[1:] != last[:-1] + 1) + 1
    begins = np.concatenate(([0], np.cumsum(lengths)))
    for index, content in many:
        rows = slice(int(begins[index]), int(begins[index + 1]))
        cells = content if isinstance(content, Cells) else content.cells(rows.stop - rows.start)
        all_kinds[rows], all_payload[rows] = cells.kinds, pooled(cells, pool)
    for start, end in zip([0, *cuts.tolist()], [*cuts.tolist(), len(tops)], strict=True):
        rows = slice(int(begins[start]), int(begins[end]))
        sheet.put_cells(column, tops[start], Cells(all_kinds[rows], all_payload[rows], pool))
    for top, bottom, look in zip(tops, bottoms, looks, strict=True):
        if look is not None:
            sheet.dress(column, top, bottom, look_of(look))
