"""What is stated about cells, proofs and sweeps: kept, changed and taken away."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import Reference
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import SORTS, STANDS, Sort, Stated
from dreieck.core.sheet.workbook import Workbook

MAX_STATED = 200
"""How many proofs, and how many sweeps, a workbook can have."""
NEW = 0
"""The number of what is not kept yet."""


def stated(workbook: Workbook, text: str, home: Sheet) -> Shape:
    """The statement that a text makes; cells without a sheet are those of ``home``.

    Raises DreieckError where it is none.
    """
    entry = workbook.read_entry(text, STANDS)
    if entry.problem:
        raise DreieckError(str(entry.problem))
    if not isinstance(entry.content, Shape):
        raise DreieckError("A statement begins with =, such as =A1>0.")
    return on_sheets(entry.content, home)


def on_sheets(shape: Shape, home: Sheet) -> Shape:
    """A statement in which each reference names its sheet."""

    def named(reference: Reference) -> tree.Node:
        return reference if reference.sheet else reference.on_sheet(home.name)

    return shape.changed(named)


def kept(workbook: Workbook, sort: Sort, shape: Shape, number: int = NEW) -> SetStated:
    """Keep a statement, or change the one with this number.

    Raises DreieckError where it is kept already, or there are too many.
    """
    before = _all(workbook, sort)
    noun = sort.removesuffix("s")
    if any(each.shape is shape and each.number != number for each in before):
        raise DreieckError(f"This {noun} is kept already.")
    numbers = [each.number for each in before]
    if number in numbers:
        at = numbers.index(number)
        return SetStated(sort, (*before[:at], replace(before[at], shape=shape), *before[at + 1 :]))
    if len(before) >= MAX_STATED:
        raise DreieckError(f"A workbook can have {MAX_STATED} {sort}. Delete one of them first.")
    made = SORTS[sort](max(numbers, default=NEW) + 1, shape)
    return SetStated(sort, (*before, made))


def numbered(workbook: Workbook, sort: Sort, number: int) -> Stated:
    """The statement with this number. Raises DreieckError where there is none by now."""
    for each in _all(workbook, sort):
        if each.number == number:
            return each
    raise DreieckError(f"This {sort.removesuffix('s')} is no longer there.")


def without(workbook: Workbook, sort: Sort, number: int) -> SetStated:
    """Take a statement away. Raises DreieckError where there is none by now."""
    gone = numbered(workbook, sort, number)
    return SetStated(sort, tuple(each for each in _all(workbook, sort) if each is not gone))


def _all(workbook: Workbook, sort: Sort) -> tuple[Stated, ...]:
    made: tuple[Stated, ...] = getattr(workbook, sort)
    return made
