"""Where formulas of files take single values of ranges, and where they work with arrays.

In an ordinary formula of a file an operator takes of a range the cell that is level with the
formula, but for functions that work with arrays anyway; only an array formula goes through all
cells. Here ranges are taken whole in every function of many values, and who wants the level cell
says so by a function.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

from dreieck.core.analysis.lifting import Named, lifts, takes_single, takes_whole
from dreieck.core.formula import Shape, parse, tree
from dreieck.core.formula.reference import RangeReference, Reference
from dreieck.core.functions import Takes, Trait, every, find
from dreieck.core.grid import Area, Cell

_Changed = Callable[[tree.Node], tree.Node]


def item(shape: Shape, area: Area, at: Cell) -> Shape:
    """One item of what an array formula comes to, for a cell of the area that it fills."""

    def reading(reference: Reference) -> tree.Node:
        read = reference.area(area.first)
        return tree.Lost() if read is None else reference.reading(read, area.first, at)

    row, column = float(at.row - area.top + 1), float(at.column - area.left + 1)
    inner = tree.with_references(shape.tree, reading)
    return Shape.of(tree.Call("INDEX", (inner, tree.Number(row), tree.Number(column))))


def alone(shape: Shape, named: Named) -> Shape:
    """An array formula of a single cell: its first value, where it comes to many."""
    node = shape.tree
    if isinstance(tree.bare(node), RangeReference) or lifts(node, named):
        one = tree.Number(1.0)
        return Shape.of(tree.Call("INDEX", (node, one, one)))
    return shape


def levelled(node: tree.Node) -> tree.Node:
    """An ordinary formula of a file as ours: where we would take a range whole, it is cut."""
    return _changed(node, _cut, whole=False)


def as_ordinary(node: tree.Node, named: Named) -> tree.Node | None:
    """Our formula as an ordinary one of a file; None where only an array formula will do."""
    plain = _changed(node, _uncut, whole=False)
    is_same = levelled(plain) == node and not _takes_names_whole(plain, named)
    return plain if is_same and not any(map(_gives_many, tree.walk(plain))) else None


def _gives_many(node: tree.Node) -> bool:
    """Whether a call gives many values that ordinary formulas of files take the first one of."""
    function = find(node.function) if isinstance(node, tree.Call) else None
    if function is None or not isinstance(node, tree.Call):
        return False
    if Trait.MANY not in function.traits or Trait.REFERS in function.traits:
        return False
    return bool(function.later) or any(isinstance(each, RangeReference) for each in node.arguments)


def as_array(node: tree.Node) -> tree.Node:
    """Our formula as an array formula of a file: where we cut ranges unsaid, it says so."""
    return _cut(_changed(node, _cut, whole=True, inside=False))


def _changed(node: tree.Node, change: _Changed, *, whole: bool, inside: bool = True) -> tree.Node:
    """A formula with what stands where one value is needed changed.

    That is so where ranges are taken ``whole``; and where functions take many values, if that is
    to be looked ``inside``.
    """

    def single(child: tree.Node) -> tree.Node:
        child = _changed(child, change, whole=whole, inside=inside)
        return change(child) if whole else child

    match node:
        case tree.Binary() | tree.Percent() | tree.Prefix(sign="-"):
            return tree.with_children(node, single)
        case tree.Call():
            function = find(node.function)
            if function is None or not function.parameters:
                return node
            arguments = []
            for index, argument in enumerate(node.arguments):
                if takes_single(function, index, len(node.arguments)):
                    arguments.append(single(argument))
                elif function.parameter(index).takes is Takes.LATER:
                    chosen = _changed(argument, change, whole=whole, inside=inside)
                    # Outside of functions of many values one value is needed in the end.
                    arguments.append(chosen if inside else change(chosen))
                elif inside and function.parameter(index).takes is not Takes.ARRAY:
                    arguments.append(_changed(argument, change, whole=True))
                else:
                    arguments.append(argument)
            return tree.Call(node.function, tuple(arguments))
        case tree.Linked():
            return node
        case _:
            return tree.with_children(
                node, lambda child: _changed(child, change, whole=whole, inside=inside)
            )


def _takes_names_whole(node: tree.Node, named: Named) -> bool:
    """Whether a function of many values goes through what a name stands for."""
    for call in tree.walk(node):
        function = find(call.function) if isinstance(call, tree.Call) else None
        if function is None or not isinstance(call, tree.Call) or not function.parameters:
            continue
        for index, argument in enumerate(call.arguments):
            by_us_alone = function.parameter(index).takes is not Takes.ARRAY
            if by_us_alone and takes_whole(function, index, len(call.arguments)):
                names = any(isinstance(each, tree.Name) for each in tree.walk(argument))
                if names and lifts(argument, named):
                    return True
    return False


@cache
def _level() -> str:
    """What the function is called that gives the cell that is level with its own."""
    return next(each.name for each in every() if Trait.LEVEL in each.traits)


def _cut(node: tree.Node) -> tree.Node:
    inner = tree.bare(node)
    if isinstance(inner, RangeReference | tree.Linked):
        return tree.Call(_level(), (inner,))
    return node


def _uncut(node: tree.Node) -> tree.Node:
    is_cut = isinstance(node, tree.Call) and node.function == _level()
    return node.arguments[0] if is_cut and node.arguments else node  # type: ignore[union-attr]


_ROW, _COLUMN = (parse(text, Cell(1, 1)).tree for text in ("=1:1", "=A:A"))
"""The row and the column of the formula itself."""


def intersected(node: tree.Node) -> tree.Node:
    """A formula in which level cells are what a range and the formula's own line share."""
    node = tree.with_children(node, intersected)
    inner = _uncut(node)
    if inner is node:
        return node
    columns = inner.columns if isinstance(inner, RangeReference) else None
    is_column = columns is not None and columns.one == columns.two
    return tree.Group(tree.Linked("!", inner, _ROW if is_column else _COLUMN))
