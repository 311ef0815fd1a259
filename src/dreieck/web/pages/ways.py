"""The page of four ways: from a formula of a workbook, or from a small table of one's own."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Form, HTTPException, Query, Request
from pydantic import BaseModel, Field
from starlette.responses import RedirectResponse, Response

from dreieck.core.calculate import Calculation, block_at, look_of
from dreieck.core.checking.four_ways import Way, four_ways
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.editing.fill import plan_fill
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error
from dreieck.core.values.look import shown_text
from dreieck.store import OpenWorkbook, OutOfDate
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.colours import colour_of
from dreieck.web.navigation import Entry
from dreieck.web.turns import in_time
from dreieck.web.workbench.page_state import MAX_NUMBER

router = APIRouter(include_in_schema=False)
ENTRY = Entry(7, "ways", "Four ways", "/four-ways")

_COLUMNS, _ROWS = 8, 14
"""How much of a fill is shown."""
_TRIED_COLUMNS, _TRIED_ROWS = 40, 200
"""How much of a fill is worked out, four times."""
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
class Shown:
    """One way as it is shown: a table of texts with marks."""

    way: Way
    columns: list[str]
    rows: list[tuple[int, list[tuple[str, str]]]]


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
            shape = opened.workbook.read_entry(formula, start).content
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
def of_own_table(request: Request, form: TheForm) -> Response:
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
    context: dict[str, Any] = {"asked": asked, "ways": [], "tags": []}
    problem = ""
    try:
        context = in_time(lambda: _own_context(entries, asked))
    except DreieckError as error:
        problem = str(error)
    letters = [column_letters(number + 1) for number in range(OWN_COLUMNS)]
    own = {"entries": entries, "letters": letters, "rows": range(1, OWN_ROWS + 1)}
    return page(request, "ways.html", opened=None, sheet=None, own=own, problem=problem, **context)


def _own_context(entries: dict[str, str], asked: Asked) -> dict[str, Any]:
    workbook = typed_workbook({"Table": entries})
    sheet, start = workbook.sheets[0], Cell.parse(asked.cell)
    shape = sheet.content(start)
    if not isinstance(shape, Shape):
        raise DreieckError(f"{asked.cell} holds no formula that can be read.")
    target = Area.parse(asked.to)
    return _context(Calculation(workbook), sheet, start, shape, target, asked)


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
        "ways": [_shown(way, now, asked.view) for way in ways],
    }


def _shown(way: Way, now: Way, view: str) -> Shown:
    area = way.fill.target
    area = Area(
        area.left,
        area.top,
        min(area.right, area.left + _COLUMNS - 1),
        min(area.bottom, area.top + _ROWS - 1),
    )
    rows = [
        (row, [_cell(way, now, Cell(column, row), view) for column in _across(area)])
        for row in range(area.top, area.bottom + 1)
    ]
    return Shown(way, [column_letters(column) for column in _across(area)], rows)


def _across(area: Area) -> range:
    return range(area.left, area.right + 1)


def _cell(way: Way, now: Way, cell: Cell, view: str) -> tuple[str, str]:
    """The text and the marks of one landing."""
    text, value = _text(way, cell, view)
    marks = ["error"] if isinstance(value, Error) else []
    if cell == way.fill.source.first:
        marks.append("start")
    if way is not now and text != _text(now, cell, view)[0]:
        marks.append("differs")
    return text, " ".join(marks)


def _text(way: Way, cell: Cell, view: str) -> tuple[str, object]:
    content = way.sheet.content(cell)
    value = way.calculation.value(way.sheet.name, cell)
    if view == "formulas" and isinstance(content, Shape):
        return content.text(cell), value
    look, locale = look_of(content, way.sheet.look(cell)), way.calculation.workbook.locale
    return shown_text(value, look, 14, locale), value
