"""The working of formulas in numbers, shown or not."""

from __future__ import annotations

from dreieck.web.workbench.actions.context import Context, action


@action()
def show_working(context: Context) -> str:
    """Show formulas worked out in numbers, step by step, or show that no more."""
    context.state.working = not context.state.working
    return ""
