"""The finder beside the grid: what is found, and what replacing it would come to."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice
from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request
from starlette.responses import Response

from dreieck.core.editing.searching import alike, found, replaced
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.grid import Cell
from dreieck.core.values import Place
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.workbench.actions.finding import Sought

router = APIRouter(include_in_schema=False)

_LISTED = 200


@dataclass(frozen=True)
class Line:
    """What was found: its place, what stands there, and what would stand there instead."""

    place: str
    text: str
    after: str = ""
    problem: str = ""


class Asked(Sought):
    """What the finder asks for: ``preview`` with replacements, ``like`` formulas like a cell's."""

    preview: bool = False
    like: str = ""


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/find")
def finder(request: Request, opened: TheWorkbook, sheet_id: int) -> Response:
    """The finder, with nothing found yet."""
    return page(request, "finder.html", opened=opened, sheet_id=sheet_id)


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/found")
def list_found(
    request: Request, opened: TheWorkbook, sheet_id: int, asked: Annotated[Asked, Query()]
) -> Response:
    """What is found."""
    try:
        with opened.lock:
            lines = _lines(opened, sheet_id, asked)
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None
    return page(
        request, "found.html", lines=lines[:_LISTED], count=len(lines), preview=asked.preview
    )


def _lines(opened: OpenWorkbook, sheet_id: int, asked: Asked) -> list[Line]:
    if asked.like:
        return _alike(opened, sheet_id, asked.like)
    places = asked.places(opened, sheet_id)
    if not asked.preview:
        hits = found(opened.calculation, places, asked.search)
        return [Line(_place(hit.sheet.name, hit.cell), hit.text) for hit in hits]
    made = replaced(opened.calculation, places, asked.search, asked.replacement)
    return [
        Line(_place(each.sheet.name, each.cell), each.before, each.after, each.problem)
        for each in made.cells
    ]


def _alike(opened: OpenWorkbook, sheet_id: int, address: str) -> list[Line]:
    shape = opened.workbook.sheet_by_id(sheet_id).content(Cell.parse(address))
    if not isinstance(shape, Shape):
        raise DreieckError(f"{address} holds no formula. Select one to find those like it.")
    return [
        Line(area_text(area, sheet.name), shape.text(area.first))
        for sheet, area in islice(alike(opened.workbook, shape), _LISTED + 1)
    ]


def _place(sheet: str, cell: Cell) -> str:
    return place_text(Place(sheet, cell))
