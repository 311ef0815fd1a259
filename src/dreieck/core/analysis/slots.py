"""What two formulas of one structure can differ in: operators, functions, sheets, numbers."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from typing import Literal, NamedTuple

from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference

Slot = Literal["operators", "sheets"]
"""The places in which lines beside each other are compared one by one."""


class Slots(NamedTuple):
    """The structure of a formula, and what stands in its places, in the order of writing."""

    structure: tuple[object, ...]
    operators: tuple[str, ...]
    functions: tuple[str, ...]
    sheets: tuple[str, ...]
    numbers: tuple[float, ...]
    names: tuple[str, ...]

    def held(self, slot: Slot) -> tuple[str, ...]:
        """What stands in the places of one sort."""
        return self.operators if slot == "operators" else self.sheets


@lru_cache(maxsize=4096)
def slots(shape: Shape) -> Slots:
    """The structure of a formula without what stands in its places, and that apart."""
    structure: list[object] = []
    found: dict[str, list[object]] = {
        "operators": [], "functions": [], "sheets": [], "numbers": [], "names": []
    }  # fmt: skip

    def visit(node: tree.Node) -> None:
        structure.append(type(node))
        match node:
            case tree.Binary():
                found["operators"].append(node.operator)
            case tree.Call():
                found["functions"].append(node.function)
                structure.append(len(node.arguments))
            case CellReference() | RangeReference():
                found["sheets"].append(node.sheet or "")
            case tree.Number():
                found["numbers"].append(node.value)
            case tree.Name():
                found["names"].append(node.text.casefold())
            case tree.Prefix():
                structure.append(node.sign)
            case tree.Text() | tree.Logical():
                structure.append(node.value)
            case _:
                pass
        for child in tree.children(node):
            visit(child)

    visit(shape.tree)
    return Slots(tuple(structure), *(tuple(each) for each in found.values()))  # type: ignore[arg-type]


def with_slot(shape: Shape, other: Shape, slot: Slot) -> Shape:
    """A formula with what another one of its structure holds in the places of one sort.

    Raises ValueError where the structures differ.
    """
    if slots(shape).structure != slots(other).structure:
        raise ValueError("These formulas are built differently.")
    taken = iter(slots(other).held(slot))

    def made(node: tree.Node) -> tree.Node:
        match node:
            case tree.Binary() if slot == "operators":
                node = tree.Binary(next(taken), node.left, node.right)
            case CellReference() | RangeReference() if slot == "sheets":
                return replace(node, sheet=next(taken) or None)
            case _:
                pass
        return tree.with_children(node, made)

    return Shape.of(made(shape.tree))
