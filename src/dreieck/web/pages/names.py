"""The page of names and inputs."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Annotated

from fastapi import APIRouter, Form, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.budget import WorkEnded
from dreieck.core.calculate import text_at
from dreieck.core.editing.lifting import input_cells
from dreieck.core.editing.naming import (
    area_said,
    deleted,
    from_headings,
    given,
    proposed,
    put_in,
    renamed,
    short_of,
    taken_out,
    told_about,
    uses,
)
from dreieck.core.editing.rewriting import Rewriting, edits_of, proven
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.words.headings import heading_of
from dreieck.core.words.named import stands_for, what_it_holds
from dreieck.core.words.reading import by_position
from dreieck.store import OpenWorkbook, OutOfDate, StoreError
from dreieck.web.answers import TheWorkbook, page, sheet_and_area
from dreieck.web.before_after import before_after
from dreieck.web.navigation import Entry
from dreieck.web.small_sheet import Rect, SmallSheet
from dreieck.web.turns import time_for_drawing
from dreieck.web.workbench.page_state import MAX_NUMBER

router = APIRouter(include_in_schema=False)
ENTRY = Entry(4, "names", "Names", "/workbooks/{workbook}/names")

_LISTED = 500
_ROOM = 20
_Edits = Callable[[], list[Edit]]
Text = Annotated[str, Form(max_length=10_000)]
Revision = Annotated[int, Form(ge=-1, le=MAX_NUMBER)]
"""The revision that the page showed."""


@dataclass(frozen=True)
class Covered:
    """What a name covers, drawn in small on its sheet, with the formulas there that use it."""

    small: SmallSheet
    sheet: Sheet
    named: Rect
    users: list[Rect]


@dataclass(frozen=True)
class NameLine:
    """A name on the page: what it stands for, what it holds, who uses it, what is odd."""

    named: Named
    holds: str
    grows: str
    count: int
    places: list[tuple[int, str, str]]
    """The number of a sheet, an area on it, and both as text."""
    told: list[str]
    stretched: str
    words: str
    picture: Covered | None


@dataclass(frozen=True)
class InputLine:
    """An input: where it is, what its headings call it, and its value."""

    sheet: int
    cell: str
    place: str
    label: str
    value: str


@router.get("/workbooks/{workbook_id}/names")
def names(
    request: Request, opened: TheWorkbook, q: str = "", sort: str = "name", told: str = ""
) -> Response:
    """The page of names and inputs."""
    return _names_page(request, opened, q=q[:64], sort=sort, notice=told[:200])


@router.get("/workbooks/{workbook_id}/names/dialog")
def dialog(
    request: Request, opened: TheWorkbook, sheet: int, area: str, name: str = ""
) -> Response:
    """Ask for a name of the selection, and propose names from its headings.

    With ``name`` that one is to stand for the selection from now on.
    """
    with opened.lock:
        home, selected = sheet_and_area(opened, sheet, area)
        return page(
            request, "name_dialog.html", opened=opened, says=area_said(home, selected),
            first=selected.first.text, proposal=proposed(opened.workbook, home, selected),
            proposals=from_headings(opened.workbook, home, selected)[:30],
            anew=name if name.casefold() in opened.workbook.names else "",
        )  # fmt: skip


@router.post("/workbooks/{workbook_id}/names/give")
def give(
    request: Request,
    opened: TheWorkbook,
    name: Text = "",
    says: Text = "",
    at: Text = "A1",
    revision: Revision = -1,
) -> Response:
    """Give a name."""
    return _done(
        request, opened, revision, f"{name} stands for {says} now.", f"name {name}",
        lambda: given(opened.workbook, name, says, Cell.parse(at or "A1")),
        typed={"name": name, "says": says, "at": at},
    )  # fmt: skip


@router.post("/workbooks/{workbook_id}/names/{name}/rename")
def rename(
    request: Request, opened: TheWorkbook, name: str, to: Text = "", revision: Revision = -1
) -> Response:
    """Rename a name; formulas follow."""
    return _done(
        request, opened, revision,
        f"{name} is called {to} now, in all formulas.", f"renaming {name}",
        lambda: renamed(opened.workbook, name, to), typed={"to": to},
    )  # fmt: skip


@router.post("/workbooks/{workbook_id}/names/{name}/aim")
def aim(
    request: Request, opened: TheWorkbook, name: str, says: Text = "", revision: Revision = -1
) -> Response:
    """Let a name stand for something else."""

    def edits() -> list[Edit]:
        base = opened.workbook.names[name.casefold()].base
        return given(opened.workbook, name, says, base, anew=True)

    return _done(
        request, opened, revision, f"{name} stands for {says} now.", f"aiming {name}", edits,
        typed={"aim": says},
    )  # fmt: skip


@router.post("/workbooks/{workbook_id}/names/{name}/delete")
def delete(
    request: Request,
    opened: TheWorkbook,
    name: str,
    keep: Text = "addresses",
    revision: Revision = -1,
) -> Response:
    """Delete a name; its formulas go back to addresses, or show an error."""
    return _done(
        request, opened, revision, f"{name} is deleted.", f"deleting {name}",
        lambda: deleted(opened.workbook, name, keep_addresses=keep == "addresses"),
    )  # fmt: skip


@router.get("/workbooks/{workbook_id}/names/rewrite")
def preview(
    request: Request,
    opened: TheWorkbook,
    way: str = "in",
    sheet: int = 0,
    name: str = "",
    cell: str = "",
) -> Response:
    """Every shape before and after names are put in, or taken out."""
    with opened.lock:
        try:
            rewritings = _rewritings(opened, way, sheet, name, cell)
        except DreieckError as error:
            raise HTTPException(422, str(error)) from None
        return page(
            request, "names_rewrite.html", opened=opened, way=way, sheet=sheet, chosen=name,
            proven=proven_in_time(opened, edits_of(rewritings), rewritings),
            lines=[before_after(each) for each in rewritings[:_LISTED]],
            count=sum(each.count for each in rewritings),
        )  # fmt: skip


@router.post("/workbooks/{workbook_id}/names/rewrite")
def rewrite(
    request: Request,
    opened: TheWorkbook,
    way: Text = "in",
    sheet: Annotated[int, Form()] = 0,
    name: Text = "",
    cell: Text = "",
    revision: Revision = -1,
) -> Response:
    """Put names into formulas, or take them out."""
    return _done(
        request, opened, revision, "Names are put in." if way == "in" else "Addresses are back.",
        "putting names in" if way == "in" else "taking names out",
        lambda: edits_of(_rewritings(opened, way, sheet, name, cell)),
    )  # fmt: skip


def _done(
    request: Request,
    opened: OpenWorkbook,
    revision: int,
    told: str,
    label: str,
    edits: _Edits,
    typed: dict[str, str] | None = None,
) -> Response:
    """Make edits and go back to the page; where they are refused say so there."""
    with opened.lock:
        try:
            made = edits()
            if not made:
                raise DreieckError("Nothing would change: no formula fits.")
            opened.change(label, made, revision)
        except KeyError:
            return _names_page(request, opened, problem="This name has been deleted already.")
        except (DreieckError, StoreError) as error:
            said = next(iter((typed or {}).values()), "") if isinstance(error, OutOfDate) else ""
            problem = f"{error} What was typed: {said}" if said else str(error)
            return _names_page(request, opened, problem=problem, typed=typed)
    answer = request.url_for("names", workbook_id=opened.id).include_query_params(told=told)
    return RedirectResponse(f"{answer.path}?{answer.query}", 303)


def _names_page(
    request: Request,
    opened: OpenWorkbook,
    *,
    q: str = "",
    sort: str = "name",
    notice: str = "",
    problem: str = "",
    typed: dict[str, str] | None = None,
) -> Response:
    with opened.lock:
        lines = [line for line in _lines(opened) if q.casefold() in line.named.key]
        by = {"kind": lambda line: line.named.kind, "uses": lambda line: -line.count}
        lines.sort(key=by.get(sort, lambda line: line.named.key))
        return page(
            request, "names.html", opened=opened, lines=lines, q=q, sort=sort, notice=notice,
            problem=problem, typed=typed or {}, inputs=_inputs(opened),
        )  # fmt: skip


def _lines(opened: OpenWorkbook) -> list[NameLine]:
    workbook, used = opened.workbook, uses(opened.workbook)
    told: dict[str, list[str]] = {}
    for name, what in told_about(workbook):
        told.setdefault(name, []).append(what)
    return [
        NameLine(
            named,
            what_it_holds(opened.calculation, named),
            stands_for(named) if named.kind == "growing range" else "",
            sum(area.size for _, area in used.get(named.key, [])),
            [
                (sheet.id, area.first.text, area_text(area, sheet.name))
                for sheet, area in used.get(named.key, [])[:6]
            ],
            told.get(named.name, []),
            _stretched(workbook, named),
            by_position(workbook, named.shape, named.base)
            if named.kind == "formula by position"
            else "",
            _covered(workbook, named, used.get(named.key, [])),
        )
        for named in workbook.names.values()
    ]


def _covered(
    workbook: Workbook, named: Named, users: Iterable[tuple[Sheet, Area]]
) -> Covered | None:
    """The picture of a name that stands for a place."""
    if not named.place or not workbook.has_sheet(named.place[0]):
        return None
    sheet, area = workbook.sheet(named.place[0]), named.place[1]
    used = sheet.used() or area
    small = SmallSheet(used._replace(left=1, top=1).around(area.common(used) or area), 96, 56)
    rect = small.rect(area)
    if rect is None:
        return None
    here = [found for other, each in users if other is sheet and (found := small.rect(each))]
    return Covered(small, sheet, rect, here)


def _stretched(workbook: Workbook, named: Named) -> str:
    """What a name would stand for, stretched over the data that goes on below it."""
    short = short_of(workbook, named)
    if not short or not named.place:
        return ""
    name, area = named.place
    return area_said(workbook.sheet(name), area._replace(bottom=short.row))


def _inputs(opened: OpenWorkbook) -> list[InputLine]:
    return [
        InputLine(
            sheet.id,
            cell.text,
            place_text(Place(sheet.name, cell)),
            heading_of(sheet, Area.of(cell)) or "",
            text_at(opened.calculation, sheet, cell, _ROOM) or "empty",
        )
        for sheet in opened.workbook.sheets
        for cell in input_cells(sheet)[:_LISTED]
    ]


def _rewritings(
    opened: OpenWorkbook, way: str, sheet: int, name: str, cell: str
) -> list[Rewriting]:
    """What would be rewritten: on all sheets or one, or only the block of a cell."""
    workbook = opened.workbook
    sheets = [each for each in workbook.sheets if sheet in (0, each.id)]
    names = [each for each in workbook.names.values() if not name or each.key == name.casefold()]
    only = Cell.parse(cell) if cell else None
    if way == "in":
        return put_in(workbook, sheets, names, only)
    return taken_out(sheets, names, only)


def proven_in_time(
    opened: OpenWorkbook, edits: list[Edit], rewritings: list[Rewriting]
) -> bool | None:
    """Whether the values stay the same; None where there was no time to compare them all."""
    try:
        with time_for_drawing(patient=True):
            return proven(opened.calculation, edits, rewritings)
    except WorkEnded as ended:
        if not ended.by_clock:
            raise
        return None
