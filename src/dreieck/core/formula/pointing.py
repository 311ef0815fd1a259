"""Pointing: where in a formula a reference may stand, and putting one there."""

from __future__ import annotations

from dataclasses import dataclass, replace

from dreieck.core.formula.printer import reference_text, sheet_text
from dreieck.core.formula.reference import CellReference, Part, RangeReference, Reference, Span
from dreieck.core.formula.tokens import Kind, cut, mentions
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell

_BEFORE = (Kind.OPERATOR, Kind.OPEN, Kind.SEPARATOR)
_BEHIND = set(" )+-*/^&=<>,;%~!")


@dataclass(frozen=True, slots=True)
class Pointed:
    """A formula with a reference put into it, and where that begins and ends."""

    text: str
    start: int
    end: int


def may_point(text: str, caret: int) -> bool:
    """Whether a reference may stand at the caret of a formula that is being written."""
    if not text.startswith("=") or not 1 <= caret <= len(text):
        return False
    if caret < len(text) and text[caret] not in _BEHIND:
        return False
    tokens, whole = cut(text[:caret])
    if not whole:
        return False
    if not tokens:
        return True
    last = tokens[-1]
    return last.kind in _BEFORE and last.text != "%"


def point(text: str, caret: int, area: Area, sheet: str | None, start: int | None) -> Pointed:
    """Put a reference to ``area`` at the caret, of ``sheet`` if it is another one.

    ``start`` is where the reference begins that was pointed at just before and ends at the
    caret; it is replaced.
    """
    begin = caret if start is None else start
    written = area.text if sheet is None else f"{sheet_text(sheet)}!{area.text}"
    return Pointed(text[:begin] + written + text[caret:], begin, begin + len(written))


def re_aim(text: str, at: Cell, index: int, area: Area) -> Pointed | None:
    """Let one reference of a formula read another area; its locks stay as they are.

    None where the formula has no such reference.
    """
    found = mentions(text, at)
    if not 0 <= index < len(found):
        return None
    mention = found[index]
    written = reference_text(_aimed(mention.reference, at, area), at)
    return Pointed(
        text[: mention.start] + written + text[mention.end :],
        mention.start,
        mention.start + len(written),
    )


def _aimed(reference: Reference, at: Cell, area: Area) -> Reference:
    first, last = reference.corners(at)[0], reference.corners(at)[-1]
    if area.size == 1 and isinstance(reference, CellReference):
        return replace(
            reference,
            column=Part.seen_from(at.column, area.left, locked=first.column),
            row=Part.seen_from(at.row, area.top, locked=first.row),
        )
    columns = Span.of(
        Part.seen_from(at.column, area.left, locked=first.column),
        Part.seen_from(at.column, area.right, locked=last.column),
    )
    rows = Span.of(
        Part.seen_from(at.row, area.top, locked=first.row),
        Part.seen_from(at.row, area.bottom, locked=last.row),
    )
    return RangeReference(
        None if (area.left, area.right) == (1, MAX_COLUMN) else columns,
        None if (area.top, area.bottom) == (1, MAX_ROW) else rows,
        reference.sheet,
    )
