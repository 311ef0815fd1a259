"""Naming and marking what is selected on the workbench."""

from __future__ import annotations

from pydantic import BaseModel, Field

from dreieck.core.editing.naming import Grows, area_said, given
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import Area
from dreieck.core.words.counting import many
from dreieck.core.words.named import stands_for
from dreieck.web.workbench.actions.context import Context, Effect, To, action
from dreieck.web.workbench.actions.going import go_to


class Said(BaseModel):
    """A text with one or several lines."""

    says: str = Field("", max_length=10_001)


class Meaning(Said, To):
    """A name, what it is to stand for, and whether it may stand for something else now."""

    grows: Grows = ""
    anew: bool = False


@action()
def give_name(context: Context, wish: Meaning) -> str:
    """Give a name to what is said, or let a name stand for it from now on."""
    state, workbook = context.state, context.opened.workbook
    says, at = wish.says.strip(), state.active
    if wish.grows:
        says = _growing(context, wish, says)
    edits = given(workbook, wish.to, says, at, anew=wish.anew)
    context.change(f"name {wish.to.strip()}", *edits)
    said = stands_for(workbook.names[wish.to.strip().casefold()])
    return f"{wish.to.strip()} stands for {said} now. Use it in any formula."


def _growing(context: Context, wish: Meaning, says: str) -> str:
    """The range that is said, from its first cell to the end of the sheet."""
    name, address = split_sheet(says)
    home = context.sheet if name is None else context.opened.workbook.sheet(name)
    return area_said(home, Area.parse(address.replace("$", "")), wish.grows)


@action()
def give_names(context: Context, wish: Said) -> str:
    """Give all names that were accepted: one a line, each with its area."""
    edits = []
    for line in filter(None, wish.says.splitlines()):
        name, _, area = line.rpartition(" ")
        says = area_said(context.sheet, Area.parse(area))
        edits.extend(given(context.opened.workbook, name, says))
    if not edits:
        raise DreieckError("No name was chosen.")
    context.change(f"{len(edits)} names", *edits)
    return f"{many(len(edits), 'name')} given. Ctrl+Z takes them back."


@action(Effect.MOVES)
def name_anew(context: Context, wish: To) -> str:
    """Show what a name stands for, and ask for what it is to stand for."""
    named = context.opened.workbook.names.get(wish.to.casefold())
    if named is None:
        raise DreieckError(f"There is no name “{wish.to[:80]}” any more.")
    if named.place:
        go_to(context, wish)
    return f"Select what {wish.to} is to stand for, then press Alt + N."
