"""The workbench: its page, and one address for each thing that can be done on it.

Every action posts the page's state and gets back the fragments that changed and the scene
for the grid, so the browser never has to work out what an action led to.
"""

from __future__ import annotations

import json
import logging
from collections.abc import Mapping
from contextlib import AbstractContextManager, suppress
from typing import Annotated, Any, NamedTuple

from fastapi import APIRouter, Depends, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, ValidationError
from starlette.responses import HTMLResponse, PlainTextResponse, RedirectResponse, Response

from dreieck.core.budget import WorkEnded
from dreieck.core.editing.copying import copy_text
from dreieck.core.editing.losing import losing_sheet
from dreieck.core.editing.stating import NEW
from dreieck.core.exceptions import DreieckError, SheetError
from dreieck.core.functions import Function
from dreieck.core.functions.statements import FORMS
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.words.suggest import Argument, Suggestion, current_argument, suggestions
from dreieck.store import (
    BusyError,
    Library,
    OpenWorkbook,
    OutOfDate,
    Piece,
    StoreError,
    all_locked,
)
from dreieck.web.answers import TheLibrary, TheWorkbook, fragment, page
from dreieck.web.navigation import Entry
from dreieck.web.refusing import Undrawable
from dreieck.web.turns import in_a_hurry, time_for_drawing
from dreieck.web.workbench.actions import ACTIONS, Action, Context, effects
from dreieck.web.workbench.actions.aiming import KEEP_AIMING
from dreieck.web.workbench.actions.copies import Clip
from dreieck.web.workbench.answered import TheAnswered
from dreieck.web.workbench.band import band
from dreieck.web.workbench.catching_up import CaughtUp, catch_up
from dreieck.web.workbench.desk import desk, moved_text
from dreieck.web.workbench.drawn import TheDrawn
from dreieck.web.workbench.foot import foot
from dreieck.web.workbench.heard import heard
from dreieck.web.workbench.holding_keys import TheKeys
from dreieck.web.workbench.keys import When, for_browser, for_foot
from dreieck.web.workbench.long_forms import LongFormRoute
from dreieck.web.workbench.page_state import Asked, PageState
from dreieck.web.workbench.panel import panel
from dreieck.web.workbench.proof_cache import failing_on
from dreieck.web.workbench.scene import Scene, scene
from dreieck.web.workbench.situation import Situation

log = logging.getLogger("dreieck")
router = APIRouter(include_in_schema=False, route_class=LongFormRoute)
_UNDRAWABLE = (
    "What this workbook holds cannot be drawn just now. Nothing that was kept is lost;"
    " the server's log has the details."
)
ENTRY = Entry(1, "workbench", "Workbench", "/workbooks/{workbook}/sheets/{sheet}")


@router.get("/workbooks/{workbook_id}")
def first_sheet(opened: TheWorkbook, came: str = "") -> Response:
    """Go to the sheet that was open last; one that ``came`` from a file is looked through."""
    came = "?came=yes" if came else ""
    return RedirectResponse(f"/workbooks/{opened.id}/sheets/{opened.last_sheet().id}{came}", 303)


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}")
def workbench(request: Request, opened: TheWorkbook, sheet_id: int, keys: TheKeys) -> Response:
    """The page of the workbench; it asks for its first scene itself."""
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
    except SheetError as error:
        raise HTTPException(404, str(error)) from None
    opened.remember_sheet(sheet_id)
    return page(
        request,
        "workbench.html",
        opened=opened,
        sheet=sheet,
        keys=for_browser(keys),
        rows=MAX_ROW,
        columns=MAX_COLUMN,
        effects=effects(),
    )


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/question")
def ask_sheet(request: Request, opened: TheWorkbook, sheet_id: int) -> Response:
    """What can be done with a sheet, and which formulas would lose something with it."""
    with opened.lock:
        try:
            sheet = opened.workbook.sheet_by_id(sheet_id)
        except SheetError as error:
            raise HTTPException(404, str(error)) from None
        lost = losing_sheet(opened.workbook, sheet)
        filled = len(sheet)
        alone = len(opened.workbook.sheets) == 1
    return page(request, "sheet_question.html", sheet=sheet, lost=lost, filled=filled, alone=alone)


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/text")
def text_for_others(opened: TheWorkbook, sheet_id: int, area: str) -> Response:
    """The cells of an area as tab-separated text, for other programs."""
    with opened.lock:
        try:
            sheet = opened.workbook.sheet_by_id(sheet_id)
            text = copy_text(opened.calculation, sheet, Area.parse(area))
        except DreieckError as error:
            raise HTTPException(422, str(error)) from None
    return PlainTextResponse(text)


Drawing = tuple[dict[str, Any], Scene]
"""The fragments of a page, and the scene that its grid draws."""


class Posted(NamedTuple):
    """What a page asks for: an action and what that needs to know, and the page's state."""

    action: Action
    name: str
    wish: BaseModel
    state: PageState
    asked: Asked


async def _posted(request: Request, action: str) -> Posted:
    """Read a request. Raises HTTPException, RequestValidationError."""
    if action not in ACTIONS:
        raise HTTPException(404, "There is no such action.")
    form, found = dict(await request.form()), ACTIONS[action]
    try:
        wish, state = found.wish.model_validate(form), PageState.model_validate(form)
        asked = Asked.model_validate(form)
    except ValidationError as error:
        said = [each | {"loc": ("form", *each["loc"])} for each in error.errors()]
        raise RequestValidationError(said) from None
    return Posted(found, action, wish, state, asked)


@router.post("/workbooks/{workbook_id}/act/{action}")
def act(
    opened: TheWorkbook,
    library: TheLibrary,
    drawn: TheDrawn,
    answered: TheAnswered,
    keys: TheKeys,
    posted: Annotated[Posted, Depends(_posted)],
) -> Response:
    """Do one of ``ACTIONS``; answer with the fragments and the scene that it led to.

    A piece that was done before, and is asked for again for want of the answer, is not done twice.
    """
    state, wish = posted.state, posted.wish
    piece = Piece.told(posted.asked.piece)
    with _hold(opened, library, wish), opened.doing(piece):
        if again := answered.to(opened.id, piece, posted.asked.picture):
            return HTMLResponse(again)
        done = Done()
        asked = state.model_dump(mode="json")
        context = Context(opened, state, library)
        began = opened.revision
        if piece and opened.has_done(piece):
            state.stop_writing()
            state.drop_rehearsal()
            done = Done(moved=True)
        else:
            done = _done(context, posted, piece)
        told, kind, state = done.told, done.kind, context.state
        typed = f" What was typed: {state.text[:300]}" if state.text else ""
        if state.aiming >= 0 and posted.name not in KEEP_AIMING:
            state.stop_aiming()
        if state.trial and not state.trying:
            state.stop_trying()
        if _leave_lost_sheet(opened, state):
            told, kind = f"The sheet that was shown here has been deleted.{typed}", "news"
        insists = kind != "told" or context.insists
        fragments, picture = _drawn(opened, state, insists=insists, patient=posted.asked.patient)
        picture.began, picture.refused, picture.moved = began, done.refused, done.moved
        known = posted.asked.picture
        told_scene = drawn.since(known, (opened.id, state.sheet), picture, asked)
        fragments |= {
            "keys": for_foot(fragments["when"], keys),
            "help_key": next((key.keys for key in keys if key.act == "help"), ""),
            "scene": json.dumps(told_scene, ensure_ascii=False, separators=(",", ":")),
            "action": posted.name,
            "told": told,
            "kind": "news" if context.waits and kind == "told" else kind,
            "in_parts": context.in_parts and kind == "told",
            "offers": context.offers if kind == "told" else [],
        }
        said = fragment("answer.html", **fragments)
        said = drawn.parts(known, told_scene["picture"], said, all_of_it=kind != "told")
        answered.keep(opened.id, piece, known, said)
    return HTMLResponse(said)


class Done(NamedTuple):
    """What came of an action: what is told and of which kind, whether it was refused, or moved.

    Places ``moved`` where others let lines come or go since the page was told of them.
    """

    told: str = ""
    kind: str = "told"
    refused: bool = False
    moved: bool = False


def _done(context: Context, posted: Posted, piece: Piece | None) -> Done:
    """Bring a page up to date and do what it asks for."""
    opened, action = context.opened, posted.action
    before, older = context.state.model_copy(), CaughtUp()
    try:
        revision = context.state.revision
        names_places = bool(posted.wish.model_fields_set - {"move"})
        page = piece.page if piece else ""
        older = catch_up(opened, context.state, page, places=names_places)
        before = context.state.model_copy()
        if action.must_be_seen:
            context.state.revision = revision
        told = action(context, posted.wish) or older.told
        return Done(told, "news" if older.told else "told", moved=older.moved)
    except (DreieckError, StoreError, BusyError, WorkEnded) as refusal:
        # What the page said of itself still holds, the typed text too.
        context.state = before
        if isinstance(refusal, OutOfDate):
            return Done(older.told or str(refusal), "news", refused=True, moved=older.moved)
        return Done(str(refusal), "problem", refused=True, moved=older.moved)


def _hold(opened: OpenWorkbook, library: Library, wish: BaseModel) -> AbstractContextManager[None]:
    """Hold the workbook, and the one that is pasted from if that is another."""
    locks = [opened.lock]
    if isinstance(wish, Clip) and wish.clip_area and wish.clip_workbook not in (0, opened.id):
        with suppress(KeyError, StoreError):
            locks.append(library.open(wish.clip_workbook).lock)
    return all_locked(*locks)


def _drawn(opened: OpenWorkbook, state: PageState, *, insists: bool, patient: bool) -> Drawing:
    """The fragments and the picture; where they take too long, with what is known by then."""
    try:
        with time_for_drawing(patient=patient):
            return _draw(opened, state, insists=insists)
    except WorkEnded as ended:
        if not ended.by_clock:
            raise
    except Exception as fault:
        # What is kept has to be shown, edited and taken back whatever cannot be told about it.
        if not isinstance(fault, DreieckError):
            log.exception("the workbench is drawn without what fails")
    with in_a_hurry():
        try:
            context, picture = _draw(opened, state, insists=insists)
        except DreieckError as unusable:
            raise Undrawable(str(unusable)) from None
        except WorkEnded:
            raise
        except Exception:
            log.exception("the workbench cannot be drawn")
            raise Undrawable(_UNDRAWABLE) from None
        # What is only rehearsed or tried is worked out anew each time: asking again is no use.
        picture.unfinished = state.text is None and not state.target and not state.trial
        return context, picture


def _draw(opened: OpenWorkbook, state: PageState, *, insists: bool) -> Drawing:
    situation = Situation(opened, state)
    # What is seen comes first: where time runs out behind it, its values are known.
    picture = scene(situation, insists=insists)
    context = _context(situation)
    picture.heard = heard(situation, context["desk"], context["panel"], context["foot"])
    return context, picture


def _leave_lost_sheet(opened: OpenWorkbook, state: PageState) -> bool:
    """Let a page whose sheet is gone show the one that was shown last; tell if it was so."""
    known = {sheet.id for sheet in opened.workbook.sheets}
    lost = state.sheet not in known or (state.home != 0 and state.home not in known)
    if lost:
        state.stop_writing()
        state.drop_rehearsal()
        state.sheet = opened.last_sheet().id
        state.stand(Cell(1, 1))
    return lost


def _context(situation: Situation) -> dict[str, Any]:
    on_desk = desk(situation)
    on_panel = panel(situation, on_desk)
    when: When = "selecting"
    if situation.rehearsing:
        when = "rehearsing"
    elif situation.writing:
        when = "writing" if situation.state.proving < NEW else "always"
    elif on_panel.step == "check":
        when = "checking"
    undo, redo = situation.opened.history()
    return {
        "desk": on_desk,
        "panel": on_panel,
        "foot": foot(situation),
        "band": band(situation),
        "when": when,
        "moved_text": moved_text,
        "sheets": situation.workbook.sheets,
        "shown_sheet": situation.sheet,
        "fails_on": failing_on(situation.opened),
        "opened": situation.opened,
        "suggestions": _suggestions(situation),
        "argument": _argument(situation),
        "undo": undo,
        "redo": redo,
    }


def _suggestions(situation: Situation) -> list[Suggestion]:
    if not situation.writing or situation.rehearsing:
        return []
    text, caret = situation.desk_text, situation.state.caret
    opened = situation.opened
    used = opened.used_functions()
    return suggestions(opened.calculation, text, caret, used, forms=_forms(situation))


def _argument(situation: Situation) -> Argument | None:
    if not situation.writing or situation.rehearsing:
        return None
    text, caret = situation.desk_text, situation.state.caret
    return current_argument(text, caret, forms=_forms(situation))


def _forms(situation: Situation) -> Mapping[str, Function]:
    """What may be written beside functions: only a proof makes statements."""
    return FORMS if situation.state.proving >= NEW else {}
