"""Pasting what was copied or cut, here or in another program."""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce

from dreieck.core.editing.copying import pasted, pasted_text
from dreieck.core.editing.moving import moved
from dreieck.core.editing.steps import followed_area
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells, SetName
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.actions.hands import Hands, action
from dreieck.web.workbench.state import Wish, said

_PASTED = "paste into "


@action
def paste(hands: Hands) -> str:
    """Paste into the selection: text from elsewhere, copies, or cells that were cut."""
    places = hands.wish.places
    if hands.wish.clip_cut and len(places) > 1:
        raise DreieckError("What was cut goes to one place. Copy it to paste it into several.")
    doubts: dict[Cell, str] = {}
    edits = [edit for place in places for edit in _edits(hands, place, doubts)]
    if not edits:
        raise DreieckError("The cells that were cut are empty, so there is nothing to move.")
    hands.change(f"{_PASTED}{said(places)}", *edits)
    hands.wish.step = ""
    if len(places) == 1:
        hands.wish.select(_pasted_area(hands, places[0], edits))
        places = hands.wish.places
    return f"Pasted into {said(places)}. Ctrl+Z takes it back.{_doubtful(doubts)}"


def _doubtful(doubts: dict[Cell, str]) -> str:
    """What was pasted as text and has two readings, in words."""
    if not doubts:
        return ""
    cell, taken = next(iter(doubts.items()))
    first = f"{cell.text} was taken for {taken}"
    return (
        f" {first}."
        if len(doubts) == 1
        else (f" {len(doubts):,} entries have two readings: {first}, and so on.")
    )


def _pasted_area(hands: Hands, at: Area, edits: Sequence[SetCells | SetName]) -> Area:
    """What a paste at one place has filled."""
    if hands.wish.clip_cut and hands.wish.pasted is None:
        cut = Area.parse(hands.wish.clip_area)
        last = at.first.moved(cut.width - 1, cut.height - 1)
        return Area.spanned(at.first, last)
    written = (area for edit in edits if isinstance(edit, SetCells) for area in edit.areas())
    return reduce(Area.around, written)


@action
def paste_as(hands: Hands) -> str:
    """Paste once more, in place of the paste just made, only a part of what was copied."""
    label, _ = hands.opened.history()
    if not (label or "").startswith(_PASTED):
        raise DreieckError("Something else was done since the paste; take that back first.")
    hands.opened.undo(hands.wish.revision)
    hands.wish.revision = hands.opened.revision
    return paste(hands)


def _edits(hands: Hands, at: Area, doubts: dict[Cell, str]) -> Sequence[SetCells | SetName]:
    """The edits of a paste; ``doubts`` takes in what has two readings."""
    wish = hands.wish
    if wish.pasted is not None:
        typed = pasted_text(hands.opened.workbook, hands.sheet, at.first, wish.pasted)
        doubts |= typed.doubts
        return [typed.edit]
    if not wish.clip_area:
        raise DreieckError("Nothing has been copied yet.")
    opened = hands.opened
    is_other = wish.clip_workbook not in (0, opened.id)
    if is_other:
        # Its lock is held already, together with that of this workbook.
        opened = _other(hands)
    area = _copied_area(opened, hands.wish)
    source = opened.workbook.sheet_by_id(wish.clip_sheet)
    if wish.clip_cut and not is_other:
        return moved(opened.calculation, source, area, hands.sheet, at.first)
    return [pasted(opened.calculation, source, area, hands.sheet, at, wish.what)]


def _copied_area(opened: OpenWorkbook, wish: Wish) -> Area:
    """Where the cells stand by now that were copied. Raises DreieckError where they are gone."""
    area: Area | None = Area.parse(wish.clip_area)
    if wish.clip_revision >= 0:
        steps = opened.steps_since(wish.clip_revision)
        area = followed_area(steps, wish.clip_sheet, area) if area and steps is not None else None
    if area is None:
        raise DreieckError("What was copied has changed too much since. Copy it again.")
    return area


def _other(hands: Hands) -> OpenWorkbook:
    try:
        return hands.library.open(hands.wish.clip_workbook)
    except KeyError:
        raise DreieckError("The workbook that was copied from has been deleted.") from None
