"""What a formula does with each of its references, told by the place where it stands."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from typing import Literal, NamedTuple

from dreieck.core.analysis.binding import written_out
from dreieck.core.analysis.lifting import lifts, takes_single
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference, Reference
from dreieck.core.functions import Function, Takes, Trait, find, has

How = Literal["number", "total", "list", "condition", "text", "value", "place"]
"""A number is calculated with; numbers are added up or the like; a list is searched; a
condition is asked; text is joined or taken as text; any value is taken; only the place counts."""

_TAKEN: dict[Takes, How] = {
    Takes.NUMBER: "number",
    Takes.WHOLE: "number",
    Takes.TEXT: "text",
    Takes.ADDRESS: "text",
    Takes.LOGICAL: "condition",
    Takes.LOGICALS: "condition",
    Takes.NUMBERS: "total",
    Takes.TOTALS: "total",
    Takes.ARRAY: "total",
    Takes.ORDERED: "total",
    Takes.RANGE: "list",
    Takes.AREAS: "list",
    Takes.PLACE: "place",
    Takes.SIZE: "place",
}


class Use(NamedTuple):
    """A reference, its ``number`` counted from 0, and its use.

    ``function`` is the call that it is an argument of. ``guarded`` says that the formula itself
    looks whether the value is empty or an error.
    """

    number: int
    reference: Reference
    how: How
    function: str
    guarded: bool


@lru_cache(maxsize=4096)
def uses(shape: Shape) -> tuple[Use, ...]:
    """The uses of all references of a formula, in their order."""
    asked = frozenset(_asked(shape.tree))
    root = written_out(shape.tree) or shape.tree
    numbers = {id(each): number for number, each in enumerate(shape.references)}
    found: dict[int, Use] = {}
    for reference, how, function, guarded in _uses(root, "value", "", guarded=False):
        # What has a name of its own in the formula may be used twice.
        number = numbers[id(reference)]
        use = Use(number, reference, how, function, guarded or reference in asked)
        found.setdefault(number, use)
    for number, reference in enumerate(shape.references):
        found.setdefault(number, Use(number, reference, "value", "", True))
    return tuple(found[number] for number in sorted(found))


def is_plain_summary(use: Use) -> bool:
    """Whether a reference is summed up, averaged or the like as it stands."""
    return use.how in ("total", "value") and has(use.function, Trait.SUMMARISES)


def _uses(
    node: tree.Node, how: How, function: str, *, guarded: bool, whole: str = ""
) -> Iterator[tuple[Reference, How, str, bool]]:
    """What is done with references; ``whole`` is the function that goes through their cells."""
    match node:
        case RangeReference() if whole and how not in ("place", "total"):
            # Its cells are taken one by one, beside those of other lists.
            yield node, "list", function if how == "list" else whole, guarded
        case CellReference() | RangeReference():
            yield node, how, function, guarded
        case tree.Group():
            yield from _uses(node.inner, how, function, guarded=guarded, whole=whole)
        case tree.Binary():
            inner: How = "text" if node.operator == "&" else "number"
            inner = "value" if node.compares else inner
            for side in (node.left, node.right):
                yield from _uses(side, inner, "", guarded=guarded, whole=whole)
        case tree.Linked():
            inner = how if node.operator == "~" else "place"
            for end in (node.first, node.last):
                yield from _uses(end, inner, function, guarded=guarded)
        case tree.Prefix() | tree.Percent():
            yield from _uses(node.operand, "number", "", guarded=guarded, whole=whole)
        case tree.Call():
            yield from _arguments(node, how, guarded=guarded, whole=whole)


def _arguments(
    call: tree.Call, how: How, *, guarded: bool, whole: str
) -> Iterator[tuple[Reference, How, str, bool]]:
    function = find(call.function)
    guarded = guarded or has(call.function, Trait.GUARDS)
    # What is chosen for each cell of a list is a list beside it.
    beside = bool(whole) and lifts(call, lambda name: None)
    for index, argument in enumerate(call.arguments):
        known = function and function.parameters
        taken = _taken(function, index, how) if function and known else "value"
        if taken == "value" and isinstance(argument, RangeReference):
            taken = "list" if has(call.function, Trait.FITS) else taken
        within = whole
        if function and known and not takes_single(function, index, len(call.arguments)):
            if function.parameter(index).takes is not Takes.LATER:
                # A range that stands alone is taken as it is, by the function itself.
                within = "" if isinstance(tree.bare(argument), RangeReference) else call.function
            elif beside and taken == "total":
                taken = "value"
        yield from _uses(argument, taken, call.function, guarded=guarded, whole=within)


def _taken(function: Function, index: int, how: How) -> How:
    """What a function does with an argument; ``how`` is what is done with its result."""
    takes = function.parameter(index).takes
    if takes is Takes.LATER:
        return how if Trait.CHOOSES in function.traits else "value"
    if takes is Takes.AREAS and Trait.SUMMARISES in function.traits:
        return "total"
    return _TAKEN.get(takes, "value")


def _asked(node: tree.Node) -> Iterator[Reference]:
    """The references whose emptiness or kind the formula asks about."""
    for part in tree.walk(node):
        if isinstance(part, tree.Call) and has(part.function, Trait.ASKS):
            first = part.arguments[0] if part.arguments else None
            if isinstance(first, CellReference | RangeReference):
                yield first
        if isinstance(part, tree.Binary) and part.compares:
            for side, other in ((part.left, part.right), (part.right, part.left)):
                empty = isinstance(other, tree.Text) and not other.value
                zero = isinstance(other, tree.Number) and other.value == 0
                if (empty or zero) and isinstance(side, CellReference):
                    yield side
