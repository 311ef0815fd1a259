"""Mends chosen on the shape map: looked at first, or made at once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.checking.mending import Mending, outcome, together
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import many
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, whole_number
from dreieck.web.before_after import line
from dreieck.web.pages.map import map_page
from dreieck.web.turns import in_time
from dreieck.web.workbench.finding_cache import findings_on
from dreieck.web.workbench.findings_shown import shown

router = APIRouter(include_in_schema=False)

_MOST = 200


@dataclass(frozen=True)
class Preview:
    """What chosen mends would do: a line for each, and what comes of all of them."""

    lines: list[dict[str, object]]
    changed: int
    gone: int
    left: int


@router.post("/workbooks/{workbook_id}/sheets/{sheet_id}/map")
def mend(request: Request, opened: TheWorkbook, sheet_id: int, form: TheForm) -> Response:
    """Look at the chosen mends, or make them; ``only`` makes one by itself."""
    only = str(form.get("only", ""))
    chosen = [only] if only else [str(key)[:200] for key in form.getlist("chosen")][:_MOST]
    with opened.lock:
        try:
            sheet = opened.workbook.sheet_by_id(sheet_id)
        except DreieckError as error:
            raise HTTPException(404, str(error)) from None
        mending = together([
            mend
            for each in findings_on(opened, sheet)
            for finding in each.findings
            for mend in finding.mends[:1]
            if shown(finding).key in chosen
        ])  # fmt: skip
        told: dict[str, Any] = {"chosen": chosen}
        if not mending.mends:
            told["problem"] = "None of these findings is there any more, or none was chosen."
        elif not only and not form.get("make"):
            told["preview"] = _preview(opened, sheet, mending)
        else:
            try:
                label = f"{many(len(mending.mends), 'mend')} on {sheet.name}"
                opened.change(label, mending.edits, whole_number(form, "revision"))
            except (DreieckError, StoreError) as error:
                told["problem"] = str(error)
            else:
                here = f"/workbooks/{opened.id}/sheets/{sheet.id}/map"
                return RedirectResponse(f"{here}?mended={len(mending.mends)}", 303)
        return in_time(lambda: map_page(request, opened, sheet, **told))


def _preview(opened: OpenWorkbook, sheet: Sheet, mending: Mending) -> Preview:
    lines = []
    for each in mending.mends:
        cells = [edit for edit in each.edits if isinstance(edit, SetCells)]
        areas = joined(area for edit in cells for area in edit.areas())
        lines.append(line(sheet, areas, each.before or "nothing", each.after or "empty"))
    changed, gone = outcome(opened.calculation, mending)
    return Preview(lines, changed, gone, len(mending.left))
