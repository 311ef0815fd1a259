"""Trying an input out: hold another value in it, then keep it or give it back."""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError
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
    trial = context.situation().trial
    if not trial:
        raise DreieckError("No trial value is held here.")
    context.change(f"trial value in {context.state.anchor}", trial.edit)
    context.state.stop_trying()
    return f"Kept. {trial.count:,} cells have answered. Ctrl+Z takes it back."


@action()
def give_back(context: Context) -> str:
    """Give the trial value back."""
    context.state.stop_trying()
    return "Given back: everything is as it was."
