"""What a formula reads, told by its shape alone, and which formulas read an area.

Both questions are arithmetic on areas: for one reference, what the formulas of a rectangle
read is a rectangle, and so are the formulas that read some of one.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from itertools import product

from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Part, RangeReference, Reference
from dreieck.core.functions import Takes, Trait, find, has
from dreieck.core.grid import AXES, EVERYWHERE, LAST, Area, Cell


@lru_cache(maxsize=4096)
def read_names(shape: Shape) -> tuple[str, ...]:
    """The names that a formula uses."""
    found = (node.text for node in tree.walk(shape.tree) if isinstance(node, tree.Name))
    return tuple(dict.fromkeys(found))


@lru_cache(maxsize=4096)
def read_references(shape: Shape) -> tuple[Reference, ...]:
    """The references of a formula whose values it reads, not only their place."""
    return tuple(_read(shape.tree))


@lru_cache(maxsize=4096)
def reads_anywhere(shape: Shape) -> bool:
    """Whether a formula may read more than its references tell."""
    return any(_may_read_anywhere(node) for node in tree.walk(shape.tree))


def reach(reference: Reference, area: Area) -> Area | None:
    """All that formulas in an area read by a reference; None where it lies off the sheet."""
    for axis in AXES:
        low, high = area.on(axis)
        area = area.spanning(axis, *_reached(reference.on(axis), low, high, LAST[axis]))
    return area.common(EVERYWHERE)


def where_reads(reference: Reference, area: Area) -> Area | None:
    """The cells in which a formula with this reference reads some of an area."""
    for axis in AXES:
        span = _bases(reference.on(axis), *area.on(axis), LAST[axis])
        if span is None:
            return None
        area = area.spanning(axis, *span)
    return area


@lru_cache(maxsize=4096)
def crossing_references(shape: Shape) -> tuple[tuple[Reference, Reference], ...]:
    """The references of a formula of which it reads only what both share."""
    return tuple(
        (node.first, node.last)
        for node in tree.walk(shape.tree)
        if isinstance(node, tree.Linked)
        and _crosses(node)
        and isinstance(node.first, CellReference | RangeReference)
        and isinstance(node.last, CellReference | RangeReference)
    )


def shared_areas(shape: Shape, at: Cell) -> list[tuple[str | None, Area]]:
    """What crossing references of a formula at ``at`` share, with its sheet if one is named."""
    found: list[tuple[str | None, Area]] = []
    for node in tree.walk(shape.tree):
        if _crosses(node):
            found.extend(_areas(node, at))
    return list(dict.fromkeys(found))


def _areas(node: tree.Node, at: Cell) -> list[tuple[str | None, Area]]:
    """The areas that a node refers to, as far as they are not worked out."""
    match node:
        case CellReference() | RangeReference():
            area = node.area(at)
            return [(node.sheet, area)] if area else []
        case tree.Group():
            return _areas(node.inner, at)
        case tree.Linked(operator="~"):
            return _areas(node.first, at) + _areas(node.last, at)
        case tree.Linked() if _crosses(node):
            pairs = product(_areas(node.first, at), _areas(node.last, at))
            return [
                (sheet, common)
                for (sheet, one), (other_sheet, other) in pairs
                if sheet == other_sheet and (common := one.common(other))
            ]
    return []


def _reached(parts: tuple[Part, ...], low: int, high: int, limit: int) -> tuple[int, int]:
    if not parts:
        return 1, limit
    return (
        min(part.coordinate(low) for part in parts),
        max(part.coordinate(high) for part in parts),
    )


def _bases(parts: tuple[Part, ...], low: int, high: int, limit: int) -> tuple[int, int] | None:
    """The columns or rows of formulas whose span on this axis meets ``low`` to ``high``."""
    first, last = 1, limit
    if parts:
        ends = [part.at for part in parts]
        if all(part.locked for part in parts):
            if max(ends) < low or min(ends) > high:
                return None
        elif not any(part.locked for part in parts):
            first, last = low - max(ends), high - min(ends)
        else:
            fixed = next(part.at for part in parts if part.locked)
            moving = next(part.at for part in parts if not part.locked)
            if fixed < low:
                first = low - moving
            elif fixed > high:
                last = high - moving
    first, last = max(first, 1), min(last, limit)
    return (first, last) if first <= last else None


def _read(node: tree.Node) -> Iterator[Reference]:
    if isinstance(node, CellReference | RangeReference):
        yield node
    function = find(node.function) if isinstance(node, tree.Call) else None
    for index, child in enumerate(tree.children(node)):
        is_place = (
            function
            and index < len(function.parameters)
            and (function.parameters[index].takes in (Takes.PLACE, Takes.SIZE))
        )
        # Of references that cross only what they share is read, which depends on the place.
        is_place = is_place or _crosses(node)
        if not (is_place and isinstance(child, CellReference | RangeReference)):
            yield from _read(child)


def _crosses(node: tree.Node) -> bool:
    return isinstance(node, tree.Linked) and node.operator in "! "


def _may_read_anywhere(node: tree.Node) -> bool:
    if isinstance(node, tree.Linked):
        return node.operator != "~"
    if not isinstance(node, tree.Call):
        return False
    if has(node.function, Trait.SIZES_LIKE_FIRST) and len(node.arguments) > 2:
        return not _same_size(node.arguments[0], node.arguments[2])
    return has(node.function, Trait.READS_ELSEWHERE)


def _same_size(one: tree.Node, other: tree.Node) -> bool:
    """Whether two references have one size wherever their formula stands."""
    if not isinstance(one, CellReference | RangeReference):
        return False
    if not isinstance(other, CellReference | RangeReference):
        return False
    return all(_same_length(one.on(axis), other.on(axis)) for axis in AXES)


def _same_length(one: tuple[Part, ...], other: tuple[Part, ...]) -> bool:
    if len(one) != len(other) or len(one) < 2:
        return len(one) == len(other)
    if one[0].locked == one[1].locked and other[0].locked == other[1].locked:
        return one[1].at - one[0].at == other[1].at - other[0].at
    # A range of which one end stays grows: so does another one only if it is the same.
    return one == other
