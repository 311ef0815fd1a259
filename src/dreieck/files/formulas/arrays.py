"""Formulas that work with arrays in a file, as ordinary ones."""

from __future__ import annotations

from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area, Cell


def summed(shape: Shape) -> Shape:
    """A sum over an array as a function that takes arrays anyway."""
    node = shape.tree
    if isinstance(node, tree.Call) and node.function == "SUM" and len(node.arguments) == 1:
        return Shape.of(tree.Call("SUMPRODUCT", node.arguments))
    return shape


def item(shape: Shape, area: Area, at: Cell) -> Shape:
    """One item of what an array formula comes to, for a cell of the area that it fills."""

    def reading(reference: Reference) -> tree.Node:
        read = reference.area(area.first)
        return tree.Lost() if read is None else reference.reading(read, area.first, at)

    row, column = float(at.row - area.top + 1), float(at.column - area.left + 1)
    inner = tree.with_references(shape.tree, reading)
    return Shape.of(tree.Call("INDEX", (inner, tree.Number(row), tree.Number(column))))
