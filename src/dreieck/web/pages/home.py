"""The home page: the workbooks, made, renamed, deleted, and the demo started again."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck import demo
from dreieck.core.exceptions import DreieckError
from dreieck.web.answers import TheLibrary, WorkbookNumber, page

router = APIRouter(include_in_schema=False)

Name = Annotated[str, Form(max_length=10_000)]


@router.get("/")
def home(request: Request, library: TheLibrary) -> Response:
    """The list of workbooks."""
    return page(request, "home.html", workbooks=library.listed(), problem="", typed="")


@router.post("/workbooks")
def create(request: Request, library: TheLibrary, name: Name = "") -> Response:
    """Make an empty workbook and open it."""
    try:
        return _opened(request, library.create(name))
    except DreieckError as error:
        return _listed(request, library, problem=str(error), typed=name)


@router.post("/demo")
def start_demo_again(request: Request, library: TheLibrary) -> Response:
    """Put a fresh demo in place of the one that is there."""
    for listed in library.listed():
        if listed.is_demo:
            library.delete(listed.id)
    made = demo.make(library)
    return _opened(request, made)


@router.get("/demo/question")
def ask_demo(request: Request, library: TheLibrary) -> Response:
    """Ask before the demo is started again, where something would be lost."""
    lost = [library.losses(listed.id) for listed in library.listed() if listed.is_demo]
    return page(request, "demo_question.html", lost=[each for each in lost if each.changes])


@router.get("/workbooks/{workbook_id}/question")
def ask_delete(request: Request, library: TheLibrary, workbook_id: WorkbookNumber) -> Response:
    """Ask before a workbook is deleted, and name what would be lost."""
    try:
        lost = library.losses(workbook_id)
    except KeyError:
        raise HTTPException(404, "This workbook has been deleted already.") from None
    return page(request, "delete_question.html", lost=lost, id=workbook_id)


@router.post("/workbooks/{workbook_id}/delete")
def delete(request: Request, library: TheLibrary, workbook_id: WorkbookNumber) -> Response:
    """Delete a workbook."""
    try:
        library.delete(workbook_id)
    except KeyError:
        return _listed(request, library, problem="This workbook had been deleted already.")
    return _listed(request, library)


@router.post("/workbooks/{workbook_id}/rename")
def rename(
    request: Request, library: TheLibrary, workbook_id: WorkbookNumber, name: Name = ""
) -> Response:
    """Give a workbook another name."""
    try:
        library.rename(workbook_id, name)
    except KeyError:
        return _listed(request, library, problem="This workbook has been deleted in the meantime.")
    except DreieckError as error:
        return _listed(request, library, problem=str(error))
    return _listed(request, library)


def _opened(request: Request, workbook_id: WorkbookNumber) -> Response:
    address = f"/workbooks/{workbook_id}"
    if request.headers.get("hx-request") == "true":
        return Response(headers={"HX-Redirect": address})
    return RedirectResponse(address, 303)


def _listed(request: Request, library: TheLibrary, problem: str = "", typed: str = "") -> Response:
    return page(
        request, "workbooks.html", workbooks=library.listed(), problem=problem, typed=typed
    )
