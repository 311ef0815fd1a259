"""Pasting what was copied or cut, here or in another program."""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.address import Area
from dreieck.core.copying import pasted, pasted_text
from dreieck.core.edits import SetCells, SetName
from dreieck.core.exceptions import DreieckError
from dreieck.core.moving import moved
from dreieck.store import OpenWorkbook
from dreieck.web.hands import Hands, action

_PASTED = "paste into "


@action
def paste(hands: Hands) -> str:
    """Paste into the selection: text from elsewhere, copies, or cells that were cut."""
    edits = _edits(hands)
    last = edits[-1]
    assert isinstance(last, SetCells)
    whole, *others = last.areas()
    for each in others:
        whole = whole.around(each)
    hands.change(f"{_PASTED}{whole.text}", *edits)
    hands.wish.select(whole)
    hands.wish.step = ""
    return f"Pasted into {whole.text}. Ctrl+Z takes it back."


@action
def paste_as(hands: Hands) -> str:
    """Paste once more, in place of the paste just made, only a part of what was copied."""
    label, _ = hands.opened.history()
    if not (label or "").startswith(_PASTED):
        raise DreieckError("Something else was done since the paste; take that back first.")
    hands.opened.undo(hands.wish.revision)
    hands.wish.revision = hands.opened.revision
    return paste(hands)


def _edits(hands: Hands) -> Sequence[SetCells | SetName]:
    wish, at = hands.wish, hands.wish.selection
    if wish.pasted is not None:
        return [pasted_text(hands.opened.workbook, hands.sheet, at.first, wish.pasted)]
    if not wish.clip_area:
        raise DreieckError("Nothing has been copied yet.")
    area = Area.parse(wish.clip_area)
    opened = hands.opened
    if wish.clip_workbook not in (0, opened.id):
        opened = _other(hands)
        with opened.lock:
            source = opened.workbook.sheet_by_id(wish.clip_sheet)
            copy = pasted(opened.calculation, source, area, hands.sheet, at, wish.what)
        return [copy]
    source = opened.workbook.sheet_by_id(wish.clip_sheet)
    if wish.clip_cut:
        return moved(opened.calculation, source, area, hands.sheet, at.first)
    return [pasted(opened.calculation, source, area, hands.sheet, at, wish.what)]


def _other(hands: Hands) -> OpenWorkbook:
    try:
        return hands.library.open(hands.wish.clip_workbook)
    except KeyError:
        raise DreieckError("The workbook that was copied from has been deleted.") from None
