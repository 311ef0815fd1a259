"""Trying an input out: hold another value in it, then keep it or give it back."""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import place_text
from dreieck.core.words.counting import many
from dreieck.web.workbench.actions.context import Context, To, action


@action()
def try_value(context: Context, wish: To) -> str:
    """Hold a trial value in the selected cell; nothing is written."""
    state = context.state
    state.trial, state.tried_at = wish.to.strip(), state.place
    if not context.situation().is_input:
        state.stop_trying()
        raise DreieckError("Choose a cell that holds a number to try another one.")
    return ""


@action()
def keep_trial(context: Context) -> str:
    """Keep the trial value."""
    situation = context.situation()
    trial, place = situation.trial, situation.tried_place
    if not trial or not place:
        raise DreieckError("No trial value is held any more.")
    context.change(f"trial value in {place_text(place)}", trial.edit)
    context.state.stop_trying()
    return f"Kept. {many(trial.count, 'cell')} answered. Ctrl+Z takes it back."


@action()
def give_back(context: Context) -> str:
    """Give the trial value back."""
    context.state.stop_trying()
    return "Given back: everything is as it was."
