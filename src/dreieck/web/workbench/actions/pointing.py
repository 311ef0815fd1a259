"""Pointing at cells while a formula is written, and re-aiming its references."""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import may_point, point, re_aim, touched
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.words.headings import list_around
from dreieck.web.workbench.actions.context import Aim, Context, Effect, Steps, To, action


class Pointer(Steps, To):
    """What is pointed at, or in which direction it lies; a ``jump`` goes to the edge of data.

    With ``whole`` the list is meant in which it lies, with ``reach`` all from what was pointed
    at before to there.
    """

    jump: bool = False
    whole: bool = False
    reach: bool = False


@action(Effect.REWRITES)
def point_at(context: Context, wish: Pointer) -> str:
    """Put a reference at the caret: to an area, or one step from what was pointed at.

    What was pointed at just before is replaced; on another sheet the reference at the caret is
    aimed there, and keeps its locks.
    """
    state = context.state
    text = state.text or ""
    start = state.pointed_from if state.pointed_from >= 0 else None
    index = None
    if start is None and not may_point(text, state.caret):
        index = touched(text, context.writing_cell, state.caret)
        if index is None or context.sheet is context.home:
            return ""
    if wish.to:
        area = Area.parse(wish.to)
        if wish.reach and start is not None:
            area = area.around(state.selection)
        if wish.whole:
            area = list_around(context.sheet, area.first)
        state.anchor, state.focus = area.first.text, area.last.text
    else:
        _step(context, wish)
        area = state.selection
        state.reveal = state.focus
    sheet = None if context.sheet is context.home else context.sheet.name
    if index is not None:
        aimed = re_aim(text, context.writing_cell, index, area, sheet)
        assert aimed is not None
        state.text, state.caret = aimed.text, aimed.end
        return ""
    pointed = point(text, state.caret, area, sheet, start)
    state.text, state.pointed_from, state.caret = pointed.text, pointed.start, pointed.end
    return ""


@action(Effect.REWRITES)
def put_name(context: Context, wish: To) -> str:
    """Put a name to the caret, in place of what was pointed at just before."""
    state = context.state
    text, caret = state.text or "", state.caret
    named = context.opened.workbook.names.get(wish.to.strip().casefold())
    if named is None:
        raise DreieckError(f"There is no name “{wish.to[:80]}” any more.")
    begin = state.pointed_from if state.pointed_from >= 0 else caret
    if begin == caret and not may_point(text, caret):
        raise DreieckError("Put the caret where a name may stand: behind =, ( or an operator.")
    state.text = text[:begin] + named.name + text[caret:]
    state.caret, state.pointed_from = begin + len(named.name), -1
    return ""


@action(Effect.REWRITES)
def move_frame(context: Context, wish: Aim) -> str:
    """Let one reference of the formula that is written read another area."""
    state = context.state
    pointed = re_aim(state.text or "", context.writing_cell, wish.index, Area.parse(wish.to))
    if pointed:
        state.text, state.caret, state.pointed_from = pointed.text, pointed.end, -1
    return ""


@action()
def to_the_start(context: Context) -> str:
    """Bring the cell that is written, or the start of a rehearsal, back into view."""
    state = context.state
    start = Area.parse(state.source).first if state.source else context.writing_cell
    state.sheet, state.home = context.home.id, 0
    state.reveal = start.text
    return ""


def _step(context: Context, wish: Pointer) -> None:
    """Move the pointer, or its far end, by one cell; it begins at the cell that is written."""
    state = context.state
    begins = state.pointed_from < 0
    at_home = context.sheet is context.home
    anchor = context.writing_cell if begins and at_home else Cell.parse(state.anchor)
    focus = anchor if begins else Cell.parse(state.focus)
    moving = focus if wish.widen else anchor
    if wish.jump:
        moved = context.sheet.edge(moving, wish.columns, wish.rows)
        state.anchor, state.focus = anchor.text if wish.widen else moved.text, moved.text
        return
    moved = Cell(
        min(max(moving.column + wish.columns, 1), MAX_COLUMN),
        min(max(moving.row + wish.rows, 1), MAX_ROW),
    )
    state.anchor, state.focus = anchor.text if wish.widen else moved.text, moved.text
