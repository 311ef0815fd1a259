"""The rule about means of quotients, where the quotient of the totals is at hand."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.totalling import summed
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import CROSSING, Area, Axis, Cell


@rule("mean-of-ratios")
def mean_of_ratios(subject: Subject) -> Iterator[Finding]:
    """A mean of quotients stands beside the totals of what they are quotients of."""
    call = subject.shape.tree
    if not isinstance(call, tree.Call) or len(call.arguments) != 1:
        return
    if not has(call.function, Trait.ADDS_UP) or has(call.function, Trait.TOTALS, Trait.SEARCHES):
        return
    (listed,) = call.arguments
    area = listed.area(subject.start) if isinstance(listed, RangeReference) else None
    if area is None or subject.shape.references[0].sheet or min(area.shape) > 1:
        return
    axis: Axis = "row" if area.height > 1 else "column"
    quotient = _quotient(subject, area)
    if quotient is None or subject.start.on(CROSSING[axis]) != area.on(CROSSING[axis])[0]:
        return
    parts = [each.area(subject.start) for each in quotient.references]
    if all(part and _is_total_of(subject, part.first, area, axis) for part in parts):
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.start.text} is the mean of quotients, though the totals that they are"
            f" quotients of stand beside it: {quotient.text(subject.start)}.",
            "In a mean of quotients small ones weigh as much as large ones.",
            0,
            (refilled(subject, quotient, "divide the totals"),),
            (f"{area.text} holds quotients, and both of their lines are added up here",),
        )


def _quotient(subject: Subject, area: Area) -> Shape | None:
    """The formula of an area that holds nothing but one quotient of two cells of its line."""
    shapes = {subject.sheet.content(cell) for cell in area.cells()}
    if len(shapes) != 1:
        return None
    (shape,) = shapes
    if not isinstance(shape, Shape) or not isinstance(shape.tree, tree.Binary):
        return None
    sides = (shape.tree.left, shape.tree.right)
    cells = all(isinstance(each, CellReference) and not each.sheet for each in sides)
    return shape if shape.tree.operator == "/" and cells else None


def _is_total_of(subject: Subject, cell: Cell, area: Area, axis: Axis) -> bool:
    """Whether a cell adds up its own line over the same rows, or columns, as an area."""
    found = summed(subject.sheet.content(cell), cell)
    crossing = CROSSING[axis]
    return any(
        each.on(axis) == area.on(axis) and each.on(crossing)[0] == cell.on(crossing)
        for each in found
    )
