"""Inserting and deleting rows and columns on the workbench."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel

from dreieck.core.editing.inserting import deleted, inserted, losing
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Axis, Lines
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.words.counting import many
from dreieck.web.workbench.actions.context import Context, Effect, action
from dreieck.web.workbench.actions.entries import Move

_MAX_INSERTED_LINES = 10_000


class OnAxis(BaseModel):
    """Rows, or columns."""

    axis: Axis = "column"


class Insertion(OnAxis, Move):
    """On which side of those that are selected they are inserted."""


def selected_lines(area: Area, axis: Axis) -> Lines:
    """The rows or columns that an area touches."""
    return Lines.between(axis, *area.on(axis))


@action(Effect.MOVES)
def insert_lines(context: Context, wish: Insertion) -> str:
    """Insert as many rows or columns as are selected, before them or behind."""
    state, area = context.state, context.state.selection
    lines = selected_lines(area, wish.axis)
    if lines.count > _MAX_INSERTED_LINES:
        raise DreieckError(
            f"At most {_MAX_INSERTED_LINES:,} {wish.axis}s can be inserted at once."
        )
    behind = wish.move in ("down", "right")
    new = Lines(lines.axis, lines.last + 1 if behind else lines.first, lines.count)
    edits = inserted(context.opened.workbook, context.sheet, new)
    change_lines(context, f"inserting {new.text}", edits)
    there = area.common(lines.area) or area
    steps, (first, last) = lines.count if behind else 0, there.on(lines.axis)
    state.select(there.spanning(lines.axis, first + steps, last + steps))
    return f"Inserted {new.text}. {_adjusted(edits)}"


@action(Effect.MOVES)
def delete_lines(context: Context, wish: OnAxis) -> str:
    """Delete the rows or columns that are selected."""
    state = context.state
    lines = selected_lines(state.selection, wish.axis)
    lost = sum(each.before.size for each in losing(context.opened.workbook, context.sheet, lines))
    edits = deleted(context.opened.workbook, context.sheet, lines)
    change_lines(context, f"deleting {lines.text}", edits)
    state.select(Area.of(state.selection.first))
    loss = f" {many(lost, 'formula')} lost a reference." if lost else ""
    return f"Deleted {lines.text}. {_adjusted(edits)}{loss} Ctrl+Z brings all back."


def change_lines(context: Context, label: str, edits: list[Edit]) -> None:
    """Make edits that move cells: what was copied, or is tried, is over."""
    context.state.stop_trying()
    context.state.copied, context.state.step = "", ""
    context.change(label, *edits)


def _adjusted(edits: Sequence[Edit]) -> str:
    areas = [area for edit in edits if isinstance(edit, SetCells) for area in edit.areas()]
    count = sum(area.size for area in areas)
    if not count:
        return "No formula had to follow."
    return f"{count:,} formula{' was' if count == 1 else 's were'} adjusted to it."
