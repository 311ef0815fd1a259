"""Proofs: statements about cells, written and pointed at like any formula."""

from __future__ import annotations

from dreieck.core.checking.proofs.starting import begun, likely_statement, restated
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import NEW, first_area, numbered, stated, without
from dreieck.core.exceptions import DreieckError
from dreieck.core.functions.statements import STATEMENTS
from dreieck.core.sheet.stated import STANDS, Stated
from dreieck.core.words.proving import statement_said
from dreieck.web.workbench.actions.context import Context, Effect, Index, To, action
from dreieck.web.workbench.proof_cache import sinces, verdicts_of


@action(Effect.REWRITES)
def write_proof(context: Context) -> str:
    """Begin to state what must hold for the selection."""
    context.check_nothing_open()
    area = context.state.selection
    statement = likely_statement(context.opened.calculation, context.sheet, area)
    text, caret = begun(context.opened.calculation, context.sheet, area, statement)
    _write(context, text, caret, NEW)
    return "State what must hold. Choose another kind of statement in the panel; Enter keeps it."


@action(Effect.REWRITES)
def state_otherwise(context: Context, wish: To) -> str:
    """Let the proof that is written claim something else of the same cells."""
    state = context.state
    if wish.to not in STATEMENTS or state.proving < NEW:
        raise DreieckError("There is no such statement, or none is being written.")
    home, calculation = context.home, context.opened.calculation
    state.text, state.caret = restated(calculation, home, state.text or "", wish.to)
    state.pointed_from, state.fresh = -1, True
    return ""


@action(Effect.REWRITES)
def change_proof(context: Context, wish: Index) -> str:
    """Write on in a proof, on the sheet that it is about."""
    context.check_nothing_open()
    proof = numbered(context.opened.workbook, "proofs", wish.index)
    _show(context, proof)
    text = proof.text
    _write(context, text, len(text) - text.endswith(")"), proof.number)
    return ""


@action(Effect.REWRITES)
def delete_proof(context: Context, wish: Index) -> str:
    """Take a proof away."""
    if context.state.proving == wish.index:
        context.state.stop_writing()
        context.insists = True
    context.change("deleting a proof", without(context.opened.workbook, "proofs", wish.index))
    return "The proof is gone. Ctrl+Z brings it back."


@action(Effect.MOVES)
def show_proof(context: Context, wish: Index) -> str:
    """Go to the cells that a proof is about; where it fails to those that are to blame."""
    proof = numbered(context.opened.workbook, "proofs", wish.index)
    said = statement_said(context.opened.workbook, proof)
    verdict = verdicts_of(context.opened)[proof.number]
    if verdict.wrong:
        name, area = verdict.wrong[0]
        context.show_sheet(context.opened.workbook.sheet(name), area)
    else:
        _show(context, proof)
    return f"{said} – {verdict.state}: {verdict.says}."


@action(Effect.MOVES)
def show_break(context: Context, wish: Index) -> str:
    """Go to the change since which a proof fails."""
    proof = numbered(context.opened.workbook, "proofs", wish.index)
    found = sinces(context.opened).get(proof.number)
    said = statement_said(context.opened.workbook, proof)
    if found is None:
        raise DreieckError(f"{said}: it fails since longer ago than could be looked back.")
    if found.place:
        sheet, area = found.place
        context.show_sheet(context.opened.workbook.sheet_by_id(sheet), area)
    return f"{said} – fails since: {found.label}."


def keep_proof(context: Context) -> str:
    """Keep the proof that is written. Raises DreieckError where it is no statement."""
    state, workbook = context.state, context.opened.workbook
    home = context.home
    shape = stated(state.text or "", home)
    edit = proven(workbook, shape, state.proving)
    proof = next(each for each in edit.stated if each.shape is shape)
    said = statement_said(workbook, proof)
    context.change(f"proof: {said}"[:200], edit)
    state.stop_writing()
    _show(context, proof)
    context.insists = True
    verdict = verdicts_of(context.opened)[proof.number]
    return f"{said} – {verdict.state}: {verdict.says}. It is looked at after every change."


def _write(context: Context, text: str, caret: int, number: int) -> None:
    state = context.state
    state.writing, state.text, state.caret = STANDS.text, text, caret
    state.proving, state.fresh, state.flipped = number, True, False
    state.step, state.landing = "write", ""


def _show(context: Context, proof: Stated) -> None:
    """Show the first cells that a proof is about."""
    if found := first_area(context.opened.workbook, proof):
        context.show_sheet(*found)
