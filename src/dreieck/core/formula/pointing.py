"""Pointing: where in a formula a reference may stand, and putting one there."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.formula.printer import area_text, reference_text
from dreieck.core.formula.reference import CellReference, Part, RangeReference, Reference, Span
from dreieck.core.formula.tokens import TokenKind, cut, mentions
from dreieck.core.grid import LAST, Area, Axis, Cell

_BEFORE = (TokenKind.OPERATOR, TokenKind.OPEN, TokenKind.SEPARATOR)
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
    written = area_text(area, sheet)
    return Pointed(text[:begin] + written + text[caret:], begin, begin + len(written))


def touched(text: str, at: Cell, caret: int) -> int | None:
    """The number of the reference that the caret stands in, or at an end of."""
    found = enumerate(mentions(text, at))
    return next((index for index, each in found if each.start <= caret <= each.end), None)


def re_aim(
    text: str, at: Cell, index: int, area: Area, sheet: str | None = None
) -> Pointed | None:
    """Let one reference of a formula read another area; its locks stay as they are.

    With ``sheet`` on that sheet. None where the formula has no such reference.
    """
    found = mentions(text, at)
    if not 0 <= index < len(found):
        return None
    mention = found[index]
    aimed = _aimed(mention.reference, at, area)
    written = reference_text(aimed.on_sheet(sheet) if sheet else aimed, at)
    return Pointed(
        mention.replaced(text, written),
        mention.start,
        mention.start + len(written),
    )


def _aimed(reference: Reference, at: Cell, area: Area) -> Reference:
    if isinstance(reference, CellReference) and area.size == 1:
        return reference.reading(area, at, at)
    first, last = reference.corners(at)[0], reference.corners(at)[-1]

    def span(axis: Axis) -> Span | None:
        base, (low, high) = at.on(axis), area.on(axis)
        if (low, high) == (1, LAST[axis]):
            return None
        return Span.of(
            Part.seen_from(base, low, locked=first.on(axis)),
            Part.seen_from(base, high, locked=last.on(axis)),
        )

    return RangeReference(span("column"), span("row"), reference.sheet)
