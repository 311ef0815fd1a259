"""What a reference is multiplied with or divided by."""

from __future__ import annotations

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference


def other_operand(node: tree.Node, number: int, operators: str) -> tree.Node | None:
    """What stands on the other side of the operator that a reference belongs to.

    ``number`` counts the references from 0; None where none of the operators joins it.
    """
    count = 0
    found: tree.Node | None = None

    def visit(each: tree.Node, other: tree.Node | None) -> None:
        nonlocal count, found
        if isinstance(each, CellReference | RangeReference):
            if count == number:
                found = other
            count += 1
        elif isinstance(each, tree.Binary) and each.operator in operators:
            visit(each.left, each.right)
            visit(each.right, each.left)
        else:
            passed = other if isinstance(each, tree.Group) else None
            for child in tree.children(each):
                visit(child, passed)

    visit(node, None)
    return found


def is_rate(node: tree.Node) -> bool:
    """Whether a factor is 1 plus or minus something."""
    node = tree.bare(node)
    return (
        isinstance(node, tree.Binary)
        and node.operator in "+-"
        and any(isinstance(side, tree.Number) for side in (node.left, node.right))
    )


def signs_of(node: tree.Node) -> dict[int, str]:
    """The signs with which references are added or taken away, by their numbers."""
    found: dict[int, str] = {}
    count = 0

    def visit(each: tree.Node, sign: str) -> None:
        nonlocal count
        match each:
            case CellReference() | RangeReference():
                if sign:
                    found[count] = sign
                count += 1
            case tree.Group():
                visit(each.inner, sign)
            case tree.Binary(operator="+" | "-"):
                visit(each.left, sign)
                turned = "-" if sign == "+" else "+"
                visit(each.right, turned if each.operator == "-" else sign)
            case _:
                for child in tree.children(each):
                    visit(child, "")

    visit(node, "+")
    return found
