"""What is stated about cells, proofs and sweeps: kept, changed and taken away."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import SORTS, STANDS, Sort, Stated, one_of
from dreieck.core.sheet.workbook import Workbook

MAX_STATED = 200
"""How many proofs, and how many sweeps, a workbook can have."""
NEW = 0
"""The number of what is not kept yet."""


def stated(text: str, home: Sheet) -> Shape:
    """The statement that a text makes; cells without a sheet are those of ``home``.

    Raises DreieckError where it is none.
    """
    # Statements are written in the neutral way, in whatever locale numbers are.
    entry = read_entry(text, STANDS)
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
    before = workbook.stated(sort)
    if any(each.shape is shape and each.number != number for each in before):
        raise DreieckError(f"This {one_of(sort)} is kept already.")
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
    for each in workbook.stated(sort):
        if each.number == number:
            return each
    raise DreieckError(f"This {one_of(sort)} is no longer there.")


def without(workbook: Workbook, sort: Sort, number: int) -> SetStated:
    """Take a statement away. Raises DreieckError where there is none by now."""
    gone = numbered(workbook, sort, number)
    return SetStated(sort, tuple(e for e in workbook.stated(sort) if e is not gone))


def restated(workbook: Workbook, change: Callable[[Shape], Shape]) -> Iterator[SetStated]:
    """The edits of proofs and sweeps where a change makes another statement of one."""
    for sort in SORTS:
        before = workbook.stated(sort)
        after = tuple(replace(each, shape=change(each.shape)) for each in before)
        if after != before:
            yield SetStated(sort, after)


def first_area(workbook: Workbook, stated: Stated) -> tuple[Sheet, Area] | None:
    """The first cells that a statement is about; None where they are gone."""
    for reference in stated.shape.references:
        area = reference.area(STANDS)
        if area and reference.sheet and workbook.has_sheet(reference.sheet):
            return workbook.sheet(reference.sheet), area
    return None
