"""The dialog that tells what can be done with the selected cells, their rows and columns."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from fastapi import APIRouter, Request
from starlette.responses import Response

from dreieck.core.editing.counted_lines import counting
from dreieck.core.editing.laying_out import hidden_around
from dreieck.core.editing.losing import Losses, losing_lines
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import Lines
from dreieck.core.sheet.layout import Headings
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.headings import heading_left, headings_in_view
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page, sheet_and_area
from dreieck.web.workbench.actions.entries import Towards
from dreieck.web.workbench.actions.lines import selected_lines
from dreieck.web.workbench.window import USUAL_SIZES

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class Choice:
    """Rows or columns that can be inserted, deleted, sized and hidden.

    ``filled`` and ``lost`` tell what a deletion would cost; ``size`` is that of the
    first one in pixels, ``hidden`` are those among and next to them that cannot be seen.
    ``counting`` are the lookups that count over them by number.
    """

    lines: Lines
    before: Literal["above", "left"]
    behind: Literal["below", "right"]
    towards: Towards
    filled: int
    lost: Losses
    counting: list[str]
    size: int | None
    hidden: list[str]


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/selection")
def dialog(
    request: Request, opened: TheWorkbook, sheet_id: int, area: str, name: str = ""
) -> Response:
    """What can be done with an area; ``name`` is the one that it would be given."""
    with opened.lock:
        sheet, selected = sheet_and_area(opened, sheet_id, area)
        # One cell without a label, which marking it as input can give it.
        bare = selected.size == 1 and heading_left(sheet, selected.first) is None
        choices = [
            _choice(opened, sheet, lines)
            for lines in (selected_lines(selected, "row"), selected_lines(selected, "column"))
            if lines.count < lines.limit
        ]
        kept = sheet.layout.headings
        headings = headings_in_view(sheet) if kept == Headings() else kept
    return page(
        request, "selection.html", opened=opened, sheet=sheet, area=selected, choices=choices,
        bare=bare and selected.left > 1, pointed=name[:80],
        headings=headings, usual=USUAL_SIZES,
    )  # fmt: skip


def _choice(opened: OpenWorkbook, sheet: Sheet, lines: Lines) -> Choice:
    by_row = lines.axis == "row"
    return Choice(
        lines,
        "above" if by_row else "left",
        "below" if by_row else "right",
        "down" if by_row else "right",
        sheet.count(lines.area),
        losing_lines(opened.workbook, sheet, lines),
        [area_text(a, s.name) for s, a in counting(opened.workbook, sheet, lines)],
        sheet.layout.on(lines.axis).at(lines.first).size,
        [each.text for each in hidden_around(sheet, lines)],
    )
