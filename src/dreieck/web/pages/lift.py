"""Lifting numbers out of formulas: which there are, what would become of them, and doing it."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.editing.lifting import Inside, free_place, lifted, numbers_inside
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import Cell
from dreieck.core.values import number_text
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.before_after import before_after
from dreieck.web.pages.names import proven_in_time

router = APIRouter(include_in_schema=False)

_LISTED = 500


@dataclass(frozen=True)
class LiftLine:
    """A number inside formulas of one shape; ``key`` tells it apart."""

    key: str
    number: str
    place: str
    formula: str
    inside: Inside


@router.get("/workbooks/{workbook_id}/lift")
def lift(request: Request, opened: TheWorkbook, all: bool = False) -> Response:
    """The numbers typed inside formulas."""
    return _lift_page(request, opened, every=all)


@router.post("/workbooks/{workbook_id}/lift")
def lift_out(request: Request, opened: TheWorkbook, form: TheForm) -> Response:
    """Preview a lift, or make it."""
    chosen = [str(key)[:100] for key in form.getlist("chosen")]
    asked = {key: str(form.get(key, ""))[:200] for key in ("sheet", "cell", "label", "name")}
    every = bool(form.get("all"))
    with opened.lock:
        try:
            lines = [line for line in _lift_lines(opened) if line.key in chosen]
            sheet = opened.workbook.sheet_by_id(whole_number(form, "sheet"))
            cell = Cell.parse(asked["cell"])
            edits, rewritings = lifted(
                opened.workbook, [line.inside for line in lines], sheet, cell,
                asked["label"].strip(), asked["name"].strip(),
            )  # fmt: skip
            if form.get("make"):
                opened.change(f"lift to {cell.text}", edits, whole_number(form, "revision"))
                where = f"/workbooks/{opened.id}/sheets/{sheet.id}?at={cell.text}"
                return RedirectResponse(where, 303)
        except (DreieckError, StoreError) as error:
            return _lift_page(
                request, opened, every=every, chosen=chosen, asked=asked, problem=str(error)
            )
        preview = [before_after(each) for each in rewritings]
        equal = proven_in_time(opened, edits, rewritings)
        return _lift_page(
            request, opened, every=every, chosen=chosen, asked=asked, preview=preview, equal=equal
        )


def _lift_lines(opened: OpenWorkbook) -> list[LiftLine]:
    return [
        LiftLine(
            f"{number_text(inside.number)} {inside.sheet.id} {inside.areas[0].text}",
            number_text(inside.number),
            area_text(inside.areas[0], inside.sheet.name),
            inside.shape.text(inside.areas[0].first),
            inside,
        )
        for inside in numbers_inside(opened.workbook)
    ]


def _lift_page(
    request: Request,
    opened: OpenWorkbook,
    *,
    every: bool = False,
    chosen: list[str] | None = None,
    asked: dict[str, str] | None = None,
    preview: list[dict[str, object]] | None = None,
    equal: bool | None = False,
    problem: str = "",
) -> Response:
    with opened.lock:
        lines = [line for line in _lift_lines(opened) if every or not line.inside.belongs]
        home = opened.last_sheet()
        asked = asked or {"sheet": str(home.id), "cell": free_place(home).text}
        return page(
            request, "lift.html", opened=opened, lines=lines[:_LISTED], every=every,
            chosen=chosen or [], asked=asked, preview=preview, proven=equal, problem=problem,
        )  # fmt: skip
