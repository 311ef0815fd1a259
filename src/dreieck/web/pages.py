"""What all pages share: templates, the library, answers."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated, Any

from fastapi import Depends, HTTPException, Request
from fastapi.templating import Jinja2Templates
from starlette.responses import Response

from dreieck.core.address import Area
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet import Sheet
from dreieck.store import Library, OpenWorkbook
from dreieck.web.drawn import Drawn

templates = Jinja2Templates(directory=Path(__file__).parent / "templates")
templates.env.trim_blocks = True
templates.env.lstrip_blocks = True


def sheet_and_area(opened: OpenWorkbook, sheet_id: int, area: str) -> tuple[Sheet, Area]:
    """The sheet and the area that the address of a page names; hold the lock of the workbook."""
    try:
        return opened.workbook.sheet_by_id(sheet_id), Area.parse(area)
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None


def page(request: Request, name: str, **context: Any) -> Response:
    """A rendered template as an answer."""
    return templates.TemplateResponse(request, name, context)


def fragment(name: str, **context: Any) -> str:
    """A rendered template as text."""
    return templates.get_template(name).render(context)


def _library(request: Request) -> Library:
    library: Library = request.app.state.library
    return library


TheLibrary = Annotated[Library, Depends(_library)]


def _drawn(request: Request) -> Drawn:
    drawn: Drawn = request.app.state.drawn
    return drawn


TheDrawn = Annotated[Drawn, Depends(_drawn)]


def _workbook(workbook_id: int, library: TheLibrary) -> OpenWorkbook:
    try:
        return library.open(workbook_id)
    except KeyError:
        raise HTTPException(404, "There is no such workbook; it may have been deleted.") from None


TheWorkbook = Annotated[OpenWorkbook, Depends(_workbook)]
