"""What refers to something that moves, goes, or is called otherwise, follows it.

Whoever moves things says what becomes of places, as a ``Movement``; what becomes of references,
formulas, names and statements then is said here, once for inserting, deleting, cutting and sheets.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from functools import partial
from typing import Protocol

from dreieck.core.editing.stating import restated
from dreieck.core.formula import Shape
from dreieck.core.formula.over_sheets import with_references
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.tree import Lost, Node, walk
from dreieck.core.grid import AXES, EVERYWHERE, LAST, Area, Cell
from dreieck.core.sheet.chart import Chart, Source, chart_numbered, free_number
from dreieck.core.sheet.edits import Edit, SetCharts, SetName, SetRules, SetStated
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import STANDS
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
    changed = with_references(
        shape.tree,
        lambda each: followed_reference(each, movement, before, after),
        lambda each: _followed_end(each, movement, before, after),
    )
    return Shape.of(changed)


def _followed_end(reference: Reference, movement: Movement, before: Place, after: Place) -> Node:
    """The end of a range over sheets: it follows its sheet, and reads the same cells there.

    What moves on one of the sheets stays where it is on the others.
    """
    area = reference.area(before.cell)
    if area is None:
        return reference
    there = movement.where(reference.sheet or before.sheet, EVERYWHERE)
    changed = reference
    if before.cell != after.cell:
        changed = reference.reading(area, before.cell, after.cell)
    return changed.on_sheet(there[0]) if there else changed


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
        base = Place("", each.base)
        changed = with_references(
            each.shape.tree,
            partial(_followed_in_name, movement, each.base),
            partial(_followed_end, movement=movement, before=base, after=base),
        )
        shape = Shape.of(changed)
        if shape is not each.shape:
            yield SetName(each.key, Named(each.name, shape))


def followed_statements(workbook: Workbook, movement: Movement) -> Iterator[SetStated]:
    """The edits of proofs and sweeps after a movement, where one of them follows it.

    They read the same cells wherever they are looked at, so that a lock holds nothing back.
    """
    stands = Place("", STANDS)
    return restated(workbook, lambda shape: followed(shape, movement, stands, stands))


def followed_besides(workbook: Workbook, movement: Movement) -> Iterator[Edit]:
    """The edits after a movement of all that is kept besides cells and follows it."""
    yield from followed_names(workbook, movement)
    yield from followed_layouts(workbook, movement)
    yield from followed_statements(workbook, movement)


def followed_layouts(workbook: Workbook, movement: Movement) -> Iterator[SetRules | SetCharts]:
    """The edits of rules and charts after a movement; each goes where all of its area goes."""
    rules: dict[int, list[Rule]] = {sheet.id: [] for sheet in workbook.sheets}
    charts: dict[int, list[Chart]] = {sheet.id: [] for sheet in workbook.sheets}
    for sheet in workbook.sheets:
        for rule in sheet.layout.rules:
            there = _home(workbook, movement, sheet, rule.area)
            if there:
                home, _, area = there
                shape = _followed_rule(rule, movement, sheet.name)
                rules[home.id].append(Rule(area, shape, rule.tone))
        for chart in sheet.layout.charts:
            there = _home(workbook, movement, sheet, chart.place)
            if there:
                home, name, place = there
                sources = tuple(_followed_sources(chart, movement, sheet.name, name))
                charts[home.id].append(replace(chart, sources=sources, place=place))
    for sheet in workbook.sheets:
        if tuple(rules[sheet.id]) != sheet.layout.rules:
            yield SetRules(sheet.id, tuple(rules[sheet.id]))
        if tuple(charts[sheet.id]) != sheet.layout.charts:
            yield SetCharts(sheet.id, _told_apart(charts[sheet.id]))


def _followed_rule(rule: Rule, movement: Movement, sheet: str) -> Shape:
    """The condition of a rule after a movement, as that of its cells tells that loses least.

    A cell that goes itself cannot speak for the others.
    """
    area = rule.area
    middle = Cell((area.left + area.right) // 2, (area.top + area.bottom) // 2)
    shapes = (
        followed(rule.shape, movement, Place(sheet, cell), Place(there[0], there[1].first))
        for cell in (area.first, middle, area.last)
        if (there := movement.where(sheet, Area.of(cell)))
    )
    return min(shapes, key=_losses, default=rule.shape)


def _losses(shape: Shape) -> int:
    return sum(isinstance(node, Lost) for node in walk(shape.tree))


def _home(
    workbook: Workbook, movement: Movement, sheet: Sheet, area: Area
) -> tuple[Sheet, str, Area] | None:
    """The sheet on which an area stands after a movement, what that is called then, and where."""
    there = movement.where(sheet.name, area)
    if there is None:
        return None
    home = next((each for each in workbook.sheets if same_sheet(each.name, there[0])), sheet)
    return home, *there


def _followed_sources(
    chart: Chart, movement: Movement, before: str, after: str
) -> Iterator[Source]:
    """What a chart shows that stood on one sheet and stands on another after a movement."""
    for source in chart.sources:
        there = movement.where(source.sheet or before, source.area)
        if there:
            yield Source(None if same_sheet(there[0], after) else there[0], there[1])


def _told_apart(charts: list[Chart]) -> tuple[Chart, ...]:
    """The same charts; one whose number another one has gets a new one."""
    found: tuple[Chart, ...] = ()
    for chart in charts:
        taken = chart_numbered(found, chart.number) is not None
        every = (*found, *charts)
        found = (*found, replace(chart, number=free_number(every)) if taken else chart)
    return found


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
