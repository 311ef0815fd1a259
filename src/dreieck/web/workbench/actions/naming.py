"""Naming and marking what is selected on the workbench."""

from __future__ import annotations

from dreieck.core.editing.lifting import labelled, marked
from dreieck.core.editing.naming import aimed_anew, given, place_said
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.web.workbench.actions.cells import go_to
from dreieck.web.workbench.actions.hands import Hands, action
from dreieck.web.workbench.state import said

_MOST_MARKED = 100_000


@action
def give_name(hands: Hands) -> str:
    """Give a name to what is said, or let a name stand for it from now on."""
    wish, workbook = hands.wish, hands.opened.workbook
    says, at = wish.says.strip(), wish.active
    if wish.grows:
        says = _growing(hands, says)
    give = aimed_anew if wish.anew and wish.to.strip().casefold() in workbook.names else given
    edits = give(workbook, wish.to, says, at)
    hands.change(f"name {wish.to.strip()}", *edits)
    return f"{wish.to.strip()} stands for {says} now. Use it in any formula."


def _growing(hands: Hands, says: str) -> str:
    """The range that is said, from its first cell to the end of the sheet."""
    sheet, _, address = says.rpartition("!")
    home = (
        hands.opened.workbook.sheet(sheet.strip("'").replace("''", "'")) if sheet else hands.sheet
    )
    return place_said(home, Area.parse(address.replace("$", "")), hands.wish.grows)


@action
def give_names(hands: Hands) -> str:
    """Give all names that were accepted: one a line, each with its area."""
    edits = []
    for line in filter(None, wish_lines(hands)):
        name, _, area = line.rpartition(" ")
        says = place_said(hands.sheet, Area.parse(area))
        edits.extend(given(hands.opened.workbook, name, says))
    if not edits:
        raise DreieckError("No name was chosen.")
    hands.change(f"{len(edits)} names", *edits)
    return f"{len(edits)} name{'s' * (len(edits) != 1)} given. Ctrl+Z takes them back."


def wish_lines(hands: Hands) -> list[str]:
    """The lines that a form with several choices sent."""
    return hands.wish.says.splitlines()


@action
def point_name(hands: Hands) -> str:
    """Show what a name stands for, and ask for what it is to stand for."""
    named = hands.opened.workbook.names.get(hands.wish.to.casefold())
    if named is None:
        raise DreieckError(f"There is no name “{hands.wish.to[:80]}” any more.")
    if named.place:
        go_to(hands)
    return f"Select what {hands.wish.to} is to stand for, then press Alt + N."


@action
def mark_input(hands: Hands) -> str:
    """Mark the selected cells as inputs, with a label if one is given, or take the mark away."""
    places = hands.wish.places
    label = labelled(hands.sheet, places[-1].first, hands.wish.says.strip())
    if sum(area.size for area in places) > _MOST_MARKED:
        raise DreieckError(f"At most {_MOST_MARKED:,} cells can be marked at once.")
    edits = marked(hands.sheet, places)
    hands.change(f"input mark of {said(places)}", *label, *edits)
    role = edits[0].runs[0].look.role
    return f"{said(places)}: {'input from now on' if role == 'input' else 'no input any more'}."
