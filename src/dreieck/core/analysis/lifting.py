"""Where a formula works ranges out cell by cell: an operator or a single value meets many."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dreieck.core.analysis.binding import written_out
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import SINGLE, Function, Speech, Takes, Trait, find

Named = Callable[[str], Shape | None]
"""What a name stands for."""


def takes_single(function: Function, index: int, count: int) -> bool:
    """Whether a function takes a single value as the argument ``index`` of so many."""
    takes = function.parameter(index).takes
    if takes is not Takes.LATER:
        return takes in SINGLE
    if Trait.FITS in function.traits:
        # Ranges and criteria take turns; the last one is a criterion.
        return (index - len(function.parameters) + 1) % 2 == 1
    if function.speech is Speech.CASES:
        return index % 2 == 0
    return function.speech is Speech.SWITCHES and index % 2 == 1 and index < count - 1


def takes_whole(function: Function, index: int, count: int) -> bool:
    """Whether a function takes ranges whole in the argument ``index`` of so many."""
    is_later = function.parameter(index).takes is Takes.LATER
    return not is_later and not takes_single(function, index, count)


def is_condition(node: tree.Node) -> bool:
    """Whether a node, whatever brackets it has, compares the cells of a list."""
    node = tree.bare(node)
    return isinstance(node, tree.Binary) and node.compares and any(lifted(node))


def taken_whole(node: tree.Node, *, whole: bool = False) -> Iterator[tree.Node]:
    """The nodes of a formula that work with whole ranges, where no row cuts a cell out of them."""
    if whole:
        yield node
    own = list(whole_arguments(node)) if isinstance(node, tree.Call) else []
    for child in tree.children(node):
        yield from taken_whole(child, whole=whole or any(child is each for each in own))


def whole_arguments(call: tree.Call) -> Iterator[tree.Node]:
    """The arguments of a call in which ranges are taken whole."""
    function, count = find(call.function), len(call.arguments)
    if function is not None and function.parameters:
        for index, argument in enumerate(call.arguments):
            if takes_whole(function, index, count):
                yield argument


def lifted(node: tree.Node) -> Iterator[RangeReference]:
    """The ranges whose cells are taken beside each other, where a node takes ranges whole."""
    match node:
        case RangeReference():
            yield node
        case tree.Binary() | tree.Prefix() | tree.Percent() | tree.Group():
            for child in tree.children(node):
                yield from lifted(child)
        case tree.Call():
            function, count = find(node.function), len(node.arguments)
            for index, argument in enumerate(node.arguments if function else ()):
                assert function is not None
                if Trait.CHOOSES in function.traits or takes_single(function, index, count):
                    yield from lifted(argument)


def lifts(node: tree.Node, named: Named, within: frozenset[str] = frozenset()) -> bool:
    """Whether a node gives an array where ranges are taken whole, and no reference.

    Names that stand for themselves, as those ``within`` would, give none.
    """

    def is_many(inner: tree.Node) -> bool:
        return _may_be_many(inner, named, within)

    match node:
        case tree.Group():
            return lifts(node.inner, named, within)
        case tree.Prefix(sign="+"):
            return lifts(node.operand, named, within)
        case tree.Prefix() | tree.Percent():
            return is_many(node.operand)
        case tree.Binary():
            return is_many(node.left) or is_many(node.right)
        case tree.Name():
            key, shape = node.text.casefold(), named(node.text)
            if shape is None or key in within:
                return False
            return lifts(shape.tree, named, within | {key})
        case tree.Call():
            function = find(node.function)
            if function is None or not function.parameters:
                return False
            if Trait.BINDS in function.traits:
                plain = written_out(node)
                return plain is not node and plain is not None and is_many(plain)
            for index, argument in enumerate(node.arguments):
                if takes_single(function, index, len(node.arguments)):
                    if is_many(argument):
                        return True
                elif Trait.CHOOSES in function.traits and lifts(argument, named, within):
                    return True
    return False


def _may_be_many(node: tree.Node, named: Named, within: frozenset[str]) -> bool:
    """Whether a node may stand for more than one value where ranges are taken whole."""
    match node:
        case RangeReference() | tree.Inline() | tree.Linked():
            return True
        case tree.Group():
            return _may_be_many(node.inner, named, within)
        case tree.Prefix(sign="+"):
            return _may_be_many(node.operand, named, within)
        case tree.Name():
            key, shape = node.text.casefold(), named(node.text)
            if shape is None or key in within:
                return False
            return _may_be_many(shape.tree, named, within | {key})
        case tree.Call():
            function = find(node.function)
            if function is None or not node.arguments:
                return False
            if Trait.MANY in function.traits or lifts(node, named, within):
                return True
            chooses = Trait.CHOOSES in function.traits
            return chooses and any(_may_be_many(each, named, within) for each in node.arguments)
        case _:
            return lifts(node, named, within)
