"""What a page holds of a workbook, places and formulas not kept yet, follows later changes.

A change is boiled down to steps: lines that came or went, and areas that were written.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import cast

from dreieck.core.editing.following import Movement, followed_reference
from dreieck.core.editing.following_lines import LinesMovement
from dreieck.core.formula import mentions
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.tree import Lost
from dreieck.core.grid import Area, Cell, LineChange
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines, SetCells
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place

_MAX_AREAS = 200
"""So many areas of one change are remembered one by one."""


@dataclass(frozen=True, slots=True)
class Step:
    """What one edit did to the places of a sheet."""

    sheet_id: int
    change: LineChange | None = None
    areas: tuple[Area, ...] = ()


def steps_of(edits: Iterable[Edit]) -> Iterator[Step]:
    """The steps that edits come to."""
    for edit in edits:
        match edit:
            case InsertLines():
                yield Step(edit.sheet_id, LineChange(edit.lines, comes=True))
            case DeleteLines():
                yield Step(edit.sheet_id, LineChange(edit.lines, comes=False))
            case SetCells():
                yield Step(edit.sheet_id, areas=_few(edit.areas()))


def followed_area(steps: Sequence[Step], sheet_id: int, area: Area) -> Area | None:
    """Where an area of a sheet stands after steps; None where all of it is gone."""
    for step in steps:
        if step.change and step.sheet_id == sheet_id:
            there = step.change.area(area)
            if there is None:
                return None
            area = there
    return area


def followed_cell(steps: Sequence[Step], sheet_id: int, cell: Cell) -> Cell | None:
    """Where a cell of a sheet stands after steps; None where it is gone."""
    area = followed_area(steps, sheet_id, Area.of(cell))
    return area.first if area else None


def written_within(steps: Sequence[Step], sheet_id: int, area: Area) -> Area | None:
    """A part of an area that the steps wrote into, told by where the area stood before them."""
    here: Area | None = area
    for step in steps:
        if here is None:
            return None
        if step.sheet_id != sheet_id:
            continue
        for each in step.areas:
            if common := each.common(here):
                return common
        if step.change:
            here = step.change.area(here)
    return None


def was_written(steps: Sequence[Step], sheet_id: int, cell: Cell) -> bool:
    """Whether the steps wrote into a cell, told by where it stood before them."""
    if written_within(steps, sheet_id, Area.of(cell)):
        return True
    return followed_cell(steps, sheet_id, cell) is None


def followed_text(
    workbook: Workbook, steps: Sequence[Step], sheet_id: int, cell: Cell, text: str
) -> str:
    """A formula that is being written into a cell, its references following steps.

    ``cell`` is where it stood before them.
    """
    names = {sheet.id: sheet.name for sheet in workbook.sheets}
    home = names.get(sheet_id, "")
    for step in steps:
        there = followed_cell([step], sheet_id, cell) or cell
        moved = names.get(step.sheet_id)
        if step.change and moved:
            text = _after(text, LinesMovement(moved, step.change), Place(home, cell), there)
        cell = there
    return text


def _after(text: str, movement: Movement, before: Place, after: Cell) -> str:
    """The text of a formula that stood at one place, and stands in another cell."""
    pieces: list[str] = []
    end = 0
    for mention in mentions(text, before.cell):
        place = Place(before.sheet, after)
        changed = followed_reference(mention.reference, movement, before, place)
        lost = isinstance(changed, Lost)
        written = "#REF!" if lost else reference_text(cast(Reference, changed), after)
        pieces += [text[end : mention.start], written]
        end = mention.end
    return "".join([*pieces, text[end:]])


def _few(areas: list[Area]) -> tuple[Area, ...]:
    """Areas, or what lies around them where there are many."""
    if len(areas) <= _MAX_AREAS:
        return tuple(areas)
    around = areas[0]
    for area in areas:
        around = around.around(area)
    return (around,)
