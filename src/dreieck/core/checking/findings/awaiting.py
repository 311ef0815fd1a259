"""What a break is, whether a formula would find its numbers there, and whether it is agreed."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.analysis.uses import Use, uses
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, ends_apart
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label
from dreieck.core.words.headings import list_heading

_NOTE_REACH = 4
_COLUMN_REACH = 12


@dataclass(frozen=True, slots=True)
class Break:
    """Cells that interrupt formulas of one shape, or end them too early."""

    area: Area
    shape: Shape


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


def goes_further(content: Content | None, shape: Shape) -> bool:
    """Whether a formula takes a part of what its neighbours give, or a bound of it, on purpose."""
    if not isinstance(content, Shape):
        return False
    node, inner = content.tree, shape.tree
    for each in tree.walk(node):
        if isinstance(each, tree.Call) and inner in each.arguments:
            return True
        if isinstance(each, tree.Binary) and each.operator in "*/":
            sides = [tree.bare(each.left), tree.bare(each.right)]
            if tree.bare(inner) in sides and any(isinstance(s, tree.Number) for s in sides):
                return True
    return False


def is_exception(calculation: Calculation, sheet: Sheet, cell: Cell) -> bool:
    """Whether a label or a note beside a cell says why it is no rule."""
    return bool(note_beside(sheet, cell)) or says(label(calculation, sheet, cell, "row"), "agreed")


def note_beside(sheet: Sheet, cell: Cell) -> str:
    """A text to the right of a cell, in a column that holds hardly any others."""
    for steps in range(1, _NOTE_REACH + 1):
        at = cell.step("column", steps)
        if not at.on_sheet:
            break
        content = sheet.content(at)
        if not isinstance(content, str) or not content.strip():
            continue
        around = Area(at.column, max(at.row - _COLUMN_REACH, 1), at.column, at.row + _COLUMN_REACH)
        if says(list_heading(sheet, at) or "", "remark") and says(content, "agreed"):
            return content.strip()
        texts = [content for _, content in sheet.filled(around) if isinstance(content, str)]
        rows = sheet.count(around._replace(left=cell.column, right=cell.column))
        if len(texts) <= max(2, rows // 3):
            return content.strip()
    return ""
