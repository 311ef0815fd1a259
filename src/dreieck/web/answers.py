"""What all pages share: templates, the library, answers."""

from __future__ import annotations

import re
from contextlib import suppress
from pathlib import Path
from typing import Annotated, Any

from fastapi import Depends, HTTPException, Query, Request
from fastapi import Path as PathParameter
from fastapi.templating import Jinja2Templates
from jinja2.environment import create_cache
from starlette.datastructures import FormData
from starlette.responses import Response

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import many
from dreieck.store import NOBODY, Groups, Library, OpenWorkbook, People, Person, Practised
from dreieck.web.static_files import address, modules
from dreieck.web.tagged import tagged, with_formulas

templates = Jinja2Templates(directory=Path(__file__).parent / "templates")
# Templates stay as they are, and are found without a lock that all requests would share.
templates.env.auto_reload = False
templates.env.cache = create_cache(-1)
templates.env.trim_blocks = True
templates.env.lstrip_blocks = True
templates.env.globals["many"] = many
templates.env.globals["static"] = address
templates.env.globals["modules"] = modules
templates.env.filters["grouped"] = "{:,}".format
templates.env.filters["tagged"] = tagged
templates.env.filters["with_formulas"] = with_formulas


def sheet_and_area(opened: OpenWorkbook, sheet_id: int, area: str) -> tuple[Sheet, Area]:
    """The sheet and the area that the address of a page names; hold the lock of the workbook.

    Raises HTTPException where there are no such cells.
    """
    try:
        return opened.workbook.sheet_by_id(sheet_id), Area.parse(area)
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None


async def _form(request: Request) -> FormData:
    return await request.form()


TheForm = Annotated[FormData, Depends(_form)]
"""The fields of a form whose names are not known beforehand."""


def whole_number(form: FormData, name: str) -> int:
    """A number that a form tells; -1 where it tells none."""
    text = str(form.get(name, ""))
    return int(text) if re.fullmatch("[0-9]{1,15}", text) else -1


def page(request: Request, name: str, *, status_code: int = 200, **context: Any) -> Response:
    """A rendered template as an answer."""
    return templates.TemplateResponse(request, name, context, status_code=status_code)


def fragment(name: str, **context: Any) -> str:
    """A rendered template as text."""
    return templates.get_template(name).render(context)


def signed_in(request: Request) -> Person | None:
    """Who is signed in, where people are."""
    person: Person | None = getattr(request.state, "person", None)
    return person


def _person(request: Request) -> int:
    person = signed_in(request)
    return person.id if person else NOBODY


ThePerson = Annotated[int, Depends(_person)]
"""The number of who asks; where nobody signs in there is only one."""


def _library(request: Request, person: ThePerson) -> Library:
    library: Library = request.app.state.library
    return library.seen_by(person) if request.app.state.people else library


TheLibrary = Annotated[Library, Depends(_library)]
"""The workbooks of who asks: there are no others for them."""


def _practised(request: Request) -> Practised:
    practised: Practised = request.app.state.practised
    return practised


ThePractised = Annotated[Practised, Depends(_practised)]


def _people(request: Request) -> People:
    people: People | None = request.app.state.people
    if people is None:
        raise HTTPException(
            404, "Nobody signs in here. Start Dreieck with --people to keep people apart."
        )
    return people


ThePeople = Annotated[People, Depends(_people)]
"""Who may sign in; pages that ask for it are there only where people do."""


def _groups(request: Request, people: ThePeople) -> Groups:
    groups: Groups = request.app.state.groups
    return groups


TheGroups = Annotated[Groups, Depends(_groups)]

RowNumber = Annotated[int, PathParameter(ge=0, lt=2**63)]
"""A number in an address by which something is kept."""
WorkbookNumber = RowNumber


def _workbook(workbook_id: WorkbookNumber, library: TheLibrary) -> OpenWorkbook:
    try:
        return library.open(workbook_id)
    except KeyError:
        raise HTTPException(404, "There is no such workbook; it may have been deleted.") from None


TheWorkbook = Annotated[OpenWorkbook, Depends(_workbook)]


def _beside(library: TheLibrary, of: Annotated[int, Query(ge=0, lt=2**63)] = 0) -> Any:
    with suppress(KeyError):
        return library.open(of) if of else None
    return None


BesideWorkbook = Annotated[OpenWorkbook | None, Depends(_beside)]
"""The workbook that a page of its own was reached from, whose bar it shows."""
