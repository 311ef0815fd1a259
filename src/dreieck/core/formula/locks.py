"""Which corners of a reference stay, and changing that inside the text of a formula."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dreieck.core.formula import mentions
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Locks, Reference
from dreieck.core.grid import AXES, Axis, Cell

Lock = Literal["moves", "first", "last", "stays"]
"""What stays on one axis: nothing, one corner of a range, or all."""

_HOLDS: dict[tuple[bool, bool], Lock] = {
    (False, False): "moves",
    (True, False): "first",
    (False, True): "last",
    (True, True): "stays",
}
_LOCKED = {hold: locked for locked, hold in _HOLDS.items()}


@dataclass(frozen=True, slots=True)
class Relocked:
    """A formula after a change of locks, and where the caret stands: behind the reference."""

    text: str
    caret: int


def axes(reference: Reference) -> tuple[Axis, ...]:
    """The axes on which a reference can be locked: whole columns have no rows to lock."""
    return tuple(axis for axis in AXES if reference.on(axis))


def lock_of(reference: Reference, at: Cell, axis: Axis) -> Lock:
    """What of a reference stays on one axis."""
    corners = reference.corners(at)
    return _HOLDS[corners[0].on(axis), corners[-1].on(axis)]


def with_lock(reference: Reference, at: Cell, axis: Axis, hold: Lock) -> Reference:
    """The reference that reads the same from ``at`` and stays as told on one axis."""
    locks = _LOCKED[hold]
    corners = tuple(
        Locks(**(corner._asdict() | {axis: lock}))
        for corner, lock in zip(reference.corners(at), locks, strict=False)
    )
    return reference.with_locks(at, corners)


def relock(
    text: str, at: Cell, index: int, axis: Axis, hold: Lock | None = None
) -> Relocked | None:
    """Set what stays of one reference of a formula that is being written into ``at``.

    ``index`` counts the references of the text from 0. Without ``hold`` the reference is
    switched: from *stays* to *moves*, from all else to *stays*. Equal references go along, the
    rest of the text stays as typed, finished or not. None where there is no such reference or
    axis.
    """
    found = mentions(text, at)
    if not 0 <= index < len(found) or axis not in axes(found[index].reference):
        return None
    mention = found[index]
    if hold is None:
        hold = "moves" if lock_of(mention.reference, at, axis) == "stays" else "stays"
    written = reference_text(with_lock(mention.reference, at, axis, hold), at)
    caret = mention.start + len(written)
    for other in reversed(found):
        if other.reference == mention.reference:
            text = other.replaced(text, written)
            if other.start < mention.start:
                caret += len(written) - (other.end - other.start)
    return Relocked(text, caret)


def mention_at(text: str, at: Cell, caret: int) -> int:
    """The number of the reference at the caret, else of the last one before it, else 0."""
    starts = [mention.start for mention in mentions(text, at)]
    return max(sum(start <= caret for start in starts) - 1, 0)
