"""Filling: rehearse, stretch, go alongside, land."""

from __future__ import annotations

from dreieck.core.editing.fill import alongside as stretched_alongside
from dreieck.core.editing.fill import check_target, stretched
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Axis, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.web.workbench.actions.hands import Hands, action


@action
def rehearse(hands: Hands) -> str:
    """Rehearse a fill from the selection, or from the cell that is written, to an area."""
    wish = hands.wish
    target = Area.parse(wish.to)
    check_target(target)
    wish.rehearse(target)
    return ""


@action
def stretch(hands: Hands) -> str:
    """Stretch or shrink the rehearsed area by one column or row."""
    wish = hands.wish
    source = Area.parse(wish.source or wish.writing or wish.selection.text)
    target = Area.parse(wish.target) if wish.target else source
    target = stretched(source, target, wish.columns, wish.rows)
    wish.rehearse(target)
    column = target.left if target.left < source.left else target.right
    wish.reveal = Cell(column, target.top if target.top < source.top else target.bottom).text
    return ""


@action
def alongside(hands: Hands) -> str:
    """Stretch the rehearsal as far as the neighbouring data goes, down or to the right."""
    wish, sheet = hands.wish, hands.home
    source = Area.parse(wish.source or wish.writing or wish.selection.text)
    target = Area.parse(wish.target) if wish.target else source
    ways: dict[Axis, str] = {"row": "down", "column": "to the right"}
    asked = [axis for axis, steps in (("row", wish.rows), ("column", wish.columns)) if steps]
    for axis, way in ways.items():
        found = stretched_alongside(sheet, source, axis)
        if found != source and axis in (asked or ways):
            wish.rehearse(target.around(found))
            wish.reveal = found.last.text
            return f"Alongside the neighbouring data, {way} to {found.last.text}."
    return "No data goes on beside this selection, so there is nothing to go alongside."


@action
def switch_values(hands: Hands) -> str:
    """Let plain values count on where they would be copied, and the other way round."""
    wish, fill = hands.wish, hands.situation().fill
    if not fill or not wish.target:
        return "Plain values count on or are copied in a rehearsed fill; there is none now."
    wish.values = "copy" if fill.lines else "count"
    return ""


@action
def land(hands: Hands) -> str:
    """Write the rehearsed fill."""
    wish, situation = hands.wish, hands.situation()
    fill = situation.fill
    if situation.refusal or not (situation.rehearsing and fill):
        raise DreieckError(situation.refusal or "There is no rehearsal to land.")
    if situation.written and situation.written.problem:
        raise DreieckError(f"The start cannot be read: {situation.written.problem}")
    edits = [fill.edit()]
    if wish.clear and situation.rest:
        edits.append(SetCells.with_content(hands.home, situation.rest, None))
    hands.change(f"fill of {fill.target.text}", *edits)
    wish.sheet = hands.home.id
    wish.stop_writing()
    wish.drop_rehearsal()
    wish.stand(fill.source.first)
    wish.step = ""
    return f"Landed in {fill.target.text}, {fill.target.size:,} cells. Ctrl+Z takes it back."
