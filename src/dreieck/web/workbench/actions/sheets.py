"""What can be done with whole sheets."""

from __future__ import annotations

from dreieck.core.editing import sheets
from dreieck.web.workbench.actions.hands import Hands, action


@action
def show_sheet(hands: Hands) -> str:
    """Show another sheet: the one with the number ``index``, or the next or previous one."""
    every = hands.opened.workbook.sheets
    if hands.wish.index >= 0:
        sheet = hands.opened.workbook.sheet_by_id(hands.wish.index)
    else:
        sheet = every[(every.index(hands.sheet) + hands.wish.columns) % len(every)]
    hands.show_sheet(sheet)
    hands.wish.step = ""
    hands.opened.remember_sheet(sheet.id)
    return ""


@action
def add_sheet(hands: Hands) -> str:
    """Add an empty sheet and show it."""
    new_id = hands.opened.new_sheet_id()
    hands.change("adding a sheet", *sheets.added(hands.opened.workbook, new_id))
    hands.show_sheet(hands.opened.workbook.sheet_by_id(new_id))
    return ""


@action
def duplicate_sheet(hands: Hands) -> str:
    """Put a copy of the sheet behind it and show the copy."""
    new_id = hands.opened.new_sheet_id()
    label = f"duplicating {hands.sheet.name}"
    hands.change(label, *sheets.duplicated(hands.opened.workbook, hands.sheet, new_id))
    hands.show_sheet(hands.opened.workbook.sheet_by_id(new_id))
    return ""


@action
def rename_sheet(hands: Hands) -> str:
    """Rename the sheet; formulas that name it follow."""
    label = f"renaming {hands.sheet.name}"
    hands.change(label, *sheets.renamed(hands.opened.workbook, hands.sheet, hands.wish.to))
    return ""


@action
def move_sheet(hands: Hands) -> str:
    """Move the sheet one place to the left or right."""
    edits = sheets.moved(hands.opened.workbook, hands.sheet, hands.wish.columns)
    hands.change(f"moving {hands.sheet.name}", *edits)
    return ""


@action
def delete_sheet(hands: Hands) -> str:
    """Delete the sheet and show a neighbour."""
    workbook, sheet = hands.opened.workbook, hands.sheet
    position = workbook.sheets.index(sheet)
    hands.change(f"deleting {sheet.name}", *sheets.deleted(workbook, sheet))
    hands.show_sheet(workbook.sheets[max(position - 1, 0)])
    return f"{sheet.name} was deleted. Ctrl+Z brings it back."
