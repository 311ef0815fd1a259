"""Totals of what fits: ``SUM((A2:A9=F2)*B2:B9)`` as *the sum of kg where Hut is “Larch”*."""

from __future__ import annotations

from collections.abc import Iterator
from functools import reduce
from typing import NamedTuple

from dreieck.core.analysis.lifting import is_condition
from dreieck.core.formula import tree
from dreieck.core.functions import Speech, Trait, has, speech_of
from dreieck.core.words.phrases import Phrase, Reader, words


class _Parts(NamedTuple):
    """What is summed up of each line, as factors, and the conditions for it."""

    values: tuple[tree.Node, ...]
    conditions: tuple[tree.Binary, ...]


def filtered_said(reader: Reader, node: tree.Call) -> list[Phrase] | None:
    """A total of the lines for which conditions hold; None for any other call."""
    of_products = has(node.function, Trait.SKIPS_ZEROS)
    if not of_products and (not has(node.function, Trait.SUMMARISES) or len(node.arguments) != 1):
        return None
    if any(
        isinstance(each := tree.bare(a), tree.Binary) and each.compares for a in node.arguments
    ):
        # Conditions that nothing makes numbers of do not count.
        return None
    whole = _product(node.arguments) if of_products else node.arguments[0]
    parts = _parts(whole, adds_up=of_products or has(node.function, Trait.ADDS_UP))
    if parts is None or not parts.conditions:
        return None
    where = [words("where"), *all_said(reader, parts.conditions)]
    if not parts.values:
        return [words("how often"), *where[1:]]
    value = _product(parts.values)
    if of_products:
        return [words("the sum of"), *reader.node(value), *where]
    return [*reader.call(tree.Call(node.function, (value,))), *where]


def conditions_of(node: tree.Node) -> tuple[tree.Binary, ...] | None:
    """The conditions of which all have to hold where a product of them is 1; None for others."""
    found = [_condition(factor) for factor in _factors(tree.bare(node))]
    return None if None in found else tuple(each for each in found if each)


def all_said(reader: Reader, conditions: tuple[tree.Binary, ...]) -> Iterator[Phrase]:
    """Conditions that hold together."""
    for number, condition in enumerate(conditions):
        if number:
            yield words("and")
        yield from reader.node(condition)


def _product(factors: tuple[tree.Node, ...]) -> tree.Node:
    return reduce(lambda one, other: tree.Binary("*", one, other), factors)


def _parts(node: tree.Node, *, adds_up: bool) -> _Parts | None:
    """The conditions of a value that many lines have, and what is left without them."""
    node = tree.bare(node)
    if isinstance(node, tree.Call) and speech_of(node.function) is Speech.BRANCHES:
        return _chosen(node, adds_up=adds_up)
    if not adds_up:
        return None
    values, conditions = [], []
    for factor in _factors(node):
        condition = _condition(factor)
        if condition is None:
            values.append(factor)
        else:
            conditions.append(condition)
    return _Parts(tuple(values), tuple(conditions))


def _chosen(node: tree.Call, *, adds_up: bool) -> _Parts | None:
    """What a condition for each line lets through, if all else does not count."""
    test, *ways = node.arguments
    conditions = conditions_of(test)
    rest = ways[1] if len(ways) > 1 else tree.Missing()
    counts_not = rest in (tree.Missing(), tree.Text("")) or (adds_up and rest == tree.Number(0.0))
    if not ways or not counts_not or conditions is None:
        return None
    inner = _parts(ways[0], adds_up=adds_up) or _Parts((ways[0],), ())
    return _Parts(inner.values, (*conditions, *inner.conditions))


def _factors(node: tree.Node) -> list[tree.Node]:
    if isinstance(node, tree.Binary) and node.operator == "*":
        return [*_factors(node.left), *_factors(node.right)]
    return [node]


def _condition(node: tree.Node) -> tree.Binary | None:
    """A comparison of the cells of a list, as it stands or as a number; None for all else."""
    while isinstance(node, tree.Group | tree.Prefix):
        node = node.inner if isinstance(node, tree.Group) else node.operand
    return node if isinstance(node, tree.Binary) and is_condition(node) else None
