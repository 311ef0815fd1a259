"""Whether a formula works with a reference at a place, or its conditions lead past it."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Takes, Trait, find
from dreieck.core.values import Error, Place, to_logical


class Way(NamedTuple):
    """A condition on the way to a reference, and whether it has to hold."""

    condition: Shape
    holds: bool


@lru_cache(maxsize=4096)
def ways(shape: Shape) -> tuple[tuple[Way, ...], ...]:
    """The conditions on the way to each reference of a formula, in their order."""
    return tuple(_ways(shape.tree, ()))


def _ways(node: tree.Node, way: tuple[Way, ...]) -> Iterator[tuple[Way, ...]]:
    if isinstance(node, CellReference | RangeReference):
        yield way
    decides = isinstance(node, tree.Call) and _decides(node)
    for index, child in enumerate(tree.children(node)):
        if decides and index:
            asked = Shape.of(tree.children(node)[0])
            yield from _ways(child, (*way, Way(asked, index == 1)))
        else:
            yield from _ways(child, way)


def _decides(call: tree.Call) -> bool:
    """Whether a function works out one of two arguments by its first one."""
    function = find(call.function)
    return (
        function is not None
        and Trait.CHOOSES in function.traits
        and function.parameter(0).takes is Takes.LOGICAL
    )


def is_passed(calculation: Calculation, way: tuple[Way, ...], place: Place) -> bool:
    """Whether the conditions at a place lead past a reference."""
    for condition, wanted in way:
        holds = to_logical(result_at(condition, place, calculation))
        if not isinstance(holds, Error) and holds is not wanted:
            return True
    return False
