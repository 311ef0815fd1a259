"""The rule about growth over a list that counts one period too many, or too few."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, Area
from dreieck.core.words.counting import many


@rule("growth-periods")
def growth_periods(subject: Subject) -> Iterator[Finding]:
    """The root of a quotient takes one period more, or less, than lie between its cells."""
    for node in tree.walk(subject.shape.tree):
        if not isinstance(node, tree.Binary) or node.operator != "^":
            continue
        quotient, exponent = tree.bare(node.left), tree.bare(node.right)
        if not isinstance(quotient, tree.Binary) or quotient.operator != "/":
            continue
        if not isinstance(exponent, tree.Binary) or exponent.operator != "/":
            continue
        periods = exponent.right
        if exponent.left != tree.Number(1.0) or not isinstance(periods, tree.Number):
            continue
        steps = _steps(subject, quotient)
        if steps is not None and abs(periods.value - steps) == 1:
            yield _finding(subject, periods, steps)
            return


def _steps(subject: Subject, quotient: tree.Binary) -> int | None:
    """How many periods lie between both cells of a quotient, which stand in one list."""
    last, first = quotient.left, quotient.right
    if not isinstance(last, CellReference) or not isinstance(first, CellReference):
        return None
    one, other = last.area(subject.start), first.area(subject.start)
    sheet = subject.sheet_of(last)
    if not one or not other or sheet is None or sheet is not subject.sheet_of(first):
        return None
    for axis in AXES:
        if one.on(CROSSING[axis]) != other.on(CROSSING[axis]):
            continue
        steps = one.on(axis)[0] - other.on(axis)[0]
        between = (
            Area.of(other.first).spanning(axis, n, n).first
            for n in range(other.on(axis)[0], one.on(axis)[0] + 1)
        )
        if steps > 1 and all(isinstance(subject.value(sheet, cell), float) for cell in between):
            return steps
    return None


def _finding(subject: Subject, periods: tree.Number, steps: int) -> Finding:
    shape = Shape.of(tree.swapped(subject.shape.tree, periods, tree.Number(float(steps))))
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} takes {periods.value:g} periods, but from one cell to the other are"
        f" {many(steps, 'step')}.",
        "Five years have four steps between them: growth is told by the steps.",
        None,
        (refilled(subject, shape, f"take {steps} periods"),),
        (f"{many(steps, 'step')} lead from the first cell to the last",),
    )
