"""The rule about parts of a list that share some of its cells."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.totalling import summed
from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import stretched
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import tree
from dreieck.core.grid import AXES, CROSSING, Area, Axis
from dreieck.core.words.counting import listed


@rule("overlaps")
def overlaps(subject: Subject) -> Iterator[Finding]:
    """A single sum takes cells that the next sum of the same list takes as well."""
    node = subject.shape.tree
    if subject.block.size > 1 or not isinstance(node, tree.Call) or len(subject.range_uses) != 1:
        return
    (use,) = subject.range_uses
    area = use.reference.area(subject.start)
    if use.reference.sheet or not area or min(area.shape) > 1 or area.size < 2:
        return
    if summed(subject.shape, subject.start) != [area]:
        return
    axis: Axis = "row" if area.height > 1 else "column"
    for each in AXES:
        beside = subject.start.step(each, 1)
        other = summed(subject.sheet.content(beside), beside) if beside.on_sheet else []
        if len(other) == 1 and _overlap(area, other[0], axis):
            yield _finding(subject, use, area, other[0], axis)
            return


def _overlap(one: Area, other: Area, axis: Axis) -> bool:
    """Whether the end of one part is the beginning of the next, and both are longer."""
    crossing = CROSSING[axis]
    if one.on(crossing) != other.on(crossing) or other.length(axis) < 2:
        return False
    (low, high), (first, last) = one.on(axis), other.on(axis)
    return (
        low < first <= high < last and 2 * (high - first + 1) < min(high - low, last - first) + 2
    )


def _finding(subject: Subject, use: Use, area: Area, other: Area, axis: Axis) -> Finding:
    common = area.common(other)
    assert common is not None
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} takes {listed((common,))}, which the next sum takes as well"
        f" ({other.text}).",
        "Parts of a whole that share a cell come to more than the whole.",
        use.number,
        (stretched(subject, use, axis, 0, -common.length(axis)),),
        (f"{area.text} and {other.text} are parts of one list",),
    )
