"""The rule about formulas that work with what a column between corrects."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.factors import is_rate
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell


@rule("reads-uncorrected")
def reads_uncorrected(subject: Subject) -> Iterator[Finding]:
    """A line that is corrected by an input is read, though the corrected one lies between."""
    if subject.block.size < 2 or doubt(subject):
        return
    for axis in AXES:
        if subject.block.area.length(axis) < 2:
            continue
        for use in subject.cell_uses:
            found = _corrected(subject, use, axis)
            if found:
                yield _finding(subject, use, found)
                return


def _corrected(subject: Subject, use: Use, axis: Axis) -> Cell | None:
    """The cell between what is read and the landing that corrects it, and that nothing reads."""
    area, start, crossing = use.reference.area(subject.start), subject.start, CROSSING[axis]
    (part,) = use.reference.on(axis)
    home = subject.sheet_of(use.reference) is subject.sheet
    if not area or not home or part.locked or part.at or _is_difference(subject, use):
        return None
    for n in range(area.on(crossing)[0] + 1, start.on(crossing)):
        cell = Area.of(start).spanning(crossing, n, n).first
        shape = subject.sheet.content(cell)
        if not isinstance(shape, Shape) or not _corrects(shape, cell, area.first, axis):
            continue
        readers = subject.calculation.read_map().reading(subject.sheet.name, Area.of(cell))
        return None if any(readers) else cell
    return None


def _is_difference(subject: Subject, use: Use) -> bool:
    """Whether a reference is taken away, or taken away from: what was before may be meant."""
    for node in tree.walk(subject.shape.tree):
        taken = isinstance(node, tree.Binary) and node.operator == "-"
        if taken and use.reference in tree.children(node):
            return True
    return False


def _corrects(shape: Shape, cell: Cell, read: Cell, axis: Axis) -> bool:
    """Whether a formula takes an input away from a cell, or multiplies it by 1 less a rate."""
    node = shape.tree
    if not isinstance(node, tree.Binary) or not isinstance(node.left, CellReference):
        return False
    if node.left.area(cell) != Area.of(read) or node.left.on(axis)[0].locked:
        return False
    if node.operator == "-":
        return isinstance(node.right, CellReference) and node.right.on(axis)[0].locked
    return node.operator == "*" and is_rate(node.right) and bool(tree.references(node.right))


def _finding(subject: Subject, use: Use, corrected: Cell) -> Finding:
    start = subject.start
    wanted = use.reference.reading(Area.of(corrected), start, start)
    changed = subject.shape.with_equals(use.number, wanted)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} reads {subject.named(use.reference, start)}, though"
        f" {subject.named(wanted, start)} corrects it, and nothing reads that.",
        "What is corrected and then left aside was meant to be worked with.",
        use.number,
        (refilled(subject, changed, f"read {subject.address(wanted, start)}"),),
        (f"no formula reads {corrected.text}",),
    )
