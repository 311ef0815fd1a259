"""What can be done with whole sheets."""

from __future__ import annotations

from dreieck.core.editing import sheets
from dreieck.web.workbench.actions.context import Context, Effect, Index, Steps, To, action


class Which(Index, Steps):
    """A sheet, by its number or by where it stands beside the one that is shown."""


@action(Effect.MOVES)
def show_sheet(context: Context, wish: Which) -> str:
    """Show another sheet: the one with the number ``index``, or the next or previous one."""
    every = context.opened.workbook.sheets
    if wish.index >= 0:
        sheet = context.opened.workbook.sheet_by_id(wish.index)
    else:
        sheet = every[(every.index(context.sheet) + wish.columns) % len(every)]
    context.show_sheet(sheet)
    context.state.step = ""
    context.opened.remember_sheet(sheet.id)
    return ""


@action(Effect.MOVES)
def add_sheet(context: Context) -> str:
    """Add an empty sheet and show it."""
    new_id = context.opened.new_sheet_id()
    context.change("adding a sheet", *sheets.added(context.opened.workbook, new_id))
    context.show_sheet(context.opened.workbook.sheet_by_id(new_id))
    return ""


@action()
def duplicate_sheet(context: Context) -> str:
    """Put a copy of the sheet behind it and show the copy."""
    new_id = context.opened.new_sheet_id()
    label = f"duplicating {context.sheet.name}"
    context.change(label, *sheets.duplicated(context.opened.workbook, context.sheet, new_id))
    context.show_sheet(context.opened.workbook.sheet_by_id(new_id))
    return ""


@action()
def rename_sheet(context: Context, wish: To) -> str:
    """Rename the sheet; formulas that name it follow."""
    label = f"renaming {context.sheet.name}"
    context.change(label, *sheets.renamed(context.opened.workbook, context.sheet, wish.to))
    return ""


@action()
def move_sheet(context: Context, wish: Steps) -> str:
    """Move the sheet one place to the left or right."""
    edits = sheets.rearranged(context.opened.workbook, context.sheet, wish.columns)
    context.change(f"moving {context.sheet.name}", *edits)
    return ""


@action()
def delete_sheet(context: Context) -> str:
    """Delete the sheet and show a neighbour."""
    workbook, sheet = context.opened.workbook, context.sheet
    position = workbook.sheets.index(sheet)
    context.change(f"deleting {sheet.name}", *sheets.deleted(workbook, sheet))
    context.show_sheet(workbook.sheets[max(position - 1, 0)])
    return f"{sheet.name} was deleted. Ctrl+Z brings it back."
