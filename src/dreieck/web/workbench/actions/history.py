"""Taking actions back, and making them again: the page goes where they were made."""

from __future__ import annotations

from functools import reduce

from dreieck.core.calculate import look_of
from dreieck.core.editing.steps import Step
from dreieck.core.exceptions import SheetError
from dreieck.core.formula.printer import place_text
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Place
from dreieck.core.values.look import shown_text
from dreieck.web.workbench.actions.context import Context, Effect, action

_SEEN_WHOLE = 30
"""What changed in no more rows and columns is brought into view as a whole, if it has room."""


@action(Effect.MOVES, must_be_seen=True)
def undo(context: Context) -> str:
    """Take the last action back, and go where it was made."""
    context.state.drop_rehearsal()
    label = context.opened.undo(context.state.revision)
    return f"Taken back: {label}{_gone_to(context)}" if label else "There is nothing to undo."


@action(Effect.MOVES, must_be_seen=True)
def redo(context: Context) -> str:
    """Make the last action again that was taken back, and go where it was made."""
    context.state.drop_rehearsal()
    label = context.opened.redo(context.state.revision)
    return f"Made again: {label}{_gone_to(context)}" if label else "There is nothing to redo."


def _gone_to(context: Context) -> str:
    """Go where the last change was made, and tell what stands there now."""
    found = _changed(context)
    if found is None:
        return "."
    sheet, area = found
    if context.state.text is None:
        context.show_sheet(sheet, area)
        context.state.step = ""
        if area.height <= _SEEN_WHOLE and area.width <= _SEEN_WHOLE:
            context.state.reveal = area.text
    if area.size > 1:
        return f", on {sheet.name}."
    content, look = sheet.content(area.first), sheet.look(area.first)
    value = context.opened.calculation.value(sheet.name, area.first)
    shown = shown_text(value, look_of(content, look), 20, context.opened.workbook.locale)
    place = place_text(Place(sheet.name, area.first))
    return f". {place} shows {shown} now." if shown else f". {place} is empty now."


def _changed(context: Context) -> tuple[Sheet, Area] | None:
    """Where the last change was made: on the sheet that is shown, if it was one of several."""
    opened = context.opened
    steps = [step for step in opened.steps_since(opened.revision - 1) or () if _area(step)]
    steps.sort(key=lambda step: (step.change is None, step.sheet_id != context.state.sheet))
    for step in steps:
        try:
            sheet = opened.workbook.sheet_by_id(step.sheet_id)
        except SheetError:
            continue
        area = _area(step)
        return (sheet, area) if area else None
    return None


def _area(step: Step) -> Area | None:
    """Around all that a step changed; None where it changed no cells."""
    if step.change:
        return step.change.lines.area
    return reduce(Area.around, step.areas) if step.areas else None
