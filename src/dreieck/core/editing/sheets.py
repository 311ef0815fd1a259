"""Adding, renaming, duplicating, moving and deleting sheets, with the formulas that follow."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.editing.following import followed, followed_besides, same_sheet
from dreieck.core.editing.rewriting import edits_of, rewritings
from dreieck.core.exceptions import SheetError
from dreieck.core.formula import Shape
from dreieck.core.formula.over_sheets import without_sheet
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import AddSheet, ArrangeSheet, Edit, RemoveSheet
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook, checked_sheet_name
from dreieck.core.values import Place


def added(workbook: Workbook, new_id: int) -> list[Edit]:
    """Add an empty sheet at the end."""
    return [AddSheet(new_id, free_sheet_name(workbook, "Sheet"), len(workbook.sheets))]


def duplicated(workbook: Workbook, sheet: Sheet, new_id: int) -> list[Edit]:
    """Put a copy of a sheet behind it."""
    name = free_sheet_name(workbook, f"{sheet.name[:56]} copy", first="")
    position = workbook.sheets.index(sheet) + 1
    return [AddSheet(new_id, name, position, tuple(sheet.all_runs()), sheet.layout)]


def renamed(workbook: Workbook, sheet: Sheet, name: str) -> list[Edit]:
    """Rename a sheet; formulas that name it follow. Raises SheetError."""
    others = (other.name for other in workbook.sheets if other is not sheet)
    name = checked_sheet_name(name, others)
    position = workbook.sheets.index(sheet)
    return [ArrangeSheet(sheet.id, name, position), *_followed(workbook, sheet, name)]


def rearranged(workbook: Workbook, sheet: Sheet, steps: int) -> list[Edit]:
    """Move a sheet so many places to the right, or to the left below 0."""
    position = min(max(workbook.sheets.index(sheet) + steps, 0), len(workbook.sheets) - 1)
    return [ArrangeSheet(sheet.id, sheet.name, position)]


def deleted(workbook: Workbook, sheet: Sheet) -> list[Edit]:
    """Delete a sheet; references to it are lost for good. Raises SheetError for the last one."""
    if len(workbook.sheets) == 1:
        raise SheetError("A workbook has at least one sheet. Add another one first.")
    return [*_followed(workbook, sheet, None), RemoveSheet(sheet.id)]


@dataclass(frozen=True, slots=True)
class SheetMovement:
    """A sheet that has another name, or none where it is gone."""

    sheet: str
    name: str | None

    def where(self, sheet: str, area: Area) -> tuple[str, Area] | None:
        """Where an area stands: on the sheet as it is called now."""
        if not same_sheet(sheet, self.sheet):
            return sheet, area
        return (self.name, area) if self.name else None


def _followed(workbook: Workbook, sheet: Sheet, name: str | None) -> Iterator[Edit]:
    """The edits of formulas and names that name a sheet, which is called otherwise or gone."""
    movement = SheetMovement(sheet.name, name)
    order = [each.name for each in workbook.sheets]
    for other in workbook.sheets:
        if other is sheet and name is None:
            continue
        called = name if other is sheet and name else other.name

        def change(shape: Shape, before: str = other.name, after: str = called) -> Shape:
            at = shape.home.first if shape.home else Cell(1, 1)
            if name is None:
                shape = Shape.of(without_sheet(shape.tree, sheet.name, order))
            return followed(shape, movement, Place(before, at), Place(after, at))

        yield from edits_of(rewritings(other, change))
    yield from followed_besides(workbook, movement)


def free_sheet_name(workbook: Workbook, stem: str, first: str = " 1") -> str:
    """The first name that no sheet has of a stem and a number; ``first`` is that of the first."""
    number = 1
    name = stem + first
    while workbook.has_sheet(name):
        number += 1
        name = f"{stem} {number}"
    return name
