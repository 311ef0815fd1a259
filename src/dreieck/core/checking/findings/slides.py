"""Whether a reference slid off what every landing should read, or ran past the end of its list."""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Literal, NamedTuple

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.subject import Subject, moves
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.grid import CROSSING, Area, Axis
from dreieck.core.sheet.cells import Kind

_ORDERED = (
    "january february march april may june july august september october november december",
    "jan feb mar apr may jun jul aug sep oct nov dec",
    "monday tuesday wednesday thursday friday saturday sunday",
    "mon tue wed thu fri sat sun",
)


class Slide(NamedTuple):
    """A reference that slid on an axis; ``why`` tells the kind of what it slid off."""

    use: Use
    part: Area
    axis: Axis
    why: Literal["lone", "list", "results"]


def slides(subject: Subject) -> tuple[Slide, ...]:
    """All references that slid, one part and axis each."""
    return subject.once(_slides)


def _slides(subject: Subject) -> tuple[Slide, ...]:
    return tuple(_found(subject))


def _found(subject: Subject) -> Iterator[Slide]:
    for use in subject.uses:
        if use.how in ("place", "text"):
            continue
        for part in subject.parts:
            for axis in ("row", "column"):
                why = _why(subject, use, part, axis)
                if why:
                    yield Slide(use, part, axis, why)


def _why(
    subject: Subject, use: Use, part: Area, axis: Axis
) -> Literal["lone", "list", "results"] | None:
    length = part.length(axis)
    if length < 2 or not moves(use.reference.on(axis)):
        return None
    sheet, first = subject.sheet_of(use.reference), use.reference.area(part.first)
    if not sheet or not first:
        return None
    if isinstance(use.reference, RangeReference):
        if first.length(axis) > 1 and _whole_list(subject, use, part, axis):
            return "list"
        return None
    if subject.is_recurrence(use, part):
        along = _reads_along(use, axis)
        return "results" if along and _is_factor(subject, use, part, axis) else None
    return "lone" if _is_lone(subject, use, part, axis, length) else None


def _is_lone(subject: Subject, use: Use, part: Area, axis: Axis, length: int) -> bool:
    """Whether the first landing reads a number that stands alone, away from its own line."""
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    assert isinstance(reference, CellReference) and sheet is not None
    (part_read,) = reference.on(axis)
    offset = part_read.at
    first = reference.area(part.first)
    if first is None or (offset == 0 and sheet is subject.sheet):
        return False
    run = subject.run_of_numbers(sheet, first.first, axis, length)
    if run == 0 or run >= length:
        return False
    if run == 1:
        return _goes_nowhere(subject, use, part, axis)
    return abs(offset) > 1 and run <= 2 and 2 * run < length


def _goes_nowhere(subject: Subject, use: Use, part: Area, axis: Axis) -> bool:
    """Whether the second landing reads nothing that could be meant: a lone cell has no next."""
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    second = reference.area(part.first.step(axis, 1))
    if second is None or sheet is None:
        return True
    value = subject.value(sheet, second.first)
    return value is None or isinstance(value, str)


def _reads_along(use: Use, axis: Axis) -> bool:
    """Whether a landing reads the one before it on this axis, and only on this one."""
    (here,), (other,) = use.reference.on(axis), use.reference.on(CROSSING[axis])
    return here.at == -1 and (other.locked or other.at == 0)


def _is_factor(subject: Subject, use: Use, part: Area, axis: Axis) -> bool:
    """Whether results are multiplied by other cells, along headings that are no series.

    A balance or a growth by ``1 + rate`` goes on from result to result; a product of two
    readings does so hardly ever.
    """
    factor = _other_factor(subject.shape.tree, use.number)
    if factor is None or not tree.references(factor) or _is_rate(factor):
        return False
    return not _is_series(_headings(subject, part, axis))


def _other_factor(node: tree.Node, index: int) -> tree.Node | None:
    """What the reference with this number is multiplied with or divided by."""
    count = 0
    found: tree.Node | None = None

    def visit(each: tree.Node, factor: tree.Node | None) -> None:
        nonlocal count, found
        if isinstance(each, CellReference | RangeReference):
            if count == index:
                found = factor
            count += 1
        elif isinstance(each, tree.Binary) and each.operator in "*/":
            visit(each.left, each.right)
            visit(each.right, each.left)
        else:
            passed = factor if isinstance(each, tree.Group) else None
            for child in tree.children(each):
                visit(child, passed)

    visit(node, None)
    return found


def _is_rate(node: tree.Node) -> bool:
    """Whether a factor is 1 plus or minus something."""
    while isinstance(node, tree.Group):
        node = node.inner
    return (
        isinstance(node, tree.Binary)
        and node.operator in "+-"
        and any(isinstance(side, tree.Number) for side in (node.left, node.right))
    )


def _headings(subject: Subject, part: Area, axis: Axis) -> list[str]:
    """The headings beside the part, as far as there are some next to each other."""
    count = min(part.length(axis), 12)
    lines: list[list[str]] = []
    for back in range(1, 13):
        beside = part.first.step(CROSSING[axis], -back)
        texts = [subject.value(subject.sheet, beside.step(axis, n)) for n in range(count)]
        if all(isinstance(text, str) and text for text in texts):
            lines.append([str(text) for text in texts])
    return lines[0] if lines else []


def _is_series(headings: list[str]) -> bool:
    """Whether headings count on: Week 1, Week 2; months; no headings at all do not tell."""
    if not headings:
        return False
    numbered = [re.fullmatch(r"(.*?)(\d+)(\D*)", text.strip()) for text in headings]
    if all(numbered):
        return len({(m[1], m[3]) for m in numbered if m}) == 1
    words = [text.strip().casefold() for text in headings]
    return any(set(words) <= set(order.split()) for order in _ORDERED)


def _whole_list(subject: Subject, use: Use, part: Area, axis: Axis) -> bool:
    """Whether the first landing reads all of a list, so that the others read less and less."""
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    first = reference.area(part.first)
    assert sheet is not None and first is not None
    last = reference.area(part.last)
    if sheet is subject.sheet and first.common(part):
        return False
    if use.how not in ("total", "list"):
        return False
    _, end = first.on(axis)
    ends_full = bool((subject.kinds(sheet, first.spanning(axis, end, end)) != Kind.EMPTY).any())
    before, after = first.first.step(axis, -1), first.last.step(axis, 1)
    after_is_free = not isinstance(subject.value(sheet, after), float)
    if use.how == "list":
        return ends_full and after_is_free and last is not None
    before_is_free = not isinstance(subject.value(sheet, before), float)
    return ends_full and after_is_free and before_is_free
