"""Inserting and deleting rows and columns on the workbench."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel, Field

from dreieck.core.editing.counted_lines import counting
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.losing import losing_lines
from dreieck.core.editing.taking_along import taken_along
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import EVERYWHERE, LAST, Area, Axis, Lines
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed, many
from dreieck.web.workbench.actions.context import Context, Effect, action
from dreieck.web.workbench.actions.entries import Move
from dreieck.web.workbench.actions.offers import Offer
from dreieck.web.workbench.page_state import Number

_MAX_INSERTED_LINES = 10_000
_LISTED = 4


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
    counts = _counts_over(context, Lines(new.axis, new.first, 1), inside=True)
    change_lines(context, f"inserting {new.text}", edits)
    there = area.common(lines.area) or area
    steps, (first, last) = lines.count if behind else 0, there.on(lines.axis)
    state.select(there.spanning(lines.axis, first + steps, last + steps))
    along = sum(run.area.size for each in taken_along(context.sheet, new) for run in each.runs)
    if along:
        asks: dict[str, str | int] = {"axis": new.axis, "first": new.first, "count": new.count}
        asks["offered"] = context.opened.revision
        context.offers.append(Offer("Take the formulas along", "take-along", asks))
    return f"Inserted {new.text}. {_followed(context, edits, new.last + 1, new.axis)}{counts}"


class Along(OnAxis):
    """Lines that were inserted, and the revision at which it was offered to fill them."""

    first: Number = 1
    count: int = Field(1, ge=1, le=_MAX_INSERTED_LINES)
    offered: Number = -1


@action()
def take_along(context: Context, wish: Along) -> str:
    """Fill lines that were inserted with the formulas around them."""
    lines = Lines(wish.axis, max(wish.first, 1), wish.count)
    edits = taken_along(context.sheet, lines)
    if wish.offered != context.opened.revision or not edits:
        raise DreieckError("The workbook has changed since this was offered. Fill them instead.")
    context.change(f"formulas taken along into {lines.text}", *edits)
    areas = joined(area for edit in edits for area in edit.areas())
    return f"Taken along: {listed(areas)}. Ctrl+Z takes it back."


@action(Effect.MOVES)
def delete_lines(context: Context, wish: OnAxis) -> str:
    """Delete the rows or columns that are selected."""
    state = context.state
    lines = selected_lines(state.selection, wish.axis)
    counts = _counts_over(context, lines)
    lost = losing_lines(context.opened.workbook, context.sheet, lines).count
    edits = deleted(context.opened.workbook, context.sheet, lines)
    change_lines(context, f"deleting {lines.text}", edits)
    state.select(Area.of(state.selection.first))
    loss = f" {many(lost, 'formula')} lost a reference." if lost else ""
    followed = _followed(context, edits, lines.first, lines.axis)
    return f"Deleted {lines.text}. {followed}{loss}{counts} Ctrl+Z brings all back."


def change_lines(context: Context, label: str, edits: list[Edit]) -> None:
    """Make edits that move cells: what was copied, or is tried, is over."""
    context.state.stop_trying()
    context.state.copied, context.state.step = "", ""
    context.change(label, *edits)


def _counts_over(context: Context, lines: Lines, *, inside: bool = False) -> str:
    """Which lookups count over lines by number, and give another one when these come or go.

    Lines that come are counted only ``inside`` of a table, behind its first one.
    """
    found = counting(context.opened.workbook, context.sheet, lines, inside=inside)
    if not found:
        return ""
    named = _named(context, found)
    return f" Lookups count over {lines.axis}s by number there: look at {named}."


def _named(context: Context, found: Sequence[tuple[Sheet, Area]]) -> str:
    """The first ones of some areas, those of the sheet that is shown without its name."""
    told = [
        area_text(area, None if sheet is context.sheet else sheet.name)
        for sheet, area in found[:_LISTED]
    ]
    return ", ".join(told) + (" and more" if len(found) > _LISTED else "")


def _followed(context: Context, edits: Sequence[Edit], first: int, axis: Axis) -> str:
    """Which formulas are written otherwise now, to read on what they read, or moved along.

    Lines moved from the ``first`` one on.
    """
    shown = context.sheet
    found = [
        (context.opened.workbook.sheet_by_id(edit.sheet_id), area)
        for edit in edits
        if isinstance(edit, SetCells)
        for area in joined(edit.areas())
    ]
    if not found:
        moved = shown.count_formulas(EVERYWHERE.spanning(axis, first, LAST[axis]))
        if not moved:
            return "No formula had to follow."
        read = "reads" if moved == 1 else "read"
        return f"{many(moved, 'formula')} moved along and {read} on what was read before."
    found.sort(key=lambda each: each[0] is not shown)
    count = sum(area.size for _, area in found)
    return f"{many(count, 'formula')} followed, in {_named(context, found)}."
