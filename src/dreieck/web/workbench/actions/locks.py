"""What of a reference stays: in what is written, rehearsed, or kept."""

from __future__ import annotations

from dreieck.core.formula.locks import Lock, Relocked, mention_at, relock
from dreieck.core.grid import Axis, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.edits import SetCells
from dreieck.web.workbench.actions.context import Context, Effect, Index, action
from dreieck.web.workbench.situation import Situation


class LockWish(Index):
    """What is to stay of a reference on an axis; nothing where it is switched."""

    axis: Axis = "column"
    lock: Lock | None = None


@action(Effect.REWRITES)
def lock(context: Context, wish: LockWish) -> str:
    """Set what of a reference stays; an index below 0 means the one at the caret.

    In a formula that is being written its text changes. In a kept formula the change is
    rehearsed over its whole block, or kept at once where the block is one cell.
    """
    state, situation = context.state, context.situation()
    at, text = formula_at_hand(situation)
    index = wish.index if wish.index >= 0 else mention_at(text, at, state.caret)
    changed = relock(text, at, index, wish.axis, wish.lock)
    if changed is None:
        return "There is no reference here whose lock could be switched."
    rewrite(context, situation, changed)
    return ""


def formula_at_hand(situation: Situation) -> tuple[Cell, str]:
    """The cell of the formula in question, and its text: the start of a fill or block."""
    at = situation.writing_cell if situation.writing else situation.start
    text = situation.state.text
    return at, typed_text(
        situation.content_at(at), at, locale=situation.workbook.locale
    ) if text is None else text


def rewrite(context: Context, situation: Situation, changed: Relocked) -> None:
    """Give the formula in question other locks: while written, rehearsed, or kept."""
    state, (at, _) = context.state, formula_at_hand(situation)
    block, here = situation.block, situation.here
    if block and block.size == 1:
        entry = context.opened.workbook.read_entry(changed.text, at)
        edit = SetCells.of(context.home.id, {at: (entry.content, situation.home.look(at))})
        context.change(f"locks of {at.text}", edit)
        return
    state.flipped = state.flipped or not situation.writing
    state.writing, state.text, state.caret = at.text, changed.text, changed.caret
    if block:
        state.source = at.text
        state.rehearse(block.area)
        state.landing = "" if here == at else here.text
