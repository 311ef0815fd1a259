"""Filling: rehearse, stretch, go alongside, land."""

from __future__ import annotations

from pydantic import BaseModel

from dreieck.core.editing.fill import alongside as stretched_alongside
from dreieck.core.editing.target import check_target, stretched
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Axis, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.web.workbench.actions.context import Context, Effect, Steps, To, action
from dreieck.web.workbench.window import window


class Landing(BaseModel):
    """Whether what is left of an older, larger fill is cleared."""

    clear: bool = False


@action(Effect.REHEARSES)
def rehearse(context: Context, wish: To) -> str:
    """Rehearse a fill from the selection, or from the cell that is written, to an area."""
    state = context.state
    target = Area.parse(wish.to)
    if target.size == 1:
        # One cell says how far.
        source = state.source or state.writing or state.selection.text
        target = Area.parse(source).around(target)
    check_target(target)
    state.rehearse(target)
    return ""


@action(Effect.REHEARSES)
def stretch(context: Context, wish: Steps) -> str:
    """Stretch or shrink the rehearsed area by one column or row."""
    state = context.state
    source = Area.parse(state.source or state.writing or state.selection.text)
    target = Area.parse(state.target) if state.target else source
    target = stretched(source, target, wish.columns, wish.rows)
    state.rehearse(target)
    column = target.left if target.left < source.left else target.right
    state.reveal = Cell(column, target.top if target.top < source.top else target.bottom).text
    return ""


@action(Effect.REHEARSES)
def alongside(context: Context, wish: Steps) -> str:
    """Stretch the rehearsal as far as the neighbouring data goes, down or to the right."""
    state, sheet = context.state, context.home
    source = Area.parse(state.source or state.writing or state.selection.text)
    target = Area.parse(state.target) if state.target else source
    ways: dict[Axis, str] = {"row": "down", "column": "to the right"}
    asked = [axis for axis, steps in (("row", wish.rows), ("column", wish.columns)) if steps]
    for axis, way in ways.items():
        found = stretched_alongside(sheet, source, axis)
        if found != source and axis in (asked or ways):
            state.rehearse(target.around(found))
            state.reveal = found.last.text
            return f"Alongside the neighbouring data, {way} to {found.last.text}."
    return "No data goes on beside this selection, so there is nothing to go alongside."


@action(Effect.REHEARSES)
def switch_values(context: Context) -> str:
    """Let plain values count on where they would be copied, and the other way round."""
    state, fill = context.state, context.situation().fill
    if not fill or not state.target:
        return "Plain values count on or are copied in a rehearsed fill; there is none now."
    state.values = "copy" if fill.lines else "count"
    return ""


@action(Effect.MOVES, Effect.REHEARSES)
def land(context: Context, wish: Landing) -> str:
    """Write the rehearsed fill."""
    state, situation = context.state, context.situation()
    fill = situation.fill
    if situation.refusal or not (situation.rehearsing and fill):
        raise DreieckError(situation.refusal or "There is no rehearsal to land.")
    if situation.written and situation.written.problem:
        raise DreieckError(f"The start cannot be read: {situation.written.problem}")
    edits = [fill.edit()]
    if wish.clear and situation.rest:
        edits.append(SetCells.with_content(context.home, situation.rest, None))
    context.change(f"fill of {fill.target.text}", *edits)
    other_sheet, state.sheet = state.sheet != context.home.id, context.home.id
    state.stop_writing()
    state.drop_rehearsal()
    state.select(fill.target)
    seen = window(state.model_copy(update={"reveal": ""}), context.home.layout).areas()
    if not other_sheet and any(area.common(fill.target) for area in seen):
        state.reveal = ""
    state.step = ""
    return f"Landed in {fill.target.text}, {fill.target.size:,} cells. Ctrl+Z takes it back."
