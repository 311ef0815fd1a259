"""Sizes of columns and rows, hiding them, and headings that stay in view."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel, Field

from dreieck.core.editing import laying_out
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import AXES, CROSSING, LAST, MAX_ROW, Axis, Lines
from dreieck.core.sheet.edits import SetLayout
from dreieck.core.sheet.layout import MAX_SIZE, Headings
from dreieck.core.words.counting import both
from dreieck.core.words.headings import headings_in_view
from dreieck.web.workbench.actions.context import Context, action
from dreieck.web.workbench.actions.lines import OnAxis, selected_lines
from dreieck.web.workbench.measuring import fitting_height, fitting_width
from dreieck.web.workbench.window import own_size

_MAX_FITTED = 300


class Grasped(OnAxis):
    """The column or row whose edge was grasped; 0 for those that are selected."""

    at: int = Field(0, ge=0, le=MAX_ROW)


class Size(Grasped):
    """A size in pixels, 0 for the usual one; of an edge that was grasped, as it is shown."""

    size: int = Field(0, ge=0, le=MAX_SIZE)


class HeadingsWanted(BaseModel):
    """So many columns and rows stay in view; without them what is proposed does, or nothing."""

    columns: int | None = Field(None, ge=0, le=MAX_ROW)
    rows: int | None = Field(None, ge=0, le=MAX_ROW)


@action()
def resize_lines(context: Context, wish: Size) -> str:
    """Give columns or rows a size; with one that is selected, all that are."""
    lines = _meant(context, wish)
    size = wish.size or None
    if size and wish.at:
        size = own_size(wish.axis, context.state.view, size)
    edit = laying_out.resized(context.sheet, lines, size)
    return _lay_out(context, lines, edit, f"set to {size} pixels" if size else "of usual size")


@action()
def fit_lines(context: Context, wish: Grasped) -> str:
    """Make columns as wide, and rows as high, as what they show."""
    lines = _meant(context, wish)
    sheet, calculation = context.sheet, context.opened.calculation
    last = sheet.end(wish.axis)
    numbers = [n for each in lines for n in range(each.first, min(each.last, last) + 1)]
    if wish.axis == "column":
        numbers = [number for number in numbers if number in sheet.columns]
    if len(numbers) > _MAX_FITTED:
        raise DreieckError(f"At most {_MAX_FITTED} {wish.axis}s can be fitted at once.")
    fitting = fitting_width if wish.axis == "column" else fitting_height
    sizes = {number: fitting(calculation, sheet, number) for number in numbers}
    edit = laying_out.fitted(sheet, lines, sizes)
    return _lay_out(context, lines, edit, "fitted")


@action()
def hide_lines(context: Context, wish: OnAxis) -> str:
    """Hide the selected columns or rows; formulas go on reading them."""
    lines = _selected(context, wish.axis)
    return _lay_out(context, lines, laying_out.hidden(context.sheet, lines), "hidden")


@action()
def show_lines(context: Context, wish: OnAxis) -> str:
    """Show the hidden ones among the selected columns or rows, and next to them."""
    sheet = context.sheet
    lines = [
        each
        for some in _selected(context, wish.axis)
        for each in laying_out.hidden_around(sheet, some)
    ]
    return _lay_out(context, lines, laying_out.shown(sheet, lines), "shown again")


@action()
def keep_in_view(context: Context, wish: HeadingsWanted) -> str:
    """Let the first columns and rows stay in view, or let them go."""
    sheet = context.sheet
    if wish.columns is not None or wish.rows is not None:
        wanted = Headings(wish.columns or 0, wish.rows or 0)
    else:
        wanted = Headings() if sheet.layout.headings != Headings() else headings_in_view(sheet)
    if wanted == sheet.layout.headings:
        return (
            "Nothing stands above or to the left of the numbers here."
            " How many rows and columns are to stay can be said under “Selection …”."
        )
    context.change("headings in view", laying_out.with_headings(sheet, wanted))
    context.state.reveal = context.state.anchor
    if wanted == Headings():
        return "All rows and columns scroll again."
    lines = [(axis, wanted.on(axis)) for axis in reversed(AXES) if wanted.on(axis)]
    first = both([f"the first {axis if n == 1 else f'{n} {axis}s'}" for axis, n in lines])
    stay = "stays" if sum(n for _, n in lines) == 1 else "stay"
    return f"{first[0].upper()}{first[1:]} {stay} in view."


def _meant(context: Context, wish: Grasped) -> list[Lines]:
    """The selected lines; one that was grasped and is not among them stands for itself."""
    crossing = CROSSING[wish.axis]
    lines = [
        selected_lines(place, wish.axis)
        for place in context.state.places
        if not wish.at or place.length(crossing) == LAST[crossing]
    ]
    if wish.at and not any(each.first <= wish.at <= each.last for each in lines):
        return [Lines(wish.axis, wish.at, 1)]
    return lines


def _selected(context: Context, axis: Axis) -> list[Lines]:
    return [selected_lines(place, axis) for place in context.state.places]


def _lay_out(context: Context, lines: Sequence[Lines], edit: SetLayout, done: str) -> str:
    said = ", ".join(each.text for each in lines)
    if edit.layout == context.sheet.layout:
        return ""
    context.change(f"{said} {done}", edit)
    return f"{said[0].upper()}{said[1:]} {done}."
