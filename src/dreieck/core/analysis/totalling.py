"""Totals: whether a formula is one, and what it adds up."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import uses
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content


def is_total(shape: Shape, cell: Cell) -> bool:
    """Whether a formula is a total of cells above it, or to its left."""
    return totals_above(shape, cell) or any(
        area.top <= cell.row <= area.bottom and area.right < cell.column
        for area in _totalled(shape, cell)
    )


def totals_above(shape: Shape, cell: Cell) -> bool:
    """Whether a formula is a total of cells above it."""
    return any(
        area.left <= cell.column <= area.right and area.bottom < cell.row
        for area in _totalled(shape, cell)
    )


def _totalled(shape: Shape, cell: Cell) -> Iterator[Area]:
    """The ranges that a call adds up, averages or the like."""
    if isinstance(shape.tree, tree.Call):
        for use in uses(shape):
            area = use.reference.area(cell)
            if use.how == "total" and area and area.size > 1:
                yield area


def added(shape: Shape) -> tuple[CellReference, ...]:
    """The cells of a formula that does nothing but add single cells; none if it does more."""
    node = shape.tree
    found = terms(node)
    if isinstance(node, tree.Call) and has(node.function, Trait.TOTALS):
        found = [] if has(node.function, Trait.COUNTS) else list(node.arguments)
    cells = tuple(each for each in found if isinstance(each, CellReference))
    return cells if len(cells) == len(found) > 1 else ()


def terms(node: tree.Node) -> list[tree.Node]:
    """What a formula adds with ``+``."""
    return list(_terms(node))


def _terms(node: tree.Node) -> Iterator[tree.Node]:
    match node:
        case tree.Group():
            yield from _terms(node.inner)
        case tree.Prefix(sign="+"):
            yield from _terms(node.operand)
        case tree.Binary(operator="+"):
            yield from _terms(node.left)
            yield from _terms(node.right)
        case _:
            yield node


def summed(content: Content | None, cell: Cell) -> list[Area]:
    """What a cell of the same sheet is the sum of; nothing if it is no plain sum."""
    if not isinstance(content, Shape):
        return []
    found: list[Area] = []
    if isinstance(content.tree, tree.Call):
        for use in uses(content):
            if has(use.function, Trait.TOTALS) and not use.reference.sheet:
                area = use.reference.area(cell)
                if area and (isinstance(use.reference, RangeReference) or use.how == "total"):
                    found.append(area)
        return found
    for each in added(content):
        area = each.area(cell)
        if area and not each.sheet:
            found.append(area)
    return found
