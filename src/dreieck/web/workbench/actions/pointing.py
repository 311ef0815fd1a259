"""Pointing at cells while a formula is written, and re-aiming its references."""

from __future__ import annotations

from dreieck.core.formula import may_point, point, re_aim
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.web.workbench.actions.hands import Hands, action


@action
def point_at(hands: Hands) -> str:
    """Put a reference at the caret: to an area, or one step from what was pointed at.

    What was pointed at just before is replaced.
    """
    wish = hands.wish
    text = wish.text or ""
    start = wish.pointed_from if wish.pointed_from >= 0 else None
    if start is None and not may_point(text, wish.caret):
        return ""
    if wish.to:
        area = Area.parse(wish.to)
        wish.anchor, wish.focus = area.first.text, area.last.text
    else:
        _step(hands)
        area = wish.selection
        wish.reveal = wish.focus
    sheet = None if hands.sheet is hands.home else hands.sheet.name
    pointed = point(text, wish.caret, area, sheet, start)
    wish.text, wish.pointed_from, wish.caret = pointed.text, pointed.start, pointed.end
    return ""


@action
def aim_anew(hands: Hands) -> str:
    """Let one reference of the formula that is written read another area."""
    wish = hands.wish
    pointed = re_aim(wish.text or "", hands.writing_cell, wish.index, Area.parse(wish.to))
    if pointed:
        wish.text, wish.caret, wish.pointed_from = pointed.text, pointed.end, -1
    return ""


@action
def to_the_start(hands: Hands) -> str:
    """Bring the cell that is written, or the start of a rehearsal, back into view."""
    wish = hands.wish
    start = Area.parse(wish.source).first if wish.source else hands.writing_cell
    wish.sheet, wish.home = hands.home.id, 0
    wish.reveal = start.text
    return ""


def _step(hands: Hands) -> None:
    """Move the pointer, or its far end, by one cell; it begins at the cell that is written."""
    wish = hands.wish
    begins = wish.pointed_from < 0
    at_home = hands.sheet is hands.home
    anchor = hands.writing_cell if begins and at_home else Cell.parse(wish.anchor)
    focus = anchor if begins else Cell.parse(wish.focus)
    moving = focus if wish.widen else anchor
    moved = Cell(
        min(max(moving.column + wish.columns, 1), MAX_COLUMN),
        min(max(moving.row + wish.rows, 1), MAX_ROW),
    )
    wish.anchor, wish.focus = anchor.text if wish.widen else moved.text, moved.text
