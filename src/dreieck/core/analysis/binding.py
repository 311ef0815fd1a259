"""Formulas that give names to their own parts, written out without these names."""

from __future__ import annotations

from collections.abc import Mapping

from dreieck.core.formula import tree
from dreieck.core.functions import Trait, has

MOST_NODES = 20_000
"""So many nodes a formula may have when it is written out."""
DEEPEST = 200
"""So many steps may build on one another, as in formulas that are typed."""


class _TooLarge(Exception):
    pass


def binds(node: tree.Node) -> bool:
    """Whether a node is a call that gives names to parts, as it has to be written."""
    return (
        isinstance(node, tree.Call)
        and has(node.function, Trait.BINDS)
        and len(node.arguments) % 2 == 1
        and all(isinstance(each, tree.Name) for each in node.arguments[:-1:2])
    )


def without_names(call: tree.Call) -> tree.Node | None:
    """A call that gives names to parts, written out; None for others, or where it is too large."""
    return written_out(call) if binds(call) else None


def written_out(node: tree.Node) -> tree.Node | None:
    """A formula with each name that it gives replaced by what that stands for.

    Parts that hold no such name are the very same objects, by which their references and what
    they draw are known; so nothing is kept for trees that are equal. None where it would be too
    large.
    """
    try:
        return _Writer().out(node, {})
    except _TooLarge:
        return None


def _apart(nodes: list[tree.Node]) -> tuple[tree.Node, ...]:
    """Nodes of which none stands twice, so that arguments are told apart: it is bracketed."""
    found: list[tree.Node] = []
    for node in nodes:
        stands = any(node is each for each in found)
        found.append(tree.Group(node) if stands else node)
    return tuple(found)


class _Writer:
    def __init__(self) -> None:
        self._sizes: dict[int, tuple[int, int]] = {}
        self._kept: list[tree.Node] = []

    def out(self, node: tree.Node, scope: Mapping[str, tree.Node]) -> tree.Node:
        if isinstance(node, tree.Name):
            return scope.get(node.text.casefold(), node)
        if binds(node) and isinstance(node, tree.Call):
            inner = dict(scope)
            for name, value in zip(node.arguments[::2], node.arguments[1::2], strict=False):
                assert isinstance(name, tree.Name)
                inner[name.text.casefold()] = tree.closed(self.out(value, inner))
            return self.out(node.arguments[-1], inner)
        before = tree.children(node)
        after = _apart([self.out(child, scope) for child in before])
        if all(one is other for one, other in zip(before, after, strict=True)):
            return node
        changed = iter(after)
        found = tree.with_children(node, lambda _: next(changed))
        count, depth = self._measured(found)
        if count > MOST_NODES or depth > DEEPEST:
            raise _TooLarge
        return found

    def _measured(self, node: tree.Node) -> tuple[int, int]:
        """How many nodes a tree has, those that stand in it twice counted twice, and its depth."""
        known = self._sizes.get(id(node))
        if known is None:
            below = [self._measured(child) for child in tree.children(node)]
            depth = 1 + max((depth for _, depth in below), default=0)
            known = self._sizes[id(node)] = (1 + sum(count for count, _ in below), depth)
            # What is kept has its number to itself.
            self._kept.append(node)
        return known
