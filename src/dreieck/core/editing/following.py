"""What refers to something that moves, goes, or is called otherwise, follows it.

Whoever moves things says what becomes of places, as a ``Movement``; what becomes of references,
formulas and names then is said here, once for inserting, deleting, cutting and sheets.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from typing import Protocol

from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.tree import Lost, Node
from dreieck.core.grid import AXES, LAST, Area, Cell
from dreieck.core.sheet.edits import SetName, SetRules
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place


class Movement(Protocol):
    """What becomes of places on sheets."""

    def where(self, sheet: str, area: Area) -> tuple[str, Area] | None:
        """Where what reads an area of a sheet finds it afterwards; None where it is gone."""


def same_sheet(one: str, other: str) -> bool:
    """Whether two names mean one sheet."""
    return one.casefold() == other.casefold()


def followed(shape: Shape, movement: Movement, before: Place, after: Place) -> Shape:
    """What a formula becomes that stood at one place and stands at another after a movement."""
    return shape.changed(lambda each: followed_reference(each, movement, before, after))


def followed_reference(
    reference: Reference, movement: Movement, before: Place, after: Place
) -> Node:
    """The reference that goes on reading what it read; lost where that is gone."""
    area = reference.area(before.cell)
    if area is None:
        return reference
    sheet = reference.sheet or before.sheet
    there = movement.where(sheet, area)
    if there is None:
        return Lost()
    name, place = there
    changed = reference
    if place != area or before.cell != after.cell:
        changed = reference.reading(place, before.cell, after.cell)
    if reference.sheet is None and same_sheet(name, after.sheet):
        return changed
    return changed if name == reference.sheet else changed.on_sheet(name)


def followed_names(workbook: Workbook, movement: Movement) -> Iterator[SetName]:
    """The edits of names after a movement.

    What a name says by position is worked out where the name is used: on that axis it may read
    any place, and does not follow.
    """
    for each in workbook.names.values():
        shape = each.shape.changed(partial(_followed_in_name, movement, each.base))
        if shape is not each.shape:
            yield SetName(each.key, Named(each.name, shape))


def followed_rules(workbook: Workbook, movement: Movement) -> Iterator[SetRules]:
    """The edits of rules after a movement; a rule goes where all of its area goes."""
    found: dict[int, list[Rule]] = {sheet.id: [] for sheet in workbook.sheets}
    for sheet in workbook.sheets:
        for rule in sheet.layout.rules:
            there = movement.where(sheet.name, rule.area)
            if there is None:
                continue
            name, area = there
            home = next((each for each in workbook.sheets if same_sheet(each.name, name)), sheet)
            before, after = Place(sheet.name, rule.area.first), Place(name, area.first)
            shape = followed(rule.shape, movement, before, after)
            found[home.id].append(Rule(area, shape, rule.tone))
    for sheet in workbook.sheets:
        if tuple(found[sheet.id]) != sheet.layout.rules:
            yield SetRules(sheet.id, tuple(found[sheet.id]))


def _followed_in_name(movement: Movement, base: Cell, reference: Reference) -> Node:
    area = reference.area(base)
    if reference.sheet is None or area is None:
        return reference
    free = [axis for axis in AXES if not all(part.locked for part in reference.on(axis))]
    anywhere = area
    for axis in free:
        anywhere = anywhere.spanning(axis, 1, LAST[axis])
    there = movement.where(reference.sheet, anywhere)
    if there is None:
        return Lost()
    name, place = there
    for axis in free:
        place = place.spanning(axis, *area.on(axis))
    return reference.reading(place, base, base).on_sheet(name)
