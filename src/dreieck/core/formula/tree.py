"""The nodes of a formula.

Nodes are frozen and compared by what they hold, so equal formulas are equal trees.
Brackets are nodes of their own: what somebody bracketed stays bracketed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from dreieck.core.reference import CellReference, RangeReference, Reference


@dataclass(frozen=True, slots=True)
class Number:
    """A number written in the formula."""

    value: float


@dataclass(frozen=True, slots=True)
class Text:
    """Text in double quotes, without them."""

    value: str


@dataclass(frozen=True, slots=True)
class Logical:
    """TRUE or FALSE."""

    value: bool


@dataclass(frozen=True, slots=True)
class ErrorLiteral:
    """An error value written in the formula, such as ``#N/A``."""

    code: str


@dataclass(frozen=True, slots=True)
class Lost:
    """A reference that is gone for good; it prints as ``#REF!``."""


@dataclass(frozen=True, slots=True)
class Inline:
    """A table of values written in the formula, row by row, such as ``{1,2;3,4}``."""

    rows: tuple[tuple[Node, ...], ...]


@dataclass(frozen=True, slots=True)
class Name:
    """A name, as typed."""

    text: str


@dataclass(frozen=True, slots=True)
class Missing:
    """An argument left out, as in ``IF(A1,,0)``."""


@dataclass(frozen=True, slots=True)
class Prefix:
    """A sign in front: ``-`` or ``+``."""

    sign: str
    operand: Node


@dataclass(frozen=True, slots=True)
class Percent:
    """A value with ``%`` behind it."""

    operand: Node


@dataclass(frozen=True, slots=True)
class Binary:
    """Two values and the operator between them."""

    operator: str
    left: Node
    right: Node


@dataclass(frozen=True, slots=True)
class Between:
    """The range from one reference to another that is worked out: ``B4:INDEX(B4:B9,3)``."""

    first: Node
    last: Node


@dataclass(frozen=True, slots=True)
class Group:
    """A value in brackets."""

    inner: Node


@dataclass(frozen=True, slots=True)
class Call:
    """A function in capitals and its arguments."""

    function: str
    arguments: tuple[Node, ...]


Node = (
    Number
    | Text
    | Logical
    | ErrorLiteral
    | Lost
    | Inline
    | Name
    | Missing
    | Prefix
    | Percent
    | Binary
    | Between
    | Group
    | Call
    | CellReference
    | RangeReference
)


def children(node: Node) -> tuple[Node, ...]:
    """The nodes directly below a node, in the order of the text."""
    match node:
        case Prefix() | Percent():
            return (node.operand,)
        case Binary():
            return (node.left, node.right)
        case Between():
            return (node.first, node.last)
        case Group():
            return (node.inner,)
        case Call():
            return node.arguments
        case _:
            return ()


def walk(node: Node) -> Iterator[Node]:
    """Every node of a tree, in the order of the text."""
    yield node
    for child in children(node):
        yield from walk(child)


def references(node: Node) -> tuple[Reference, ...]:
    """The references of a tree, in the order of the text."""
    return tuple(n for n in walk(node) if isinstance(n, CellReference | RangeReference))


def with_references(node: Node, change: Callable[[Reference], Node]) -> Node:
    """The tree with every reference replaced by what ``change`` makes of it."""
    return with_leaves(
        node,
        lambda leaf: change(leaf) if isinstance(leaf, CellReference | RangeReference) else leaf,
    )


def with_leaves(node: Node, change: Callable[[Node], Node]) -> Node:
    """The tree with every node that has none below it replaced by what ``change`` makes of it."""
    match node:
        case Prefix() | Percent():
            return replace(node, operand=with_leaves(node.operand, change))
        case Binary():
            left = with_leaves(node.left, change)
            return replace(node, left=left, right=with_leaves(node.right, change))
        case Between():
            return Between(with_leaves(node.first, change), with_leaves(node.last, change))
        case Group():
            return Group(with_leaves(node.inner, change))
        case Call():
            arguments = tuple(with_leaves(a, change) for a in node.arguments)
            return Call(node.function, arguments)
        case _:
            return change(node)
