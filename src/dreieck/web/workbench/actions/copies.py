"""Pasting what was copied or cut, here or in another program."""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce

from pydantic import BaseModel, Field

from dreieck.core.editing.copying import What, pasted, pasted_text
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.steps import followed_area
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.words.counting import addresses
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.actions.context import Context, Effect, action
from dreieck.web.workbench.actions.surveys import offer_findings
from dreieck.web.workbench.page_state import Number

MAX_PASTED = 4_000_000
"""How many characters a text from another program can have."""
_PASTED = "paste into "


class Clip(BaseModel):
    """What was copied: an area at a revision of its workbook, -1 if that is not known, or text.

    ``what`` says what of it is pasted.
    """

    clip_workbook: Number = 0
    clip_sheet: Number = 0
    clip_revision: Number = -1
    clip_area: str = ""
    clip_cut: bool = False
    pasted: str | None = Field(None, max_length=MAX_PASTED)
    what: What = "all"


@action(Effect.MOVES)
def paste(context: Context, wish: Clip) -> str:
    """Paste into the selection: text from elsewhere, copies, or cells that were cut."""
    places = context.state.places
    if wish.clip_cut and len(places) > 1:
        raise DreieckError("What was cut goes to one place. Copy it to paste it into several.")
    doubts: dict[Cell, str] = {}
    edits = [edit for place in places for edit in _edits(context, wish, place, doubts)]
    if not edits:
        raise DreieckError("The cells that were cut are empty, so there is nothing to move.")
    context.change(f"{_PASTED}{addresses(places)}", *edits)
    context.state.step = ""
    context.in_parts = bool(wish.clip_area) and not wish.clip_cut and wish.pasted is None
    if len(places) == 1:
        context.state.select(_pasted_area(wish, places[0], edits))
        places = context.state.places
    offer_findings(context, places)
    return f"Pasted into {addresses(places)}. Ctrl+Z takes it back.{_doubtful(doubts)}"


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


def _pasted_area(wish: Clip, at: Area, edits: Sequence[Edit]) -> Area:
    """What a paste at one place has filled."""
    if wish.clip_cut and wish.pasted is None:
        cut = Area.parse(wish.clip_area)
        last = at.first.offset(cut.width - 1, cut.height - 1)
        return Area.spanned(at.first, last)
    written = (area for edit in edits if isinstance(edit, SetCells) for area in edit.areas())
    return reduce(Area.around, written)


@action(Effect.MOVES)
def paste_as(context: Context, wish: Clip) -> str:
    """Paste once more, in place of the paste just made, only a part of what was copied."""
    label, _ = context.opened.history()
    if not (label or "").startswith(_PASTED):
        raise DreieckError("Something else was done since the paste; take that back first.")
    context.opened.undo(context.state.revision)
    context.state.revision = context.opened.revision
    return paste(context, wish)


def _edits(context: Context, wish: Clip, at: Area, doubts: dict[Cell, str]) -> Sequence[Edit]:
    """The edits of a paste; ``doubts`` takes in what has two readings."""
    if wish.pasted is not None:
        typed = pasted_text(context.opened.workbook, context.sheet, at.first, wish.pasted)
        doubts |= typed.doubts
        return [typed.edit]
    if not wish.clip_area:
        raise DreieckError("Nothing has been copied yet.")
    opened = context.opened
    is_other = wish.clip_workbook not in (0, opened.id)
    if is_other:
        # Its lock is held already, together with that of this workbook.
        opened = _other(context, wish)
    area = _copied_area(opened, wish)
    source = opened.workbook.sheet_by_id(wish.clip_sheet)
    if wish.clip_cut and not is_other:
        return cut_to(opened.calculation, source, area, context.sheet, at.first)
    return [pasted(opened.calculation, source, area, context.sheet, at, wish.what)]


def _copied_area(opened: OpenWorkbook, wish: Clip) -> Area:
    """Where the cells stand by now that were copied. Raises DreieckError where they are gone."""
    area: Area | None = Area.parse(wish.clip_area)
    if wish.clip_revision >= 0:
        steps = opened.steps_since(wish.clip_revision)
        area = followed_area(steps, wish.clip_sheet, area) if area and steps is not None else None
    if area is None:
        raise DreieckError("What was copied has changed too much since. Copy it again.")
    return area


def _other(context: Context, wish: Clip) -> OpenWorkbook:
    try:
        return context.library.open(wish.clip_workbook)
    except KeyError:
        raise DreieckError("The workbook that was copied from has been deleted.") from None
