"""Moving cells, rows and columns, and duplicating rows and columns."""

from __future__ import annotations

from pydantic import Field

from dreieck.core.editing import moving_lines
from dreieck.core.editing.cutting import cut_to
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import MAX_ROW, Area, Cell, LineMove, Lines
from dreieck.web.workbench.actions.context import Context, Effect, To, action
from dreieck.web.workbench.actions.lines import OnAxis, change_lines, selected_lines


class Before(OnAxis):
    """The row or column that those which move come to stand before."""

    before: int = Field(0, ge=0, le=MAX_ROW + 1)


class Nudge(OnAxis):
    """By how many rows or columns those that are selected move."""

    steps: int = Field(1, ge=-1, le=1)


@action(Effect.MOVES)
def move_cells(context: Context, wish: To) -> str:
    """Move the selected cells so that the first of them comes to a place."""
    state, sheet = context.state, context.sheet
    area, at = _selected(context), Cell.parse(wish.to)
    if at == area.first:
        return ""
    edits = cut_to(context.opened.calculation, sheet, area, sheet, at)
    if not edits:
        raise DreieckError("These cells are empty, so there is nothing to move.")
    change_lines(context, f"moving {area.text}", edits)
    place = area.offset(at.column - area.left, at.row - area.top)
    state.select(place)
    return f"{area.text} stands in {place.text} now. Ctrl+Z takes it back."


@action(Effect.MOVES)
def move_lines(context: Context, wish: Before) -> str:
    """Move the selected rows or columns to where another one stands."""
    return _move(context, selected_lines(_selected(context), wish.axis), wish.before)


@action(Effect.MOVES)
def nudge_lines(context: Context, wish: Nudge) -> str:
    """Move the selected rows or columns one further, or one back."""
    lines = selected_lines(_selected(context), wish.axis)
    return _move(context, lines, lines.first - 1 if wish.steps < 0 else lines.last + 2)


@action(Effect.MOVES)
def duplicate_lines(context: Context, wish: OnAxis) -> str:
    """Put a copy of the selected rows or columns behind them."""
    state = context.state
    lines = selected_lines(_selected(context), wish.axis)
    edits = moving_lines.duplicated(context.opened.workbook, context.sheet, lines)
    change_lines(context, f"duplicating {lines.text}", edits)
    room = Lines(lines.axis, lines.last + 1, lines.count)
    state.select(state.selection.spanning(lines.axis, room.first, room.last))
    return f"{lines.text.capitalize()} stand a second time in {room.text}."


def _move(context: Context, lines: Lines, before: int) -> str:
    state = context.state
    edits = moving_lines.moved(context.opened.workbook, context.sheet, lines, before)
    change_lines(context, f"moving {lines.text}", edits)
    first = LineMove(lines, before).first
    there = Lines(lines.axis, first, lines.count)
    state.select(state.selection.spanning(lines.axis, there.first, there.last))
    return f"{lines.text.capitalize()} moved to {there.text}; what reads them follows."


def _selected(context: Context) -> Area:
    """The only selected area. Raises DreieckError."""
    if len(context.state.places) > 1:
        raise DreieckError("One area at a time can be moved. Select only one.")
    return context.state.selection
