"""The page of four ways: from a formula of a workbook, or from a small table of one's own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Form, HTTPException, Query, Request
from pydantic import BaseModel, Field
from starlette.responses import RedirectResponse, Response

from dreieck.core.calculate import Calculation, block_at, text_at
from dreieck.core.checking.four_ways import Way, four_ways
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.fill import plan_fill
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference, reads_on
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error
from dreieck.store import OpenWorkbook, OutOfDate
from dreieck.web.answers import BesideWorkbook, TheForm, TheWorkbook, page, whole_number
from dreieck.web.colours import colour_of
from dreieck.web.navigation import Entry
from dreieck.web.turns import in_time
from dreieck.web.workbench.page_state import MAX_NUMBER

router = APIRouter(include_in_schema=False)
ENTRY = Entry(7, "ways", "Four ways", "/four-ways?of={workbook}")

_COLUMNS, _ROWS = 9, 15
"""How much of a fill is shown."""
_BESIDE = 4
"""So many columns or rows beside a fill are drawn, too."""
_TRIED_COLUMNS, _TRIED_ROWS = 40, 200
"""How much of a fill is worked out, four times."""
_ROOM = 14
OWN_COLUMNS, OWN_ROWS = 6, 7
OWN_TABLE = {
    "A1": "Item", "B1": "kg a night", "C1": "Kestrel", "D1": "Larch", "E1": "Scree",
    "A2": "Nights", "C2": "420", "D2": "280", "E2": "315",
    "A3": "Flour", "B3": "0.12", "A4": "Lentils", "B4": "0.08", "A5": "Potatoes", "B5": "0.3",
    "C3": "=B3*C2",
}  # fmt: skip
"""The table that learners begin with."""


class Asked(BaseModel):
    """The start, the area that is filled, the reference that is chosen, and what is shown."""

    cell: str = "C3"
    to: str = ""
    reference: int = Field(0, ge=0, le=MAX_NUMBER)
    view: str = "values"


@dataclass(frozen=True)
class GridCell:
    """A cell of a way: what it shows, how it looks, and of a landing what it reads.

    ``frame`` tells where that is drawn: its left, upper, right and lower edge, counted in
    columns and rows of the picture, and which of them are locked.
    """

    at: str
    text: str
    marks: str
    reads: str = ""
    frame: str = ""


@dataclass(frozen=True)
class Shown:
    """One way as it is shown: a small grid with its headings."""

    way: Way
    columns: list[str]
    rows: list[tuple[int, list[GridCell]]]


AskedQuery = Annotated[Asked, Query()]


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/four-ways")
def of_workbook(
    request: Request, opened: TheWorkbook, sheet_id: int, asked: AskedQuery
) -> Response:
    """Four ways to lock a reference of a formula that is kept in a workbook."""
    with opened.lock:
        return in_time(lambda: _workbook_page(request, opened, sheet_id, asked))


@router.post("/workbooks/{workbook_id}/sheets/{sheet_id}/four-ways")
def take(
    request: Request,
    opened: TheWorkbook,
    sheet_id: int,
    cell: Annotated[str, Form()],
    to: Annotated[str, Form()],
    formula: Annotated[str, Form()],
    revision: Annotated[int, Form(ge=-1, le=MAX_NUMBER)] = -1,
) -> Response:
    """Take one way back to the sheet: fill its area with its formula."""
    with opened.lock:
        try:
            sheet, start = opened.workbook.sheet_by_id(sheet_id), Cell.parse(cell)
            shape = read_entry(formula, start).content
            if not isinstance(shape, Shape):
                raise DreieckError("This is no formula.")
            source = Area.of(start)
            target = Area.parse(to).around(source)
            fill = plan_fill(opened.workbook, sheet.id, source, target, {start: shape})
            opened.change(f"fill of {to}", [fill.edit()], revision)
        except OutOfDate as error:
            return _workbook_page(
                request, opened, sheet_id, Asked(cell=cell, to=to, reference=0), str(error)
            )
        except DreieckError as error:
            raise HTTPException(422, str(error)) from None
    return RedirectResponse(f"/workbooks/{opened.id}/sheets/{sheet_id}?at={start.text}", 303)


def _workbook_page(
    request: Request, opened: OpenWorkbook, sheet_id: int, asked: Asked, problem: str = ""
) -> Response:
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
        block = block_at(sheet, Cell.parse(asked.cell))
        if block is None:
            raise DreieckError(f"{asked.cell} holds no formula. Choose a cell with one.")
        target = Area.parse(asked.to) if asked.to else block.area
        context = _context(opened.calculation, sheet, block.start, block.shape, target, asked)
    except DreieckError as error:
        raise HTTPException(404, str(error)) from None
    return page(
        request, "ways.html", opened=opened, sheet=sheet, own=None, problem=problem, **context
    )


@router.get("/four-ways")
@router.post("/four-ways")
def of_own_table(request: Request, form: TheForm, beside: BesideWorkbook) -> Response:
    """Four ways for a small table that is typed on the page."""
    given = {key: str(text)[:200] for key, text in form.items()}
    entries = OWN_TABLE if not given else {
        cell.text: given.get(cell.text, "")
        for cell in Area(1, 1, OWN_COLUMNS, OWN_ROWS).cells()
        if given.get(cell.text)
    }  # fmt: skip
    if given.get("take"):
        entries = {**entries, given.get("cell", "C3").upper(): given["take"]}
    asked = Asked(
        cell=given.get("cell") or "C3",
        to=given.get("to") or "C3:E5",
        reference=max(whole_number(form, "reference"), 0),
        view=given.get("view") or "values",
    )
    shown, context, problem = in_time(lambda: _own_table(entries, asked))
    letters = [column_letters(number + 1) for number in range(OWN_COLUMNS)]
    own = {
        "entries": entries, "letters": letters, "rows": range(1, OWN_ROWS + 1),
        "shown": {at: text for at, (text, _) in shown.items()},
        "numbers": {at for at, (_, is_number) in shown.items() if is_number},
    }  # fmt: skip
    return page(
        request, "ways.html", opened=None, sheet=None, own=own, problem=problem, beside=beside,
        **context,
    )  # fmt: skip


def _own_table(
    entries: dict[str, str], asked: Asked
) -> tuple[dict[str, tuple[str, bool]], dict[str, Any], str]:
    """What the cells of one's own table show, and whether that is a number; the four ways.

    Where there are none, why there are none.
    """
    workbook = typed_workbook({"Table": entries})
    calculation, sheet = Calculation(workbook), workbook.sheets[0]
    values = {at: calculation.value(sheet.name, Cell.parse(at)) for at in entries}
    shown = {
        at: (text_at(calculation, sheet, Cell.parse(at), _ROOM), isinstance(value, float))
        for at, value in values.items()
    }
    try:
        start = Cell.parse(asked.cell)
        shape = sheet.content(start)
        if not isinstance(shape, Shape):
            raise DreieckError(f"{asked.cell} holds no formula that can be read.")
        target = Area.parse(asked.to)
        return shown, _context(calculation, sheet, start, shape, target, asked), ""
    except DreieckError as error:
        return shown, {"asked": asked, "ways": [], "tags": []}, str(error)


def _context(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area, asked: Asked
) -> dict[str, Any]:
    """What the page shows: the ways, and the references to choose from."""
    if not shape.references:
        raise DreieckError("This formula has no reference that could be locked.")
    letter = min(asked.reference, len(shape.distinct) - 1)
    tried = target._replace(
        right=min(target.right, target.left + _TRIED_COLUMNS),
        bottom=min(target.bottom, target.top + _TRIED_ROWS),
    )
    ways = four_ways(calculation, sheet, start, shape, tried, shape.distinct[letter])
    now = next((way for way in ways if way.is_now), ways[0])
    return {
        "asked": asked.model_copy(update={"to": target.text, "reference": letter}),
        "start": start,
        "formula": shape.text(start),
        "colour": colour_of(letter),
        "tags": [tag(each) for each in range(len(shape.distinct))],
        "ways": [_shown(way, now, asked.view, shape.distinct[letter]) for way in ways],
    }


def _shown(way: Way, now: Way, view: str, number: int) -> Shown:
    area = _in_view(way)
    rows = [
        (row, [_cell(way, now, Cell(column, row), view, area, number) for column in _across(area)])
        for row in range(area.top, area.bottom + 1)
    ]
    columns = [column_letters(column) for column in _across(area)]
    return Shown(way, columns, rows)


def _in_view(way: Way) -> Area:
    """What is drawn: the landings with their headings, and what the start reads if it is near."""
    start, target = way.fill.source.first, way.fill.target
    shape = way.sheet.content(start)
    around = target
    if isinstance(shape, Shape):
        for reference in shape.references:
            read = reference.area(start)
            if read and reads_on(reference, way.sheet.name):
                around = around.around(read)
    left, top = max(around.left - 1, 1), max(around.top - 1, 1)
    whole = Area(left, top, around.right, around.bottom)
    is_near = whole.width - target.width <= _BESIDE and whole.height - target.height <= _BESIDE
    area = whole if is_near else target
    return Area(
        area.left, area.top, min(area.right, area.left + _COLUMNS - 1),
        min(area.bottom, area.top + _ROWS - 1),
    )  # fmt: skip


def _across(area: Area) -> range:
    return range(area.left, area.right + 1)


def _cell(way: Way, now: Way, cell: Cell, view: str, in_view: Area, number: int) -> GridCell:
    """One cell of a way."""
    text, value = _text(way, cell, view)
    is_landing = way.fill.target.holds(cell)
    marks = ["number" if isinstance(value, float) else "text"]
    role = way.sheet.look(cell).role
    if role in ("heading", "title", "input"):
        marks.append(role)
    if isinstance(value, Error):
        marks.append("error")
    if cell == way.fill.source.first:
        marks.append("start")
    if is_landing and way is not now and text != _text(now, cell, view)[0]:
        marks.append("differs")
    content = way.sheet.content(cell)
    if not is_landing or not isinstance(content, Shape) or number >= len(content.references):
        return GridCell(cell.text, text, " ".join(marks))
    reference = content.references[number]
    return GridCell(
        cell.text, text, " ".join([*marks, "landing"]), _read(way, reference, cell),
        _frame(way, reference, cell, in_view),
    )  # fmt: skip


def _read(way: Way, reference: Reference, cell: Cell) -> str:
    """What a landing reads, in words."""
    area = reference.area(cell)
    if area is None:
        return f"{cell.text} reads nothing: it falls off the sheet"
    written = reference_text(reference, cell)
    if area.size > 1 or not reads_on(reference, way.sheet.name):
        return f"{cell.text} reads {written}"
    return f"{cell.text} reads {written}: {_text(way, area.first, 'values')[0] or 'empty'}"


def _frame(way: Way, reference: Reference, cell: Cell, in_view: Area) -> str:
    """Where what a landing reads is drawn, and which of its edges are locked."""
    area = reference.area(cell)
    shown = area.common(in_view) if area and reads_on(reference, way.sheet.name) else None
    if shown is None:
        return ""
    first, last = reference.corners(cell)[0], reference.corners(cell)[-1]
    edges = (shown.left - in_view.left, shown.top - in_view.top,
             shown.right - in_view.left + 1, shown.bottom - in_view.top + 1)  # fmt: skip
    locked = (first.column, first.row, last.column, last.row)
    return " ".join(map(str, (*edges, *map(int, locked))))


def _text(way: Way, cell: Cell, view: str) -> tuple[str, object]:
    content = way.sheet.content(cell)
    value = way.calculation.value(way.sheet.name, cell)
    if view == "formulas" and isinstance(content, Shape):
        return content.text(cell), value
    return text_at(way.calculation, way.sheet, cell, _ROOM), value
