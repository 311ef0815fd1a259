"""What is entered into cells: kept, cleared, drawn again."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.calculate import Block, block_at
from dreieck.core.calculate.chance import next_seed
from dreieck.core.editing.entering import entered
from dreieck.core.editing.fill import MAX_FILL, check_target
from dreieck.core.editing.taking_along import same_shape
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import LAST, Area, Axis, Cell
from dreieck.core.sheet.content import Entry, typed_text
from dreieck.core.sheet.edits import SetCells, SetSeed
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import addresses, many
from dreieck.web.workbench.actions.context import Context, To, action
from dreieck.web.workbench.actions.offers import Offer, other_readings
from dreieck.web.workbench.actions.proofs import keep_proof
from dreieck.web.workbench.actions.rules import keep_rule
from dreieck.web.workbench.page_state import MAX_PLACES, Number, PageState

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
    if state.proving >= 0:
        return keep_proof(context)
    cell = context.writing_cell
    block = block_at(sheet, cell)
    entry = _keep(context, sheet, cell, state.text)
    state.stop_writing()
    if sheet.id != state.sheet:
        state.sheet, context.insists = sheet.id, True
    state.select(Area.of(cell))
    if entry.problem:
        context.insists = True
        return ""
    _step(state, sheet, wish)
    context.offers += other_readings(cell, entry.others, context.opened.revision)
    if entry.brackets_added == 1:
        return f"{cell.text}: a closing bracket was missing at the end and has been added."
    if entry.brackets_added:
        return f"{cell.text}: {entry.brackets_added} closing brackets were added at the end."
    if entry.taken:
        return f"{cell.text} was taken for {entry.taken}."
    return _differing(context, sheet, cell, block) if block and block.size > 1 else ""


def _differing(context: Context, sheet: Sheet, cell: Cell, block: Block) -> str:
    """Tell that a landing of a block differs now, and offer the same in all of them."""
    content = sheet.content(cell)
    if isinstance(content, Shape) and content.plain is block.shape.plain:
        return ""
    others = f"the other {many(block.size - 1, 'landing')} of {block.area.text}"
    if not isinstance(content, Shape):
        return f"{cell.text} holds no formula any more, unlike {others}."
    if len(block.parts) <= MAX_PLACES:
        asks = {
            "to": cell.text,
            "says": ",".join(part.text for part in block.parts),
            "offered": str(context.opened.revision),
        }
        context.offers.append(Offer(f"The same in all {block.size:,}", "same-in-all", asks))
    return f"{cell.text} differs now from {others}."


@action()
def same_in_all(context: Context, wish: Reading) -> str:
    """Put the formula of a cell into the areas that are said; the selection stays."""
    sheet, cell = context.sheet, Cell.parse(wish.to)
    content = sheet.content(cell)
    if wish.offered != context.opened.revision or not isinstance(content, Shape):
        raise DreieckError(
            f"The workbook has changed since this was offered. Fill from {cell.text} instead."
        )
    parts = [Area.parse(each) for each in wish.says.split(",")[:MAX_PLACES]]
    for part in parts:
        check_target(part)
    context.change(f"same formula in {addresses(parts)}", same_shape(sheet, parts, content))
    size = sum(part.size for part in parts)
    return f"{many(size, 'landing')} of {addresses(parts)} are the same now. Ctrl+Z takes it back."


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


def _step(state: PageState, sheet: Sheet, wish: Move) -> None:
    """Go on to the next cell, past what is hidden."""
    if wish.move:
        axis, step = _STEPS[wish.move]
        here = Cell.parse(state.anchor)
        there = sheet.layout.on(axis).next_shown(here.on(axis) + step, step)
        if 1 <= there <= LAST[axis]:
            state.stand(here.step(axis, there - here.on(axis)))
        state.reveal, state.step = state.anchor, ""
