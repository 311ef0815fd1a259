"""Bringing a page up to date whose workbook was changed elsewhere: its places and text follow."""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.editing.steps import (
    Step,
    followed_area,
    followed_cell,
    followed_text,
    was_written,
)
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.workbook import Workbook
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.page_state import PageState, held


def catch_up(opened: OpenWorkbook, state: PageState) -> str:
    """Let what a page holds follow the changes since its revision.

    Returns what has to be told before anything is overwritten, or no text. Raises AddressError.
    """
    if state.revision == opened.revision:
        return ""
    steps = opened.steps_since(state.revision)
    if steps is None:
        return _UNKNOWN if state.text is not None else ""
    told = _told(opened.workbook, steps, state) if state.text is not None else ""
    if any(step.change for step in steps):
        _follow(opened.workbook, steps, state)
    return told


_UNKNOWN = (
    "This workbook was changed elsewhere in the meantime. What you typed is still here; see"
    " whether it still belongs into this cell."
)


def _told(workbook: Workbook, steps: Sequence[Step], state: PageState) -> str:
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
