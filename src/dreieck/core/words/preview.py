"""What a reference will read in the next landings, said before anything is filled."""

from __future__ import annotations

from typing import Literal

from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Cell
from dreieck.core.sheet.sheet import Sheet

Direction = Literal["down", "right"]

_STEPS: dict[Direction, tuple[int, int]] = {"down": (0, 1), "right": (1, 0)}


def usual_directions(sheet: Sheet, at: Cell) -> tuple[Direction, ...]:
    """Where a fill from a cell usually goes, judged by the data beside and above it.

    Down along a list to its left, right along a row above it, both in a grid.
    """
    down = _goes_on(sheet, Cell(at.column - 1, at.row), rows=1)
    right = _goes_on(sheet, Cell(at.column, at.row - 1), columns=1)
    if down and right:
        return ("down", "right")
    return ("right",) if right else ("down",)


def next_reads(reference: Reference, at: Cell, direction: Direction) -> str:
    """What is read in the next landings: ``B6, B7 …``, or ``always B5``."""
    columns, rows = _STEPS[direction]
    here = reference_text(reference, at)
    ahead = [reference_text(reference, at.offset(columns * n, rows * n)) for n in (1, 2)]
    if ahead == [here, here]:
        return f"always {here}"
    return f"{ahead[0]}, {ahead[1]} …"


def _goes_on(sheet: Sheet, cell: Cell, columns: int = 0, rows: int = 0) -> bool:
    """Whether a cell and its next one both hold something."""
    ahead = cell.offset(columns, rows)
    return all(each.on_sheet and sheet.content(each) is not None for each in (cell, ahead))
