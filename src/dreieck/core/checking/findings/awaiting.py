"""What a break is, and whether a formula would find its numbers there."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.analysis.uses import Use, uses
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, ends_apart
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet

_COLUMN_REACH = 12


@dataclass(frozen=True, slots=True)
class Break:
    """Cells that interrupt formulas of one shape, or end them too early."""

    area: Area
    shape: Shape


def holds(sheet: Sheet, cell: Cell, shape: Shape) -> bool:
    """Whether a cell holds a formula, however its numbers are spelled."""
    content = sheet.content(cell) if cell.on_sheet else None
    return isinstance(content, Shape) and content.plain is shape.plain


def awaits(sheet: Sheet, shape: Shape, cell: Cell, like: Cell, axis: Axis | None) -> bool:
    """Whether all that a formula would read in a cell is there: numbers, and some that move.

    They have to move along an axis, if one is given. Ranges have to hold as much as they do in
    ``like``.
    """
    moving = False
    axes = AXES if axis is None else (axis,)
    for use in uses(shape):
        reference = use.reference
        area, there = reference.area(cell), reference.area(like)
        if area is None or there is None:
            return False
        if reference.sheet is not None:
            continue
        if area.holds(cell):
            return False
        free = any(not part.locked for each in axes for part in reference.on(each))
        if area != there and not _is_there(sheet, shape, use, area, there):
            return False
        moving = moving or free
    return moving


def _is_there(sheet: Sheet, shape: Shape, use: Use, area: Area, like: Area) -> bool:
    """Whether an area holds what another one does: a number, a key, a list as long."""
    if isinstance(use.reference, CellReference):
        content, other = sheet.content(area.first), sheet.content(like.first)
        if isinstance(other, str) and use.how not in ("number", "total"):
            return isinstance(content, str | Shape)
        if content is None and other_operand(shape.tree, use.number, "+-") is not None:
            # Comings and goings are blank where there were none.
            return _has_gaps(sheet, area.first)
        return isinstance(content, float | Shape)
    contents = [content for _, content in sheet.filled(area)]
    others = [content for _, content in sheet.filled(like)]
    if ends_apart(use.reference) or has(use.function, Trait.COUNTS_ALL, Trait.FITS):
        return bool(contents)
    texts = [sum(isinstance(c, str) for c in each) for each in (contents, others)]
    return bool(contents) and len(contents) >= len(others) and texts[0] <= texts[1]


def _has_gaps(sheet: Sheet, cell: Cell) -> bool:
    """Whether some of the cells below an empty one hold numbers, and others nothing."""
    below = [sheet.content(cell.step("row", n)) for n in range(1, _COLUMN_REACH)]
    return any(isinstance(content, float) for content in below)
