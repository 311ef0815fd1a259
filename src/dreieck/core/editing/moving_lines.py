"""Whole rows and columns: moved between others, and duplicated."""

from __future__ import annotations

from dreieck.core.editing.copying import landed_run
from dreieck.core.editing.following_lines import followed_lines
from dreieck.core.editing.inserting import MAX_DELETED_CELLS, inserted
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Axis, LineMove, Lines
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines, SetCells, SetLayout
from dreieck.core.sheet.layout import LineRun
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN


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
    runs = tuple(_moved(run, axis, steps) for run in sheet.all_runs(lines.area))
    layout = sheet.layout.with_lines(axis, sheet.layout.on(axis).moved(move))
    return [
        InsertLines(sheet.id, room, runs),
        DeleteLines(sheet.id, old, layout),
        *followed_lines(workbook, sheet, move),
    ]


def duplicated(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Put a copy of rows or columns behind them. Raises DreieckError."""
    if sheet.count(lines.area) > MAX_DELETED_CELLS:
        raise DreieckError(f"At most {MAX_DELETED_CELLS:,} filled cells can be copied at once.")
    axis, room = lines.axis, Lines(lines.axis, lines.last + 1, lines.count)
    if room.last > lines.limit:
        raise DreieckError(f"There is no room for {lines.count:,} more {axis}s behind these.")
    edits = inserted(workbook, sheet, room)
    # The copies are made of what the formulas are by then: a range that takes them in is wider.
    trial = workbook.copy(*workbook.sheets)
    for edit in edits:
        edit.apply(trial)
    home = trial.sheet_by_id(sheet.id)
    copies = (
        each
        for run in home.all_runs(lines.area)
        for each in landed_run(_moved(run, axis, lines.count))
    )
    looks = home.layout.on(axis)
    sizes = (
        LineRun(run.first + lines.count, run.last + lines.count, run.look)
        for run in looks.between(lines.first, lines.last)
    )
    layout = home.layout.with_lines(axis, looks.put(sizes))
    cleared = (run._replace(content=None, look=PLAIN) for run in home.all_runs(room.area))
    return [
        *edits,
        SetCells(sheet.id, tuple(cleared)),
        SetCells(sheet.id, tuple(copies)),
        SetLayout(sheet.id, layout),
    ]


def _moved(run: Run, axis: Axis, steps: int) -> Run:
    columns, rows = (steps, 0) if axis == "column" else (0, steps)
    return run._replace(column=run.column + columns, top=run.top + rows, bottom=run.bottom + rows)
