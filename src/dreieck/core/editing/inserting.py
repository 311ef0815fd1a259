"""Inserting and deleting rows and columns, with everything that refers to them following.

Every reference is adjusted, locked or not: it goes on reading the cells that it read. A range
stretches when lines are inserted inside it and shrinks when some of its lines are deleted; a
reference whose cells are all deleted becomes ``#REF!`` for good. A range to the very end of the
sheet, such as that of a growing name, stays one.
"""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.editing.following_lines import followed_lines
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Cell, LineChange, Lines
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN, Look

MAX_DELETED_CELLS = 200_000
"""How many filled cells can be deleted with their lines."""


def inserted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Insert rows or columns. Raises DreieckError where something would fall off the sheet."""
    if sheet.end(lines.axis) >= lines.first and sheet.end(lines.axis) + lines.count > lines.limit:
        raise DreieckError(
            f"There is no room for {lines.count:,} more {lines.axis}s: the last {lines.axis} of"
            " the sheet is in use. Clear or delete something at its end first."
        )
    looks = tuple(_looks_between(sheet, lines))
    change = LineChange(lines, comes=True)
    return [InsertLines(sheet.id, lines, looks), *followed_lines(workbook, sheet, change)]


def deleted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Delete rows or columns. Raises DreieckError where they hold too much."""
    if sheet.count(lines.area) > MAX_DELETED_CELLS:
        raise DreieckError(f"At most {MAX_DELETED_CELLS:,} filled cells can be deleted at once.")
    change = LineChange(lines, comes=False)
    return [DeleteLines(sheet.id, lines), *followed_lines(workbook, sheet, change)]


def _looks_between(sheet: Sheet, lines: Lines) -> Iterator[Run]:
    """The looks of lines that come: as the line before, or the one behind if that is a heading."""
    before, behind = lines.first - 1, lines.first
    if lines.axis == "column":
        looks = {
            at: [each for each in sheet.looks_of(at) if _is_of_body(each[2])]
            for at in (before, behind)
        }
        for column in range(lines.first, lines.last + 1):
            for top, bottom, look in looks[before] or looks[behind]:
                yield Run(column, top, bottom, None, look)
        return
    for column in sheet.dressed():
        pair = [sheet.look(Cell(column, row)) for row in (before, behind)]
        look = next((each for each in pair if _is_of_body(each)), PLAIN)
        if look != PLAIN:
            yield Run(column, lines.first, lines.last, None, look)


def _is_of_body(look: Look) -> bool:
    return look.role not in ("title", "heading")
