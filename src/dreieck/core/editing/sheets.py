"""Adding, renaming, duplicating, moving and deleting sheets, with the formulas that follow."""

from __future__ import annotations

from collections.abc import Callable

from dreieck.core.editing.naming import follow
from dreieck.core.exceptions import SheetError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.tree import Lost, Node
from dreieck.core.grid import EVERYWHERE
from dreieck.core.sheet.edits import AddSheet, ArrangeSheet, Edit, RemoveSheet, SetCells, SetName
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook, checked_sheet_name
from dreieck.core.values import Place


def added(workbook: Workbook, new_id: int) -> list[Edit]:
    """Add an empty sheet at the end."""
    return [AddSheet(new_id, _free_name(workbook, "Sheet"), len(workbook.sheets))]


def duplicated(workbook: Workbook, sheet: Sheet, new_id: int) -> list[Edit]:
    """Put a copy of a sheet behind it."""
    name = _free_name(workbook, f"{sheet.name[:56]} copy", first="")
    position = workbook.sheets.index(sheet) + 1
    return [AddSheet(new_id, name, position, tuple(sheet.all_runs()), dict(sheet.widths))]


def renamed(workbook: Workbook, sheet: Sheet, name: str) -> list[Edit]:
    """Rename a sheet; formulas that name it follow. Raises SheetError."""
    others = (other.name for other in workbook.sheets if other is not sheet)
    name = checked_sheet_name(name, others)
    position = workbook.sheets.index(sheet)
    follow = _rewritten(workbook, sheet, lambda reference: reference.on_sheet(name))
    names = _names_follow(workbook, sheet, lambda reference: reference.on_sheet(name))
    return [ArrangeSheet(sheet.id, name, position), *follow, *names]


def moved(workbook: Workbook, sheet: Sheet, steps: int) -> list[Edit]:
    """Move a sheet so many places to the right, or to the left below 0."""
    position = min(max(workbook.sheets.index(sheet) + steps, 0), len(workbook.sheets) - 1)
    return [ArrangeSheet(sheet.id, sheet.name, position)]


def deleted(workbook: Workbook, sheet: Sheet) -> list[Edit]:
    """Delete a sheet; references to it are lost for good. Raises SheetError for the last one."""
    if len(workbook.sheets) == 1:
        raise SheetError("A workbook has at least one sheet. Add another one first.")
    lost = _rewritten(workbook, sheet, lambda reference: Lost())
    names = _names_follow(workbook, sheet, lambda reference: Lost())
    return [*(edit for edit in lost if edit.sheet_id != sheet.id), *names, RemoveSheet(sheet.id)]


def losing(workbook: Workbook, sheet: Sheet) -> list[Place]:
    """The formulas on other sheets that would lose a reference with this sheet."""
    return [
        Place(other.name, cell)
        for other in workbook.sheets
        if other is not sheet
        for cell, shape in other.formulas(EVERYWHERE)
        if any(_names(reference, sheet) for reference in shape.references)
    ]


def _rewritten(
    workbook: Workbook, sheet: Sheet, change: Callable[[Reference], Node]
) -> list[SetCells]:
    """Edits that change all references that name a sheet; each shape is rewritten once."""
    known: dict[Shape, Shape] = {}
    edits: list[SetCells] = []
    for other in workbook.sheets:
        cells = {}
        for cell, shape in other.formulas(EVERYWHERE):
            if shape not in known:
                known[shape] = shape.changed(lambda r: change(r) if _names(r, sheet) else r)
            if known[shape] is not shape:
                cells[cell] = (known[shape], other.look(cell))
        if cells:
            edits.append(SetCells.of(other.id, cells))
    return edits


def _names_follow(
    workbook: Workbook, sheet: Sheet, change: Callable[[Reference], Node]
) -> list[SetName]:
    """Edits that change what names stand for on a sheet."""
    return list(follow(workbook, lambda r: change(r) if _names(r, sheet) else r))


def _names(reference: Reference, sheet: Sheet) -> bool:
    return reference.sheet is not None and reference.sheet.casefold() == sheet.name.casefold()


def _free_name(workbook: Workbook, stem: str, first: str = " 1") -> str:
    number = 1
    name = stem + first
    while workbook.has_sheet(name):
        number += 1
        name = f"{stem} {number}"
    return name
