"""How formulas are worked out, shown or not."""

from __future__ import annotations

from dreieck.web.workbench.actions.context import Context, action


@action()
def show_working(context: Context) -> str:
    """Show formulas worked out in numbers, step by step, or show that no more."""
    context.state.working = not context.state.working
    return ""


@action()
def open_formula(context: Context) -> str:
    """Lay formulas out part by part, with what each is worth, or show them in one line again."""
    context.state.parts = not context.state.parts
    return ""
