"""Numbers typed inside formulas: found, told apart from counts and places, and replaced."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count

from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Takes, Trait, calls, find

PLAIN_NUMBERS = {0.0, 1.0, 2.0, 4.0, 7.0, 10.0, 12.0, 24.0, 60.0, 100.0, 365.0, 1000.0}
"""Numbers that belong to a formula: growth rates, squares, percents, hours, months."""


def numbers_inside(shape: Shape) -> Iterator[float]:
    """The numbers that a formula calculates with; counts and places are not among them."""
    if not calls(shape.tree, Trait.TELLS_PLACE):
        yield from numbers_in(shape.tree)


def numbers_in(node: tree.Node) -> Iterator[float]:
    """The numbers of a tree that neither count nor tell a place, in their order."""
    if isinstance(node, tree.Number):
        yield node.value
    for index, child in enumerate(tree.children(node)):
        if not _counts_or_places(node, index):
            yield from numbers_in(child)


def with_number(node: tree.Node, number: float, reads: tree.Node) -> tree.Node:
    """The tree with ``reads`` for a number, except where it counts or tells a place."""
    if isinstance(node, tree.Number):
        return reads if node.value == number else node
    index = count()

    def changed(child: tree.Node) -> tree.Node:
        keeps = _counts_or_places(node, next(index))
        return child if keeps else with_number(child, number, reads)

    return tree.with_children(node, changed)


def _counts_or_places(node: tree.Node, index: int) -> bool:
    """Whether a number below a node only counts or tells a place: an exponent, a column."""
    child = tree.children(node)[index]
    if not isinstance(child, tree.Number):
        return False
    if isinstance(node, tree.Binary):
        return node.operator == "^" and index == 1
    function = find(node.function) if isinstance(node, tree.Call) else None
    if function is None or not function.parameters:
        return False
    return function.parameter(index).takes is not Takes.NUMBER
