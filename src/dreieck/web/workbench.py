"""The workbench: its page, and one address for each thing that can be done on it.

Every action posts the page's state and gets back the fragments that changed and the scene
for the grid, so the browser never has to work out what an action led to.
"""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, HTTPException, Request
from starlette.responses import HTMLResponse, RedirectResponse, Response

from dreieck.core.exceptions import DreieckError, SheetError
from dreieck.store import OutOfDate, StoreError
from dreieck.web.actions import ACTIONS, Hands
from dreieck.web.bench import WishForm
from dreieck.web.desk import desk, moved_text
from dreieck.web.keys import When, for_browser, for_foot
from dreieck.web.pages import TheWorkbook, fragment, page
from dreieck.web.panel import foot, panel
from dreieck.web.scene import scene
from dreieck.web.situation import Situation

router = APIRouter(include_in_schema=False)


@router.get("/workbooks/{workbook_id}")
def first_sheet(opened: TheWorkbook) -> Response:
    """Go to the sheet that was open last."""
    return RedirectResponse(f"/workbooks/{opened.id}/sheets/{opened.last_sheet().id}", 303)


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}")
def workbench(request: Request, opened: TheWorkbook, sheet_id: int) -> Response:
    """The page of the workbench; it asks for its first scene itself."""
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
    except SheetError as error:
        raise HTTPException(404, str(error)) from None
    opened.remember_sheet(sheet_id)
    return page(request, "workbench.html", opened=opened, sheet=sheet, keys=for_browser())


@router.post("/workbooks/{workbook_id}/sheets/{sheet_id}/{action}")
def act(opened: TheWorkbook, sheet_id: int, action: str, wish: WishForm) -> Response:
    """Do one of ``ACTIONS``; answer with the fragments and the scene that it led to."""
    if action not in ACTIONS:
        raise HTTPException(404, "There is no such action.")
    with opened.lock:
        told, kind = "", "told"
        before = wish.model_copy()
        try:
            told = ACTIONS[action](Hands(opened, sheet_id, wish))
        except (DreieckError, StoreError) as refusal:
            # What the page said of itself still holds, the typed text too.
            wish, told = before, str(refusal)
            kind = "news" if isinstance(refusal, OutOfDate) else "problem"
        try:
            insists = kind != "told" or wish.insists
            context = _context(Situation(opened, sheet_id, wish), insists=insists)
        except SheetError as gone:
            raise HTTPException(404, str(gone)) from None
        except DreieckError as unusable:
            raise HTTPException(422, str(unusable)) from None
    return HTMLResponse(fragment("answer.html", told=told, kind=kind, **context))


def _context(situation: Situation, *, insists: bool) -> dict[str, Any]:
    on_desk = desk(situation)
    on_panel = panel(situation, on_desk)
    when: When = "selecting"
    if situation.rehearsing:
        when = "rehearsing"
    elif situation.writing:
        when = "writing"
    elif on_panel.step == "check":
        when = "checking"
    undo, redo = situation.opened.history()
    return {
        "scene": scene(situation, insists=insists).model_dump_json(),
        "desk": on_desk,
        "panel": on_panel,
        "foot": foot(situation),
        "keys": for_foot(when),
        "moved_text": moved_text,
        "undo": undo,
        "redo": redo,
    }
