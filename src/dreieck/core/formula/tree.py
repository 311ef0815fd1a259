"""The nodes of a formula.

Nodes are frozen and compared by what they hold, so equal formulas are equal trees.
Brackets are nodes of their own: what somebody bracketed stays bracketed.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from dreieck.core.formula.reference import CellReference, RangeReference, Reference

COMPARISONS = ("=", "<>", "<", ">", "<=", ">=")
"""The operators that tell true or false of two values (OpenFormula 6.4.7)."""


@dataclass(frozen=True, slots=True)
class Number:
    """A number written in the formula; ``spelled`` is how, where that is not the shortest way."""

    value: float
    spelled: str = ""


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

    @property
    def compares(self) -> bool:
        """Whether it tells true or false of its values."""
        return self.operator in COMPARISONS


@dataclass(frozen=True, slots=True)
class Linked:
    """Two references and the operator that makes one of them (OpenFormula 6.4.11 to 6.4.13).

    ``:`` is the range from one to the other, ``!`` or a blank what both share, ``~`` both.
    """

    operator: str
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
    | Linked
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
        case Linked():
            return (node.first, node.last)
        case Group():
            return (node.inner,)
        case Call():
            return node.arguments
        case _:
            return ()


def closed(node: Node) -> Node:
    """A node as it can stand beside any operator: in brackets where it is more than one thing."""
    return Group(node) if children(node) and not isinstance(node, Group | Call) else node


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


def plain(node: Node) -> Node:
    """The tree as it is without anybody's spelling: equal trees mean the same."""
    if isinstance(node, Linked) and node.operator == " ":
        return plain(replace(node, operator="!"))
    if isinstance(node, Number) and node.spelled:
        return Number(node.value)
    if isinstance(node, Inline):
        return Inline(tuple(tuple(map(plain, row)) for row in node.rows))
    return with_children(node, plain)


def with_leaves(node: Node, change: Callable[[Node], Node]) -> Node:
    """The tree with every node that has none below it replaced by what ``change`` makes of it."""
    if isinstance(node, Call) and not node.arguments:
        return node
    if not children(node):
        return change(node)
    return with_children(node, lambda child: with_leaves(child, change))


def bare(node: Node) -> Node:
    """What stands in brackets, however many there are around it."""
    while isinstance(node, Group):
        node = node.inner
    return node


def swapped(node: Node, one: Node, other: Node) -> Node:
    """The tree with another node in the place of one of its own; equal ones elsewhere stay."""
    return other if node is one else with_children(node, lambda each: swapped(each, one, other))


def with_children(node: Node, change: Callable[[Node], Node]) -> Node:
    """The node with each of those directly below it replaced by what ``change`` makes of it."""
    match node:
        case Prefix() | Percent():
            return replace(node, operand=change(node.operand))
        case Binary():
            return Binary(node.operator, change(node.left), change(node.right))
        case Linked():
            return Linked(node.operator, change(node.first), change(node.last))
        case Group():
            return Group(change(node.inner))
        case Call():
            return Call(node.function, tuple(map(change, node.arguments)))
        case _:
            return node
