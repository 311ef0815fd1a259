"""Workbooks on their way out: as files of any format, as copies, and what they came with."""

from __future__ import annotations

import json
from dataclasses import dataclass
from typing import Annotated, Any
from urllib.parse import quote

from fastapi import APIRouter, Form, HTTPException, Query, Request
from pydantic import BaseModel
from starlette.responses import Response

from dreieck.core.budget import current
from dreieck.core.exceptions import DreieckError
from dreieck.files import FORMATS, Wish, Written, write
from dreieck.files.format import Format
from dreieck.files.formats import written_ones
from dreieck.files.progress import Within
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheLibrary, TheWorkbook, WorkbookNumber, page
from dreieck.web.turns import RequestBudget

router = APIRouter(include_in_schema=False)


class Asked(BaseModel):
    """What is written: a sheet by its number, formulas instead of values, with the history."""

    sheet: int = 0
    formulas: bool = False
    as_it_is: bool = False
    history: bool = False


@dataclass(frozen=True)
class Arrival:
    """What a workbook came with."""

    name: str
    left_out: list[str]
    compared: int
    differing: int
    differences: list[tuple[str, str, str, str, str, str]]


@router.get("/workbooks/{workbook_id}/files")
def ask(request: Request, opened: TheWorkbook, sheet: Annotated[int, Query()] = 0) -> Response:
    """The dialog of all formats."""
    with opened.lock:
        found = [each for each in opened.workbook.sheets if each.id == sheet]
        shown = found[0] if found else opened.last_sheet()
        arrival = arrival_of(opened)
    told: dict[str, Any] = {"sheet": shown, "formats": written_ones(), "arrival": arrival}
    return page(request, "files.html", opened=opened, **told)


@router.get("/workbooks/{workbook_id}/files/{name}")
def download(opened: TheWorkbook, name: str, asked: Annotated[Asked, Query()]) -> Response:
    """A workbook, or a sheet of it, as a file."""
    known = FORMATS.get(name)
    if known is None or known.write is None:
        raise HTTPException(404, "There is no such format.")
    with opened.lock:
        try:
            made = _written(opened, known, asked)
        except DreieckError as refusal:
            raise HTTPException(422, str(refusal)) from None
        called = opened.workbook.name
    file = f"{called}{known.ending}"
    plain = "".join(c if c.isascii() and (c.isalnum() or c in "-_. ") else "_" for c in file)
    starred = f"filename*=UTF-8''{quote(file)}"
    return Response(
        made.data,
        media_type=known.media_type,
        headers={"Content-Disposition": f'attachment; filename="{plain}"; {starred}'},
    )


def _written(opened: OpenWorkbook, format: Format, asked: Asked) -> Written:
    sheet = opened.workbook.sheet_by_id(asked.sheet) if asked.sheet else None
    history: dict[str, Any] | None = opened.told_history() if asked.history else None
    wish = Wish(sheet, asked.formulas, not asked.as_it_is, history)
    if isinstance(budget := current(), RequestBudget):
        # A large workbook takes longer than a page may.
        budget.go_on()
    return write(opened.calculation, format, wish, Within())


@router.post("/workbooks/{workbook_id}/copy")
def copy(
    library: TheLibrary,
    workbook_id: WorkbookNumber,
    name: Annotated[str, Form(max_length=10_000)] = "",
) -> Response:
    """Save a workbook as another one, with its history, and open that."""
    try:
        made = library.copy(workbook_id, name, history=True)
    except KeyError:
        raise HTTPException(404, "This workbook has been deleted in the meantime.") from None
    except DreieckError as refusal:
        raise HTTPException(422, str(refusal)) from None
    return Response(headers={"HX-Redirect": f"/workbooks/{made}"})


@router.get("/workbooks/{workbook_id}/arrival")
def arrival(request: Request, opened: TheWorkbook) -> Response:
    """What the file held that a workbook came with, and how its values compared."""
    with opened.lock:
        found = arrival_of(opened)
    if found is None:
        raise HTTPException(404, "This workbook did not come with a file.")
    sheets = {sheet.name: sheet.id for sheet in opened.workbook.sheets}
    return page(request, "arrival.html", opened=opened, arrival=found, sheets=sheets)


def arrival_of(opened: OpenWorkbook) -> Arrival | None:
    """What a workbook came with; None where it was made here."""
    report = opened.arrival()
    if not report:
        return None
    told = json.loads(report)
    return Arrival(
        told["name"],
        told["left_out"],
        told.get("compared", 0),
        told.get("differing", 0),
        [tuple(each) for each in told.get("differences", [])],
    )
