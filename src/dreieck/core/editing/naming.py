"""Giving, renaming and deleting names, and putting them into formulas and out again.

Each gives edits; formulas that use a name follow it. Formulas are rewritten shape by shape, so
forty filled cells are one rewriting.
"""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from typing import Literal

from dreieck.core.analysis.reads import read_names
from dreieck.core.budget import spend
from dreieck.core.calculate.blocks import Block, block_at, blocks, patches
from dreieck.core.editing.following import same_sheet
from dreieck.core.editing.rewriting import Rewriting, edits_of, rewritings
from dreieck.core.editing.stating import restated
from dreieck.core.exceptions import NameRefused
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import (
    CellReference,
    RangeReference,
    Reference,
    staying,
)
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.edits import Edit, SetName, SetRules
from dreieck.core.sheet.names import Named, checked_name, named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.tables.lines import is_closing
from dreieck.core.words.headings import heading_above, heading_left


@dataclass(frozen=True, slots=True)
class Proposal:
    """A name that could be given to an area, taken from its heading."""

    name: str
    area: Area


def given(
    workbook: Workbook, name: str, says: str, at: Cell | None = None, *, anew: bool = False
) -> list[Edit]:
    """Give a name to what a reference or formula says, ``anew`` also where there is such a name.

    Raises NameRefused, FormulaError.
    """
    made = named(name, says, at)
    if made.key in workbook.names and not anew:
        raise NameRefused(
            f"“{made.name}” stands for something already.", _free(workbook, made.name)
        )
    if made.key in (used.casefold() for used in read_names(made.shape)):
        raise NameRefused(f"“{made.name}” cannot stand for itself.", _free(workbook, made.name))
    return [SetName(made.key, made)]


Grows = Literal["", "down", "right"]
"""Whether a range takes in what is added below, or to the right of it, later."""


def area_said(sheet: Sheet, area: Area, grows: Grows = "") -> str:
    """An area as a name stands for it: with its sheet, and never moving."""
    if grows == "down":
        area = area._replace(bottom=MAX_ROW)
    elif grows == "right":
        area = area._replace(right=MAX_COLUMN)
    return reference_text(staying(area, sheet.name), area.first)


def renamed(workbook: Workbook, old: str, new: str) -> list[Edit]:
    """Rename a name; formulas that use it follow. Raises NameRefused."""
    before = workbook.names[old.casefold()]
    name = checked_name(new)
    if name.casefold() != before.key and name.casefold() in workbook.names:
        raise NameRefused(f"“{name}” stands for something already.", _free(workbook, name))

    def change(leaf: tree.Node, _home: Sheet | None) -> tree.Node:
        return tree.Name(name) if _is_name(leaf, before.key) else leaf

    return [SetName(before.key, Named(name, before.shape)), *_everywhere(workbook, change)]


def deleted(workbook: Workbook, name: str, *, keep_addresses: bool) -> list[Edit]:
    """Delete a name. Formulas that use it go back to addresses, or show ``#NAME?``."""
    gone = workbook.names[name.casefold()]
    edits: list[Edit] = [SetName(gone.key, None)]
    if keep_addresses:
        edits.extend(_everywhere(workbook, lambda leaf, home: _spelled_out(leaf, [gone], home)))
    return edits


def uses(workbook: Workbook) -> dict[str, list[tuple[Sheet, Area]]]:
    """Where each name is used: areas of formulas, by the name without case."""
    found: dict[str, list[tuple[Sheet, Area]]] = {}
    for sheet in workbook.sheets:
        for patch in patches(sheet):
            for key in {name.casefold() for name in read_names(patch.shape)}:
                found.setdefault(key, []).append((sheet, patch.area))
    return found


def put_in(
    workbook: Workbook, sheets: list[Sheet], names: list[Named], only: Cell | None = None
) -> list[Rewriting]:
    """Replace addresses by names, where all of a block reads by them just what the name means.

    With ``only`` just the block that holds this cell.
    """
    places = {each.place: each for each in names if each.place}
    found: list[Rewriting] = []
    for sheet in sheets:
        made: dict[tuple[Shape, Shape], list[Area]] = {}
        for block in _blocks(sheet, only):
            change = _leaves(partial(_named_leaf, workbook, sheet, places, block.area))
            for part in block.parts:
                shape = sheet.content(part.first)
                if isinstance(shape, Shape) and (after := change(shape)) is not shape:
                    made.setdefault((shape, after), []).append(part)
        found.extend(
            Rewriting(sheet, tuple(areas), before, after)
            for (before, after), areas in made.items()
        )
    return found


def _named_leaf(
    workbook: Workbook,
    sheet: Sheet,
    places: dict[tuple[str, Area], Named],
    block: Area,
    leaf: tree.Node,
) -> tree.Node:
    """The name of what a reference reads, if it reads the same everywhere in a block."""
    if not isinstance(leaf, CellReference | RangeReference):
        return leaf
    area = leaf.area(block.first)
    if area is None or area != leaf.area(block.last):
        return leaf
    known = leaf.sheet is not None and workbook.has_sheet(leaf.sheet)
    home = workbook.sheet(leaf.sheet).name if known and leaf.sheet else sheet.name
    found = places.get((home, area))
    return tree.Name(found.name) if found else leaf


def _blocks(sheet: Sheet, only: Cell | None) -> list[Block]:
    """All blocks of a sheet, or the one that holds a cell."""
    if only is None:
        return blocks(sheet)
    block = block_at(sheet, only)
    return [block] if block else []


def taken_out(
    sheets: list[Sheet], names: list[Named], only: Cell | None = None
) -> list[Rewriting]:
    """Replace names by the addresses or formulas that they stand for.

    With ``only`` just in the block that holds this cell.
    """

    def on(sheet: Sheet) -> Callable[[tree.Node], tree.Node]:
        return lambda leaf: _spelled_out(leaf, names, sheet)

    every = [each for sheet in sheets for each in rewritings(sheet, _leaves(on(sheet)))]
    if only is None:
        return every
    parts = {sheet: part.parts for sheet in sheets if (part := block_at(sheet, only))}

    def kept(each: Rewriting) -> tuple[Area, ...]:
        return tuple(area for area in each.areas if area in parts.get(each.sheet, ()))

    return [replace(each, areas=areas) for each in every if (areas := kept(each))]


def from_headings(workbook: Workbook, sheet: Sheet, area: Area) -> list[Proposal]:
    """Names for the columns of a table, from the headings in its first row."""
    found: list[Proposal] = []
    taken = set(workbook.names)
    for column in range(area.left, area.right + 1):
        heading = sheet.content(Cell(column, area.top))
        if not isinstance(heading, str) or area.height < 2:
            continue
        name = _proposed(heading)
        if name and name.casefold() not in taken:
            taken.add(name.casefold())
            found.append(Proposal(name, Area(column, area.top + 1, column, area.bottom)))
    return found


def proposed(workbook: Workbook, sheet: Sheet, area: Area) -> str:
    """A free name for an area, from the heading beside or above it; empty where none is found."""
    above, left = heading_above(sheet, area.first), heading_left(sheet, area.first)
    heading = above if area.height > 1 else left if area.width > 1 else left or above
    name = _proposed(heading or "")
    return _free(workbook, name) if name.casefold() in workbook.names else name


def told_about(workbook: Workbook) -> list[tuple[str, str]]:
    """What is odd about names: each name and what is told about it."""
    used, told = uses(workbook), []
    inside = {
        name.casefold() for each in workbook.names.values() for name in read_names(each.shape)
    }
    places: dict[tuple[str, Area], str] = {}
    for each in sorted(workbook.names.values(), key=lambda e: e.key):
        if each.key not in used and each.key not in inside:
            told.append((each.name, "No formula uses this name."))
        place = each.place
        if not place:
            continue
        spend(len(places))
        if place in places:
            told.append((each.name, f"{places[place]} stands for the same place."))
        for other, name in places.items():
            if other != place and other[0] == place[0] and other[1].common(place[1]):
                told.append((each.name, f"It overlaps {name}: {other[1].text}."))
        places[place] = each.name
        if short := short_of(workbook, each):
            told.append((each.name, f"It stops short of its data, which goes on to {short.text}."))
    return told


def short_of(workbook: Workbook, each: Named) -> Cell | None:
    """The last cell of data that goes on below the range of a name, if some does."""
    if each.place is None:
        return None
    name, area = each.place
    if not workbook.has_sheet(name) or area.height < 2 or area.bottom == MAX_ROW:
        return None
    sheet = workbook.sheet(name)
    cell, last = Cell(area.left, area.bottom + 1), None
    inside = sheet.content(Cell(area.left, area.bottom))
    while cell.on_sheet and _goes_on(inside, sheet.content(cell)) and not _ends(sheet, cell.row):
        spend(1)
        last, cell = cell, cell.offset(0, 1)
    return last


def _goes_on(inside: object, below: object) -> bool:
    """Whether what stands below a list is of its sort: the same formula, a number, a text."""
    if inside is None or isinstance(inside, Shape):
        return inside is not None and below is inside
    return type(below) is type(inside)


def _ends(sheet: Sheet, row: int) -> bool:
    """Whether a row is one of totals."""
    used = sheet.used()
    return used is not None and is_closing(sheet, used.spanning("row", row, row), "row")


def _everywhere(
    workbook: Workbook, change: Callable[[tree.Node, Sheet | None], tree.Node]
) -> list[Edit]:
    """Edits that change the leaves of all formulas; names and statements have no sheet."""

    def on(sheet: Sheet | None) -> Callable[[Shape], Shape]:
        return _leaves(lambda leaf: change(leaf, sheet))

    edits = edits_of(each for sheet in workbook.sheets for each in rewritings(sheet, on(sheet)))
    for each in workbook.names.values():
        shape = on(None)(each.shape)
        if shape is not each.shape:
            edits.append(SetName(each.key, Named(each.name, shape)))
    for sheet in workbook.sheets:
        rules = tuple(replace(r, shape=on(sheet)(r.shape)) for r in sheet.layout.rules)
        if rules != sheet.layout.rules:
            edits.append(SetRules(sheet.id, rules))
    return [*edits, *restated(workbook, on(None))]


def _leaves(change: Callable[[tree.Node], tree.Node]) -> Callable[[Shape], Shape]:
    return lambda shape: shape.with_leaves(change)


def _spelled_out(leaf: tree.Node, names: list[Named], home: Sheet | None = None) -> tree.Node:
    """What a name stands for, in brackets where it is more than one thing."""
    for each in names:
        if _is_name(leaf, each.key):
            node = each.shape.tree
            if home and isinstance(node, CellReference | RangeReference):
                node = _without_own_sheet(node, home)
            return tree.closed(node)
    return leaf


def _without_own_sheet(node: Reference, home: Sheet) -> Reference:
    if node.sheet is None or not same_sheet(node.sheet, home.name):
        return node
    return node.on_own_sheet()


def _is_name(leaf: tree.Node, key: str) -> bool:
    return isinstance(leaf, tree.Name) and leaf.text.casefold() == key


def _free(workbook: Workbook, name: str) -> str:
    number = 2
    while f"{name}_{number}".casefold() in workbook.names:
        number += 1
    return f"{name}_{number}"


def _proposed(heading: str) -> str:
    """A name made of a heading; empty where none can be made."""
    plain = re.sub(r"\W+", "_", heading.strip()).strip("_").lower()[:60]
    try:
        return checked_name(plain)
    except NameRefused as refused:
        return refused.proposal if plain else ""
