"""Trying an input out: hold another value in it, then keep it or give it back."""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError
from dreieck.web.workbench.actions.hands import Hands, action


@action
def try_value(hands: Hands) -> str:
    """Hold a trial value in the selected cell; nothing is written."""
    wish = hands.wish
    wish.trial, wish.tried_at = wish.to.strip(), wish.place
    if not hands.situation().is_input:
        wish.stop_trying()
        raise DreieckError("Choose a cell that holds a number to try another one.")
    return ""


@action
def keep_trial(hands: Hands) -> str:
    """Keep the trial value."""
    trial = hands.situation().trial
    if not trial:
        raise DreieckError("No trial value is held here.")
    hands.change(f"trial value in {hands.wish.anchor}", trial.edit)
    hands.wish.stop_trying()
    return f"Kept. {trial.count:,} cells have answered. Ctrl+Z takes it back."


@action
def give_back(hands: Hands) -> str:
    """Give the trial value back."""
    hands.wish.stop_trying()
    return "Given back: everything is as it was."
