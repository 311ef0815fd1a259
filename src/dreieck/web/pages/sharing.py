"""Links to a workbook for others: to read it, or to copy it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Query, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet.sheet import Sheet
from dreieck.store import Library, OpenWorkbook, Share
from dreieck.web.answers import (
    TheGroups,
    TheLibrary,
    ThePeople,
    TheWorkbook,
    WorkbookNumber,
    page,
)
from dreieck.web.pages.printing import Asked, on_paper
from dreieck.web.turns import in_time

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class Shared:
    """A workbook of somebody else that is read: what is said of it, its sheets, its ways on."""

    says: str
    sheets: list[Sheet]
    copy: str = ""
    back: str = ""


def read_page(
    request: Request, opened: OpenWorkbook, asked: Asked, sheet: int, shared: Shared
) -> Response:
    """A workbook to read: one of its sheets, as it prints."""
    with opened.lock:
        shown = sheet or opened.last_sheet().id
        return in_time(
            lambda: page(request, "print.html", shared=shared, **on_paper(opened, shown, asked))
        )


@router.get("/workbooks/{workbook_id}/share")
def share(request: Request, opened: TheWorkbook, groups: TheGroups, people: ThePeople) -> Response:
    """The links to one's workbook."""
    return page(request, "share.html", opened=opened, shares=groups.shares(opened.id))


@router.post("/workbooks/{workbook_id}/share")
def make_link(
    workbook_id: WorkbookNumber,
    opened: TheWorkbook,
    groups: TheGroups,
    people: ThePeople,
    may: Annotated[str, Form(max_length=20)] = "read",
) -> Response:
    """Make a link to one's workbook, or end all of them."""
    if may == "nothing":
        groups.withdraw(opened.id)
    else:
        groups.share(opened.id, may_copy=may == "copy")
    return RedirectResponse(f"/workbooks/{workbook_id}/share", 303)


def _shared(groups: TheGroups, token: str) -> Share:
    try:
        return groups.shared(token)
    except KeyError:
        raise HTTPException(404, "This link leads nowhere any more.") from None


@router.get("/shared/{token}")
def read(
    request: Request,
    token: str,
    groups: TheGroups,
    people: ThePeople,
    asked: Annotated[Asked, Query()],
    sheet: Annotated[int, Query(ge=0, lt=2**63)] = 0,
) -> Response:
    """A workbook that was shared, to read."""
    share = _shared(groups, token)
    opened = everybodys(request).open(share.workbook)
    owner = people.person(everybodys(request).owner(share.workbook))
    says = f"shared by {owner.name if owner else 'somebody'}"
    copy = f"/shared/{token}/copy" if share.may_copy else ""
    shown = Shared(f"{says} to {'copy' if copy else 'read'}", opened.workbook.sheets, copy)
    return read_page(request, opened, asked, sheet, shown)


@router.post("/shared/{token}/copy")
def copy(
    request: Request, token: str, groups: TheGroups, people: ThePeople, library: TheLibrary
) -> Response:
    """Copy a workbook that was shared so to one's own."""
    share = _shared(groups, token)
    if not share.may_copy:
        raise HTTPException(403, "This workbook was shared to be read, not to be copied.")
    opened = everybodys(request).open(share.workbook)
    try:
        made = library.copy_of(opened, opened.workbook.name)
    except DreieckError as refusal:
        raise HTTPException(422, str(refusal)) from None
    return RedirectResponse(f"/workbooks/{made}", 303)


def everybodys(request: Request) -> Library:
    """The library with the workbooks of all; what is taken from it has to be shared."""
    library: Library = request.app.state.library
    return library
