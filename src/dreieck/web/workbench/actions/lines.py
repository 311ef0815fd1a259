"""Inserting and deleting rows and columns on the workbench."""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.editing.inserting import deleted, inserted, losing
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Axis, Lines
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.web.workbench.actions.hands import Hands, action

_MOST = 10_000


def selected_lines(area: Area, axis: Axis) -> Lines:
    """The rows or columns that an area touches."""
    return Lines(axis, area.on(axis)[0], area.length(axis))


@action
def insert_lines(hands: Hands) -> str:
    """Insert as many rows or columns as are selected, before them or behind."""
    wish, area = hands.wish, hands.wish.selection
    lines = selected_lines(area, wish.axis)
    if lines.count > _MOST:
        raise DreieckError(f"At most {_MOST:,} {wish.axis}s can be inserted at once.")
    behind = wish.move in ("down", "right")
    new = Lines(lines.axis, lines.last + 1 if behind else lines.first, lines.count)
    edits = inserted(hands.opened.workbook, hands.sheet, new)
    _change(hands, f"inserting {new.text}", edits)
    there = area.common(lines.area) or area
    steps, (first, last) = lines.count if behind else 0, there.on(lines.axis)
    wish.select(there.spanning(lines.axis, first + steps, last + steps))
    return f"Inserted {new.text}. {_adjusted(edits)}"


@action
def delete_lines(hands: Hands) -> str:
    """Delete the rows or columns that are selected."""
    wish = hands.wish
    lines = selected_lines(wish.selection, wish.axis)
    lost = sum(each.before.size for each in losing(hands.opened.workbook, hands.sheet, lines))
    edits = deleted(hands.opened.workbook, hands.sheet, lines)
    _change(hands, f"deleting {lines.text}", edits)
    wish.select(Area.of(wish.selection.first))
    loss = f" {lost:,} formula{'s' * (lost != 1)} lost a reference." if lost else ""
    return f"Deleted {lines.text}. {_adjusted(edits)}{loss} Ctrl+Z brings all back."


def _change(hands: Hands, label: str, edits: list[Edit]) -> None:
    hands.wish.stop_trying()
    hands.wish.copied, hands.wish.step = "", ""
    hands.change(label, *edits)


def _adjusted(edits: Sequence[Edit]) -> str:
    areas = [area for edit in edits if isinstance(edit, SetCells) for area in edit.areas()]
    count = sum(area.size for area in areas)
    if not count:
        return "No formula had to follow."
    return f"{count:,} formula{' was' if count == 1 else 's were'} adjusted to it."
