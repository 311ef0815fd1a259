"""The shift log: where each reference of a filled formula started and landed."""

from __future__ import annotations

import re
from dataclasses import dataclass

from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Locks, Reference
from dreieck.core.grid import Cell, column_letters, column_number

_CIRCLED_A = 0x24D0
"""The small letter a in a circle; the others follow."""
CIRCLED = re.compile("[\u24d0-\u24e9]+")
"""Letters in circles, as they stand in a sentence."""


@dataclass(frozen=True, slots=True)
class Corner:
    """How far one corner of a reference moved, and which of its parts are locked."""

    columns: int
    rows: int
    locks: Locks


@dataclass(frozen=True, slots=True)
class Shift:
    """One reference of a formula, at the start and in one landing.

    ``columns`` and ``rows`` say how far the corner moved that moved furthest, to the right
    and down. A part counts as locked where it is locked in every corner.
    """

    tag: str
    reference: Reference
    start: str
    here: str
    columns: int
    rows: int
    column_locked: bool
    row_locked: bool
    corners: tuple[Corner, ...]


def tag(index: int) -> str:
    """The letter tag with a number, counted from 0: of a reference that of ``lettered``."""
    return column_letters(index + 1).lower()


def circled(index: int) -> str:
    """The same in circles, for sentences, where a letter would read like a word."""
    return "".join(chr(_CIRCLED_A + ord(letter) - ord("a")) for letter in tag(index))


def uncircled(letters: str) -> int:
    """The number of the reference that letters in circles stand for, counted from 0."""
    return column_number("".join(chr(ord(each) - _CIRCLED_A + ord("A")) for each in letters)) - 1


def shift_log(shape: Shape, start: Cell, landing: Cell) -> list[Shift]:
    """The shifts of all references of a shape filled from ``start`` to ``landing``.

    A reference that falls off the sheet on the way reads ``#REF!`` here.
    """
    return [
        shift_of(tag(letter), reference, start, landing)
        for letter, reference in zip(shape.letters, shape.references, strict=True)
    ]


def shifts_by_letter(shape: Shape, start: Cell, landing: Cell) -> list[Shift]:
    """The same, equal references once: the first with each letter tag, in their order."""
    shifts = shift_log(shape, start, landing)
    return [shifts[index] for index in shape.distinct]


def shift_of(tag: str, reference: Reference, start: Cell, landing: Cell) -> Shift:
    """The shift of one reference of a formula filled from ``start`` to ``landing``."""
    columns, rows = landing.column - start.column, landing.row - start.row
    corners = tuple(
        Corner(0 if locks.column else columns, 0 if locks.row else rows, locks)
        for locks in reference.corners(start)
    )
    return Shift(
        tag,
        reference,
        reference_text(reference, start),
        reference_text(reference, landing),
        max((corner.columns for corner in corners), key=abs),
        max((corner.rows for corner in corners), key=abs),
        all(corner.locks.column for corner in corners),
        all(corner.locks.row for corner in corners),
        corners,
    )
