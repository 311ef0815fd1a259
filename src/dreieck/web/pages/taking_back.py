"""Taking back what was done last without the workbench, where that cannot be drawn."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck.store import OutOfDate, StoreError
from dreieck.web.answers import TheWorkbook, page

router = APIRouter(include_in_schema=False)


@router.get("/workbooks/{workbook_id}/take-back")
def ask(request: Request, opened: TheWorkbook) -> Response:
    """What was done last, and whether it is to be taken back."""
    with opened.lock:
        label, _ = opened.history()
        return page(request, "take_back.html", opened=opened, label=label)


@router.post("/workbooks/{workbook_id}/take-back")
def take_back(opened: TheWorkbook, revision: Annotated[int, Form(ge=0)]) -> Response:
    """Take it back, and open the workbook again; where more was done since, ask anew."""
    try:
        opened.undo(revision)
    except OutOfDate:
        return RedirectResponse(f"/workbooks/{opened.id}/take-back", 303)
    except StoreError as refusal:
        raise HTTPException(503, str(refusal)) from None
    return RedirectResponse(f"/workbooks/{opened.id}", 303)
