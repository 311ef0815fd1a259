"""What a break is, whether a formula would find its numbers there, and whether it is agreed."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.surroundings import label, names_exception
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet

_NOTE_REACH = 4
_COLUMN_REACH = 12


@dataclass(frozen=True, slots=True)
class Break:
    """Cells that interrupt formulas of one shape, or end them too early."""

    area: Area
    shape: Shape


def awaits(sheet: Sheet, shape: Shape, cell: Cell, like: Cell, axis: Axis | None) -> bool:
    """Whether all that a formula would read in a cell is there: numbers, and some that move.

    They have to move along an axis, if one is given. Its ranges have to hold as much as they do in ``like``.
    """
    moving = False
    for reference in shape.references:
        area = reference.area(cell)
        if area is None:
            return False
        if reference.sheet is not None:
            continue
        if area.holds(cell):
            return False
        axes = AXES if axis is None else (axis,)
        free = any(not part.locked for each in axes for part in reference.on(each))
        if isinstance(reference, CellReference):
            if not isinstance(sheet.content(area.first), float | Shape):
                return False
            moving = moving or free
        elif isinstance(reference, RangeReference):
            contents = [content for _, content in sheet.filled(area)]
            there = reference.area(like)
            if not contents or any(isinstance(content, str) for content in contents):
                return False
            if there is None or len(contents) < sheet.count(there):
                return False
            moving = moving or free
    return moving


def goes_further(content: Content | None, shape: Shape) -> bool:
    """Whether a formula takes a part of what its neighbours give, or a bound of it, on purpose."""
    if not isinstance(content, Shape):
        return False
    node, inner = content.tree, shape.tree
    for each in tree.walk(node):
        if isinstance(each, tree.Call) and inner in each.arguments:
            return True
        if isinstance(each, tree.Binary) and each.operator in "*/":
            sides = [_inside(each.left), _inside(each.right)]
            if _inside(inner) in sides and any(isinstance(s, tree.Number) for s in sides):
                return True
    return False


def _inside(node: tree.Node) -> tree.Node:
    while isinstance(node, tree.Group):
        node = node.inner
    return node


def is_exception(calculation: Calculation, sheet: Sheet, cell: Cell) -> bool:
    """Whether a label or a note beside a cell says why it is no rule."""
    return bool(note_beside(calculation, sheet, cell)) or names_exception(
        label(calculation, sheet, cell, "row")
    )


def note_beside(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    """A text to the right of a cell, in a column that holds hardly any others."""
    for steps in range(1, _NOTE_REACH + 1):
        at = cell.step("column", steps)
        if not at.on_sheet:
            break
        value = calculation.value(sheet.name, at)
        if not isinstance(value, str) or not value.strip():
            continue
        around = Area(at.column, max(at.row - _COLUMN_REACH, 1), at.column, at.row + _COLUMN_REACH)
        texts = [content for _, content in sheet.filled(around) if isinstance(content, str)]
        rows = sheet.count(around._replace(left=cell.column, right=cell.column))
        if len(texts) <= max(2, rows // 3):
            return value.strip()
    return ""
