"""Whole rows and columns: moved between others, and duplicated."""

from __future__ import annotations

from dreieck.core.calculate import Calculation
from dreieck.core.editing.copying import pasted
from dreieck.core.editing.following_lines import followed_lines
from dreieck.core.editing.inserting import MAX_DELETED_CELLS, inserted
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import LineMove, Lines
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines, SetLayout
from dreieck.core.sheet.layout import LineRun
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook


def moved(workbook: Workbook, sheet: Sheet, lines: Lines, before: int) -> list[Edit]:
    """Move rows or columns to where another one stands, which goes behind them.

    Raises DreieckError where they stand there already, or hold too much.
    """
    if lines.first <= before <= lines.last + 1:
        raise DreieckError(f"{lines.text.capitalize()} stand there already.")
    if not 1 <= before <= lines.limit + 1:
        raise DreieckError(f"There is no {lines.axis} {before:,}.")
    if sheet.count(lines.area) > MAX_DELETED_CELLS:
        raise DreieckError(f"At most {MAX_DELETED_CELLS:,} filled cells can be moved at once.")
    if sheet.end(lines.axis) + lines.count > lines.limit:
        raise DreieckError(f"The last {lines.axis}s of the sheet are in use; clear them first.")
    axis, move = lines.axis, LineMove(lines, before)
    room = Lines(axis, before, lines.count)
    old = Lines(axis, lines.first + (lines.count if before < lines.first else 0), lines.count)
    steps = before - lines.first
    columns, rows = (steps, 0) if axis == "column" else (0, steps)
    runs = tuple(
        Run(run.column + columns, run.top + rows, run.bottom + rows, run.content, run.look)
        for run in sheet.all_runs(lines.area)
    )
    layout = sheet.layout.with_lines(axis, sheet.layout.on(axis).moved(move))
    return [
        InsertLines(sheet.id, room, runs),
        DeleteLines(sheet.id, old, layout),
        *followed_lines(workbook, sheet, move),
    ]


def duplicated(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Put a copy of rows or columns behind them. Raises DreieckError."""
    room = Lines(lines.axis, lines.last + 1, lines.count)
    edits = inserted(workbook, sheet, room)
    # The copies are made of what the formulas are by then: a range that takes them in is wider.
    trial = workbook.copy(*workbook.sheets)
    for edit in edits:
        edit.apply(trial)
    home = trial.sheet_by_id(sheet.id)
    copies = pasted(Calculation(trial), home, lines.area, home, room.area, "all")
    return [*edits, copies, _sized(home, lines, room)]


def _sized(sheet: Sheet, lines: Lines, room: Lines) -> SetLayout:
    """Give room the sizes of some rows or columns."""
    layout, steps = sheet.layout, room.first - lines.first
    looks = layout.on(lines.axis)
    runs = (
        LineRun(run.first + steps, run.last + steps, run.look)
        for run in looks.between(lines.first, lines.last)
    )
    return SetLayout(sheet.id, layout.with_lines(lines.axis, looks.put(runs)))
