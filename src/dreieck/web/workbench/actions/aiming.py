"""Aiming: pointing at what a landing should read, and taking locks that are likely."""

from __future__ import annotations

from dreieck.core.checking.aim import aimed
from dreieck.core.editing.following import same_sheet
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import mentions
from dreieck.core.formula.locks import Relocked
from dreieck.core.formula.printer import place_text, reference_text, split_sheet
from dreieck.core.formula.reference import lettered
from dreieck.core.formula.shift import circled
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Place
from dreieck.web.workbench.actions.context import Aim, Context, Effect, Index, To, action
from dreieck.web.workbench.actions.locks import formula_at_hand, rewrite
from dreieck.web.workbench.page_state import held
from dreieck.web.workbench.situation import Situation

KEEP_AIMING = frozenset(
    {"show", "show-sheet", "begin-aim", "aim-next", "stop-aim", "find-locks", "jump", "go-to"}
)
"""The actions while which one goes on pointing; any other ends it."""


@action()
def begin_aim(context: Context, wish: Index) -> str:
    """Begin to point at what a reference should read, or stop if that is what was pointed at."""
    state = context.state
    if state.aiming == wish.index:
        return stop_aim(context)
    situation = context.situation()
    state.aiming, state.aimed_at = wish.index, f"{situation.home.id} {situation.here.text}"
    landing = place_text(Place(situation.home.name, situation.here))
    tag = _tag(situation, state.aiming)
    return f"Point at what {tag} should read in {landing}, on any sheet; Esc ends it."


@action()
def aim_next(context: Context) -> str:
    """Point at what the first reference should read, or the next one; behind the last, stop."""
    state, situation = context.state, context.situation()
    if not situation.distinct:
        return "No formula with references stands here, so there is nothing to aim."
    index = next((each for each in situation.distinct if each > state.aiming), None)
    if index is None:
        return stop_aim(context) or "You aim no more."
    if state.aiming >= 0:
        state.aiming = index
        tag = _tag(situation, index)
        return f"Now point at what {tag} should read; Enter takes the selected cells."
    return begin_aim(context, Index(index=index))


@action(Effect.MOVES)
def stop_aim(context: Context) -> str:
    """Point no more, and go back to the landing."""
    _back(context)
    return ""


@action(Effect.MOVES, Effect.REHEARSES)
def find_locks(context: Context, wish: Aim) -> str:
    """Find the locks with which a landing reads what was pointed at."""
    name, address = split_sheet(wish.to)
    pointed_on = context.sheet if name is None else context.opened.workbook.sheet(name)
    index = context.state.aiming if context.state.aiming >= 0 else wish.index
    if context.state.aimed_at:
        _back(context)
    situation = context.situation()
    at, text = formula_at_hand(situation)
    found = mentions(text, at)
    if not 0 <= index < len(found):
        raise DreieckError("There is no such reference in this formula.")
    mention, landing = found[index], situation.here
    tag = circled(lettered(each.reference for each in found)[index])
    if landing == at:
        raise DreieckError("Choose a landing other than the start; any locks serve the start.")
    named = mention.reference.sheet or situation.home.name
    if not same_sheet(named, pointed_on.name):
        raise DreieckError(
            f"{tag} reads {named}, and locks cannot change that: point there, or write"
            f" the start anew to read {pointed_on.name}."
        )
    changed = reference_text(aimed(mention.reference, at, landing, Area.parse(address)), at)
    new = mention.replaced(text, changed)
    if new == text:
        return f"{tag} reads {wish.to} in {landing.text} already."
    rewrite(context, situation, Relocked(new, mention.start + len(changed)))
    return f"With {changed} in the start, {tag} reads {wish.to} in {landing.text}."


@action()
def advise(context: Context) -> str:
    """Show, or hide, the likely locks."""
    context.state.advice = not context.state.advice
    return ""


@action(Effect.REHEARSES)
def take_formula(context: Context, wish: To) -> str:
    """Put a proposed formula into the start, and rehearse with it."""
    situation = context.situation()
    context.state.advice = False
    rewrite(context, situation, Relocked(wish.to, len(wish.to)))
    return ""


def _tag(situation: Situation, index: int) -> str:
    """The letter of a reference of the formula in question, in its circle."""
    letters = situation.letters
    return circled(letters[index] if index < len(letters) else index)


def _back(context: Context) -> None:
    """Show the landing again for which something was pointed at, which is over."""
    state = context.state
    aimed_at = held(state.aimed_at)
    state.stop_aiming()
    if aimed_at is None:
        return
    sheet, landing = context.opened.workbook.sheet_by_id(aimed_at[0]), Cell.parse(aimed_at[1])
    context.show_sheet(sheet, Area.of(landing))
    if state.target:
        state.select(Area.parse(state.source))
    state.reveal, state.step = landing.text, "check"
