"""Bringing a page up to date whose workbook was changed elsewhere: its places and text follow."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from dreieck.core.editing.steps import (
    Step,
    followed_area,
    followed_cell,
    followed_text,
    was_written,
    written_within,
)
from dreieck.core.formula import mentions
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.workbook import Workbook
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.page_state import PageState, held


class CaughtUp(NamedTuple):
    """What has to be told before anything is overwritten, and whether places may have moved."""

    told: str = ""
    moved: bool = False


def catch_up(
    opened: OpenWorkbook, state: PageState, page: str = "", *, places: bool = False
) -> CaughtUp:
    """Let what a page holds follow the changes of others since its revision.

    Where nothing of it is in conflict the page counts as up to date from then on, unless lines
    came or went and its wish names ``places``, which do not follow. ``page`` is its name.
    Raises AddressError.
    """
    if state.revision == opened.revision:
        return CaughtUp()
    steps = opened.steps_since(state.revision, without=page)
    if steps is None:
        return CaughtUp(_UNKNOWN if state.text is not None else "", moved=True)
    told = _told(opened.workbook, steps, state)
    moved = any(step.change for step in steps)
    if moved:
        _follow(opened.workbook, steps, state)
    if not told and not (moved and places):
        state.revision = opened.revision
    return CaughtUp(told, moved)


_UNKNOWN = (
    "This workbook was changed elsewhere in the meantime. What you typed is still here; see"
    " whether it still belongs into this cell."
)


def _told(workbook: Workbook, steps: Sequence[Step], state: PageState) -> str:
    """What to say where others changed what the page is about to overwrite, or to read."""
    if state.target:
        return _told_of_fill(steps, state)
    if state.text is None:
        return ""
    return _told_of_cell(workbook, steps, state) or _told_of_read(workbook, steps, state)


def _told_of_fill(steps: Sequence[Step], state: PageState) -> str:
    """What to say where a cell was written that a rehearsed fill reads, or would overwrite."""
    home, target = state.home or state.sheet, Area.parse(state.target)
    source = Area.parse(state.source) if state.source else target
    for area in (source, target):
        if written := written_within(steps, home, area):
            return (
                f"{written.text} was changed elsewhere while this fill of {target.text} is"
                " rehearsed. It is drawn anew: look, then land it."
            )
    return ""


def _told_of_read(workbook: Workbook, steps: Sequence[Step], state: PageState) -> str:
    """What to say where a formula that is written reads a cell that was changed meanwhile."""
    text = state.text or ""
    if not text.startswith("="):
        return ""
    home, cell = state.home or state.sheet, state.writing_cell
    numbers = {sheet.name.casefold(): sheet.id for sheet in workbook.sheets}
    for mention in mentions(text, cell):
        sheet, area = mention.reference.sheet, mention.reference.area(cell)
        read = numbers.get(sheet.casefold()) if sheet else home
        if read and area and written_within(steps, read, area):
            return (
                f"{text[mention.start : mention.end]}, which this reads, was changed elsewhere in"
                " the meantime. What you typed is still here: Enter keeps it, Esc leaves it."
            )
    return ""


def _told_of_cell(workbook: Workbook, steps: Sequence[Step], state: PageState) -> str:
    """What to say where the cell that is written into holds something else now, or is gone."""
    home, cell = state.home or state.sheet, state.writing_cell
    there = followed_cell(steps, home, cell)
    if there is None:
        return (
            "The row or column that you write into was deleted elsewhere. What you typed is still"
            f" here, and Enter puts it into {cell.text} as that is now; Esc leaves it."
        )
    known = any(sheet.id == home for sheet in workbook.sheets)
    if not known or not was_written(steps, home, cell):
        return ""
    sheet = workbook.sheet_by_id(home)
    text = typed_text(sheet.content(there), there, sheet.look(there), workbook.locale)
    holds = f"it holds {text[:80]} now" if text else "it is empty now"
    return (
        f"{there.text} was changed elsewhere while you write into it: {holds}. Enter puts yours in"
        " its place, Esc leaves it."
    )


def _follow(workbook: Workbook, steps: Sequence[Step], state: PageState) -> None:
    home, shown = state.home or state.sheet, state.sheet

    def cell(text: str, sheet: int) -> str:
        at = Cell.parse(text)
        return (followed_cell(steps, sheet, at) or at).text

    def area(text: str, sheet: int) -> str:
        found = followed_area(steps, sheet, Area.parse(text))
        return found.text if found else ""

    if state.text is not None:
        at, text = state.writing_cell, state.text

        def length(end: int) -> int:
            return len(followed_text(workbook, steps, home, at, text[:end])) if end > 0 else end

        state.caret, state.pointed_from = length(state.caret), length(state.pointed_from)
        state.text = followed_text(workbook, steps, home, at, text)
    if state.writing and state.proving < 0:
        state.writing = cell(state.writing, home)
    state.anchor, state.focus = cell(state.anchor, shown), cell(state.focus, shown)
    state.inner = cell(state.inner, shown) if state.inner else ""
    state.also = ",".join(filter(None, (area(e, shown) for e in state.also.split(",") if e)))
    state.over = ",".join(filter(None, (area(e, home) for e in state.over.split(",") if e)))
    if state.target:
        state.source = area(state.source, home) if state.source else ""
        state.target = area(state.target, home)
        state.landing = cell(state.landing, home) if state.landing else ""
        if not state.target or not state.source:
            state.drop_rehearsal()
    if state.rule_for:
        # Of a rule whose area is gone the cell is left in which its condition is written.
        state.rule_for = area(state.rule_for, home) or state.writing
        state.landing = cell(state.landing, home) if state.landing else ""
    holding = {"tried_at": cell, "aimed_at": cell, "copied": area, "look_taken": area}
    for field, follow in holding.items():
        if found := held(getattr(state, field)):
            sheet, place = found
            setattr(state, field, f"{sheet} {follow(place, sheet)}")
