"""Aim: the locks that make a landing read what it should.

Between the start and a landing a part of a reference can do two things, stay or move along. So
what it reads in one landing tells which of both it has to do.
"""

from __future__ import annotations

from itertools import product

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.reference import CellReference, Locks, Reference
from dreieck.core.grid import Area, Cell, column_letters


def aimed(reference: Reference, start: Cell, landing: Cell, wanted: Area) -> Reference:
    """The reference that reads the same at the start, and ``wanted`` in a landing.

    Raises DreieckError where no locks do that, and says why.
    """
    there = reference.area(start)
    if there is None:
        raise DreieckError("The reference reads nothing at the start.")
    now = reference.corners(start)
    choices = [
        reference.with_locks(start, tuple(Locks(*each) for each in corners))
        for corners in product(product((False, True), repeat=2), repeat=len(now))
    ]
    found = [choice for choice in choices if choice.area(landing) == wanted]
    if not found:
        raise DreieckError(_refusal(reference, there, start, landing, wanted))
    return min(found, key=lambda choice: _differences(choice.corners(start), now))


def _differences(one: tuple[Locks, ...], other: tuple[Locks, ...]) -> int:
    return sum(a != b for x, y in zip(one, other, strict=True) for a, b in zip(x, y, strict=True))


def _refusal(reference: Reference, there: Area, start: Cell, landing: Cell, wanted: Area) -> str:
    """Why no locks make a landing read what is wanted."""
    if isinstance(reference, CellReference) and wanted.size > 1:
        return f"The start reads one cell, so {landing.text} can read one only."
    ends = (
        ("column", there.left, wanted.left, landing.column - start.column, column_letters),
        ("row", there.top, wanted.top, landing.row - start.row, str),
        ("column", there.right, wanted.right, landing.column - start.column, column_letters),
        ("row", there.bottom, wanted.bottom, landing.row - start.row, str),
    )
    for axis, at, want, steps, says in ends:
        if want not in (at, at + steps):
            moved = f" or {says(at + steps)} (it moves)" if steps and at + steps > 0 else ""
            return (
                f"No lock can do that: the start reads {axis} {says(at)}, so {landing.text} can"
                f" read {axis} {says(at)} (it stays){moved}, but not {says(want)}."
            )
    return f"No lock can do that: what stays and what moves does not come to {wanted.text}."
