"""What references read in all rows of a column at once."""

from __future__ import annotations

from typing import NamedTuple

from dreieck.core.calculate.rows import Rows
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, find, has
from dreieck.core.grid import Cell
from dreieck.core.ranges.beside import MAX_WIDE
from dreieck.core.ranges.operands import CellValues
from dreieck.core.sheet.cells import Cells


def stays_in_rows(node: tree.Node) -> bool:
    """Whether a node is a reference to the same cells in all rows of a column."""
    if not isinstance(node, CellReference | RangeReference):
        return False
    return all(part.locked for part in node.on("row"))


CONSTANT = (
    tree.Number
    | tree.Text
    | tree.Logical
    | tree.ErrorLiteral
    | tree.Lost
    | tree.Inline
    | tree.Missing
)
"""What stands in the formula itself."""


def stays(node: tree.Node, values: CellValues) -> bool:
    """Whether a node stands for the same in all rows of a column, if none cuts it.

    Only constants do, references to the same cells, and names of either.
    """
    match node:
        case tree.Group():
            return stays(node.inner, values)
        case tree.Linked():
            return stays(node.first, values) and stays(node.last, values)
        case tree.Name():
            named = values.named(node.text)
            return named is None or isinstance(named.tree, CONSTANT) or stays_in_rows(named.tree)
        case _:
            return isinstance(node, CONSTANT) or stays_in_rows(node)


def stays_throughout(node: tree.Node, values: CellValues) -> bool:
    """Whether a calculation with ranges, none of which is cut by a row, stays the same."""
    for each in tree.walk(node):
        if isinstance(each, tree.Call):
            function = find(each.function)
            if function and function.depends_on_place:
                return False
        elif not tree.children(each) and not stays(each, values):
            return False
    return True


def grows(node: tree.Node) -> bool:
    """Whether a node is a range whose size changes from row to row, or a long one that moves."""
    if not isinstance(node, RangeReference) or stays_in_rows(node):
        return False
    one, two = node.on("row")
    return one.locked != two.locked or abs(one.at - two.at) >= MAX_WIDE


class Window(NamedTuple):
    """Cells that a reference reads in each row, row by row; each of them down the strip."""

    width: int
    cells: list[Cells]


def window(strip: Rows, node: tree.Node) -> Window | None:
    """The cells of a reference that move along with the rows, or stay.

    None where the reference does neither, where its size changes or is too large.
    """
    if isinstance(node, tree.Group):
        return window(strip, node.inner)
    if not isinstance(node, CellReference | RangeReference):
        return None
    first, last = node.area(strip.place(0).cell), node.area(strip.place(-1).cell)
    sheet = node.sheet or strip.sheet
    if not first or not last or first.size > MAX_WIDE or not strip.values.has_sheet(sheet):
        return None
    places = [
        (column, row)
        for row in range(first.top, first.bottom + 1)
        for column in range(first.left, first.right + 1)
    ]
    if stays_in_rows(node):
        values = [strip.values.value(sheet, Cell(*place)) for place in places]
        return Window(first.width, [Cells.alike(value, strip.height) for value in values])
    if any(part.locked for part in node.on("row")) or not _keeps_order(node, strip):
        return None
    return Window(first.width, [strip.read(sheet, *place) for place in places])


def _keeps_order(node: CellReference | RangeReference, strip: Rows) -> bool:
    """Whether the corners of a range never change places on the way down."""
    if isinstance(node, CellReference) or node.rows is None:
        return True
    return node.rows.ordered(strip.first) == node.rows.ordered(strip.last)


def may_refer(node: tree.Node) -> bool:
    """Whether a node may stand for a range, and not just for a value."""
    match node:
        case tree.Group():
            return may_refer(node.inner)
        case CellReference() | RangeReference() | tree.Name() | tree.Linked() | tree.Inline():
            return True
        case tree.Call():
            if has(node.function, Trait.CHOOSES):
                return any(map(may_refer, node.arguments))
            return has(node.function, Trait.REFERS)
    return False


def is_reference(node: tree.Node) -> bool:
    """Whether a node is a reference, or a name that may be one."""
    while isinstance(node, tree.Group):
        node = node.inner
    return isinstance(node, CellReference | RangeReference | tree.Name | tree.Linked)
