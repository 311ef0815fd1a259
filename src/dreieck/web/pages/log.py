"""The whole shift log of a block: every landing and every reference, filtered, as page and CSV."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice
from typing import Annotated, Literal
from urllib.parse import urlencode

from fastapi import APIRouter, HTTPException, Query, Request
from pydantic import BaseModel, Field
from starlette.responses import Response, StreamingResponse

from dreieck.core.analysis.reads import read_names
from dreieck.core.budget import current
from dreieck.core.calculate import Block, block_at, text_at
from dreieck.core.checking.findings import Finding
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.reference import Locks, Reference
from dreieck.core.formula.shift import Shift, shifts_by_letter, tag
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell, column_number
from dreieck.core.grid.areas import cells_of
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.headings import heading_of
from dreieck.core.words.held import held_said
from dreieck.core.words.reading import by_position
from dreieck.files.delimited.writing import guarded
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.colours import colour_of
from dreieck.web.shift_picture import arrows
from dreieck.web.turns import RequestBudget, in_time
from dreieck.web.workbench.finding_cache import findings_of
from dreieck.web.workbench.findings_shown import States, states_of

router = APIRouter(include_in_schema=False)

PAGE = 60
"""How many landings are shown at once; more come as one scrolls."""
_BEFORE = 4
"""So many landings before the one that is asked for are shown, too."""
_ROOM = 40
MAX_ROWS = 1_000_000


class Asked(BaseModel):
    """Which block, and which part of its log; ``line`` is a row number or a column letter.

    ``first`` is the number of the landing that it begins with; below 0 a few before the cell.
    """

    cell: str = "A1"
    reference: int = Field(-1, ge=-1)
    state: Literal["", "sound", "doubt", "broken"] = ""
    line: str = Field("", max_length=8)
    first: int = Field(-1, ge=-1, le=MAX_COLUMN * MAX_ROW)

    @property
    def filter(self) -> str:
        """Which part of the log this is, as it stands in an address."""
        return urlencode(self.model_dump(exclude={"first"}))


@dataclass(frozen=True)
class Line:
    """One reference in one landing."""

    landing: str
    state: str
    value: str
    shift: Shift
    colour: int
    moved: str
    locked: str
    reads: str
    read_value: str


AskedQuery = Annotated[Asked, Query()]


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/log")
def log(request: Request, opened: TheWorkbook, sheet_id: int, asked: AskedQuery) -> Response:
    """The page of the log, or only its next rows."""
    with opened.lock:
        return in_time(lambda: _page(request, opened, sheet_id, asked))


def _page(request: Request, opened: OpenWorkbook, sheet_id: int, asked: Asked) -> Response:
    sheet, block, findings = block_of(opened, sheet_id, asked.cell)
    first = asked.first if asked.first >= 0 else _near(block, asked)
    states = states_of(opened.calculation, sheet.name, block.parts, findings)
    landings = list(islice(landings_of(block, states, asked, first), PAGE))
    lines = [
        line
        for cell in landings
        for line in lines_of(opened, sheet, block, states, cell, asked.reference)
    ]
    more = first + PAGE if len(landings) == PAGE else 0
    name = "log_rows.html" if request.headers.get("hx-request") else "log.html"
    return page(
        request, name, opened=opened, sheet=sheet, block=block, asked=asked, lines=lines,
        first=first, more=more, filter=asked.filter, names=names_of(opened, block),
        hurried=current().hurried,
        arrows=arrows(sheet, block) if name == "log.html" else [],
        tags=[tag(letter) for letter in range(len(block.shape.distinct))],
    )  # fmt: skip


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/log.csv")
def log_csv(opened: TheWorkbook, sheet_id: int, asked: AskedQuery) -> Response:
    """The log as CSV, with the same filters."""
    with opened.lock:
        sheet, block, findings = block_of(opened, sheet_id, asked.cell)
        states = states_of(opened.calculation, sheet.name, block.parts, findings)
    if isinstance(budget := current(), RequestBudget):
        budget.go_on()
    name = f"shift-log-{block.start.text}.csv"
    return StreamingResponse(
        _csv(opened, sheet, block, states, asked),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


def _csv(
    opened: OpenWorkbook, sheet: Sheet, block: Block, states: States, asked: Asked
) -> Iterator[str]:
    yield (
        "landing,state,value,reference,start,here,columns,rows,column locked,row locked,reads,"
        "read value\r\n"
    )
    for cell in islice(landings_of(block, states, asked), MAX_ROWS):
        out = io.StringIO()
        writer = csv.writer(out)
        with opened.lock:
            for line in lines_of(opened, sheet, block, states, cell, asked.reference):
                shift = line.shift
                writer.writerow([
                    line.landing, line.state, guarded(line.value), shift.tag, shift.start,
                    shift.here, shift.columns, shift.rows, shift.column_locked, shift.row_locked,
                    guarded(line.reads), guarded(line.read_value),
                ])  # fmt: skip
        yield out.getvalue()


def names_of(opened: OpenWorkbook, block: Block) -> list[tuple[str, str]]:
    """The names that a block uses, each in one line: what does not move, and what does."""
    found = []
    for key in dict.fromkeys(name.casefold() for name in read_names(block.shape)):
        named = opened.workbook.names.get(key)
        if named is None:
            found.append((key, "stands for nothing here"))
        elif named.kind == "formula by position":
            words = by_position(opened.workbook, named.shape, named.base)
            found.append((named.name, f"moves along: {words}"))
        else:
            found.append((named.name, f"stays: {named.shape_text}"))
    return found


def block_of(
    opened: OpenWorkbook, sheet_id: int, cell: str, what: str = "log"
) -> tuple[Sheet, Block, tuple[Finding, ...]]:
    """The block that a cell belongs to, with its findings; ``what`` is asked of it."""
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
        block = block_at(sheet, Cell.parse(cell))
    except DreieckError as error:
        raise HTTPException(404, str(error)) from None
    if block is None:
        raise HTTPException(404, f"{cell} holds no formula, so there is no {what} of it.")
    return sheet, block, findings_of(opened, sheet, block)


def landings_of(block: Block, states: States, asked: Asked, first: int = 0) -> Iterator[Cell]:
    """The landings that are asked for, in reading order, without so many ``first`` ones."""
    area = _limited(block.area, asked.line)
    if area is None:
        return
    if not asked.state and len(block.parts) == 1:
        # The landings before need not be walked through.
        rows, first = divmod(first, area.width)
        if rows >= area.height:
            return
        area = area._replace(top=area.top + rows)
    yield from islice(_landings(block, states, asked, area), first, None)


def _near(block: Block, asked: Asked) -> int:
    """The number of the landing with which the log begins, so that the cell asked for is seen."""
    cell, area = Cell.parse(asked.cell), block.area
    if asked.state or asked.line or cell == block.start:
        return 0
    above = area._replace(bottom=cell.row - 1) if cell.row > area.top else None
    before = Area(area.left, cell.row, cell.column, cell.row)
    passed = sum(
        shared.size
        for part in block.parts
        for each in (above, before)
        if each and (shared := part.common(each))
    )
    return max(passed - 1 - _BEFORE, 0)


def _landings(block: Block, states: States, asked: Asked, area: Area) -> Iterator[Cell]:
    if asked.state in ("doubt", "broken"):
        marked = (*states.broken, *states.doubted)
        areas = tuple(part for each in marked if (part := each.common(area)))
        cells: Iterator[Cell] = iter(
            sorted(dict.fromkeys(cells_of(areas)), key=lambda cell: (cell.row, cell.column))
        )
    else:
        cells = area.cells()
    for cell in cells:
        if block.holds(cell) and (not asked.state or states.of_cell(cell) == asked.state):
            yield cell


def _limited(area: Area, line: str) -> Area | None:
    """The area, or its one row or column that is asked for."""
    line = line.strip()
    if line.isdecimal():
        return area.common(Area(area.left, int(line), area.right, int(line)))
    if line.isalpha() and line.isascii():
        number = column_number(line)
        return area.common(Area(number, area.top, number, area.bottom))
    return area


def lines_of(
    opened: OpenWorkbook,
    sheet: Sheet,
    block: Block,
    states: States,
    cell: Cell,
    reference: int,
) -> Iterator[Line]:
    value = text_at(opened.calculation, sheet, cell, _ROOM) or "empty"
    state = states.of_cell(cell)
    for letter, shift in enumerate(shifts_by_letter(block.shape, block.start, cell)):
        if reference not in (-1, letter):
            continue
        reads, read_value = _reads(opened, sheet, shift.reference, cell)
        yield Line(
            cell.text, state, value, shift, colour_of(letter), _moved(shift), _locked(shift),
            reads, read_value,
        )  # fmt: skip


def _reads(opened: OpenWorkbook, home: Sheet, reference: Reference, cell: Cell) -> tuple[str, str]:
    """What a landing reads in the headings of the sheet, and the value that stands there."""
    area = reference.area(cell)
    name = reference.sheet or home.name
    if area is None or not opened.workbook.has_sheet(name):
        return "nothing", "#REF!"
    sheet = opened.workbook.sheet(name)
    if area.size > 1:
        return heading_of(sheet, area) or area.text, held_said(opened.calculation, name, area)
    value = text_at(opened.calculation, sheet, area.first, _ROOM) or "empty"
    return heading_of(sheet, area) or area.text, value


def _moved(shift: Shift) -> str:
    """How far a reference moved; each corner by itself where they differ."""
    each = [_distance(corner.columns, corner.rows) for corner in shift.corners]
    return each[0] if len(set(each)) == 1 else f"first corner {each[0]}, last {each[-1]}"


def _distance(columns: int, rows: int) -> str:
    parts = []
    if columns:
        parts.append(f"{abs(columns)} {'right' if columns > 0 else 'left'}")
    if rows:
        parts.append(f"{abs(rows)} {'down' if rows > 0 else 'up'}")
    return " and ".join(parts) or "stays"


def _locked(shift: Shift) -> str:
    """Which parts are locked; of each corner by itself where they differ."""
    each = [_LOCKED[corner.locks] for corner in shift.corners]
    return each[0] if len(set(each)) == 1 else f"first corner {each[0]}, last {each[-1]}"


_LOCKED = {
    Locks(True, True): "column and row",
    Locks(True, False): "column",
    Locks(False, True): "row",
    Locks(False, False): "nothing",
}
