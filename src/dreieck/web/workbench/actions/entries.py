"""What is entered into cells: kept, cleared, taken back, drawn again."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.calculate.chance import next_seed
from dreieck.core.editing.entering import entered
from dreieck.core.editing.fill import MAX_FILL
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import LAST, Area, Axis, Cell
from dreieck.core.sheet.content import Entry, typed_text
from dreieck.core.sheet.edits import SetCells, SetSeed
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import addresses
from dreieck.web.workbench.actions.context import Context, To, action
from dreieck.web.workbench.actions.rules import keep_rule
from dreieck.web.workbench.page_state import Number, PageState

Towards = Literal["", "down", "up", "right", "left"]
_STEPS: dict[Towards, tuple[Axis, int]] = {
    "down": ("row", 1), "up": ("row", -1), "right": ("column", 1), "left": ("column", -1),
}  # fmt: skip


class Move(BaseModel):
    """Where the selection goes afterwards."""

    move: Towards = ""


class Reading(To):
    """Another reading of an entry, and the revision at which it was offered."""

    says: str = Field("", max_length=10_001)
    offered: Number = -1


@action()
def enter(context: Context, wish: Move) -> str:
    """Keep what is written, and move the selection."""
    state, sheet = context.state, context.home
    if state.text is None:
        _step(state, sheet, wish)
        return ""
    if state.rule_for:
        return keep_rule(context)
    cell = context.writing_cell
    entry = _keep(context, sheet, cell, state.text)
    state.stop_writing()
    if sheet.id != state.sheet:
        state.sheet, context.insists = sheet.id, True
    state.select(Area.of(cell))
    if entry.problem:
        context.insists = True
        return ""
    _step(state, sheet, wish)
    context.offers.extend((cell.text, other) for other in entry.others)
    if entry.brackets_added == 1:
        return f"{cell.text}: a closing bracket was missing at the end and has been added."
    if entry.brackets_added:
        return f"{cell.text}: {entry.brackets_added} closing brackets were added at the end."
    return f"{cell.text} was taken for {entry.taken}." if entry.taken else ""


@action()
def enter_instead(context: Context, wish: Reading) -> str:
    """Let a cell hold another reading of what was entered there; the selection stays."""
    sheet, cell = context.sheet, Cell.parse(wish.to)
    if wish.offered != context.opened.revision:
        raise DreieckError(
            f"The workbook has changed since this was offered. Go to {cell.text} and enter it"
            " there."
        )
    entry = _keep(context, sheet, cell, wish.says)
    if isinstance(entry.content, str):
        return f"{cell.text} holds text now."
    locale = context.opened.workbook.locale
    return f"{cell.text} holds {typed_text(entry.content, cell, sheet.look(cell), locale)} now."


def _keep(context: Context, sheet: Sheet, cell: Cell, text: str) -> Entry:
    """Keep typed text in a cell, if it changes anything; tell how it was understood."""
    entry, content, look = entered(context.opened.workbook, cell, text, sheet.look(cell))
    if (sheet.content(cell), sheet.look(cell)) != (content, look):
        edit = SetCells.of(sheet.id, {cell: (content, look)})
        context.change(f"entry in {cell.text}", edit)
    return entry


@action()
def draw_again(context: Context) -> str:
    """Draw all numbers of the workbook anew that are drawn by chance."""
    context.change("numbers drawn again", SetSeed(next_seed(context.opened.workbook.seed)))
    return "Drawn again. Ctrl+Z brings the numbers back that were there before."


@action()
def clear(context: Context) -> str:
    """Empty the selected cells; their looks stay."""
    sheet, places = context.sheet, context.state.places
    if sum(sheet.count(area) for area in places) > MAX_FILL:
        raise DreieckError(f"At most {MAX_FILL:,} cells can be cleared at once.")
    cells = {cell: (None, sheet.look(cell)) for area in places for cell, _ in sheet.filled(area)}
    if cells:
        context.change(f"clearing of {addresses(places)}", SetCells.of(sheet.id, cells))
    return ""


@action()
def undo(context: Context) -> str:
    """Take the last action back."""
    context.state.drop_rehearsal()
    label = context.opened.undo(context.state.revision)
    return f"Taken back: {label}." if label else "There is nothing to undo."


@action()
def redo(context: Context) -> str:
    """Make the last action again that was taken back."""
    context.state.drop_rehearsal()
    label = context.opened.redo(context.state.revision)
    return f"Made again: {label}." if label else "There is nothing to redo."


def _step(state: PageState, sheet: Sheet, wish: Move) -> None:
    """Go on to the next cell, past what is hidden."""
    if wish.move:
        axis, step = _STEPS[wish.move]
        here = Cell.parse(state.anchor)
        there = sheet.layout.on(axis).next_shown(here.on(axis) + step, step)
        if 1 <= there <= LAST[axis]:
            state.stand(here.step(axis, there - here.on(axis)))
        state.reveal, state.step = state.anchor, ""
