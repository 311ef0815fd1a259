"""Whether what goes on from line to line begins anew in a line, as it does with each group."""

from __future__ import annotations

from dreieck.core.budget import spend
from dreieck.core.checking.findings.awaiting import holds
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, Part
from dreieck.core.grid import AXES, CROSSING, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet

_OWN, _BEFORE = Part(False, 0), Part(False, -1)
_LONGEST = 400
_NEAR = 12
"""So far before a cell the name of its group may stand."""


def restarts(sheet: Sheet, shape: Shape, cell: Cell) -> bool:
    """Whether a cell among formulas that go on from line to line begins as they began.

    It holds what stands before the first of them, a number or a formula, and a group of its own
    begins with its line.
    """
    return any(
        _restarts(sheet, shape, cell, axis) for axis in AXES if reads_line_before(shape, axis)
    )


def begins_anew(sheet: Sheet, shape: Shape, cell: Cell, typed: float, axis: Axis) -> bool:
    """Whether nothing of what a formula reads in its own line is there: a count begins anew.

    What is typed there and stands in another cell that would be read is no new count.
    """
    read = [
        (each.on(axis), area.first)
        for each in shape.references
        if isinstance(each, CellReference) and each.sheet is None and (area := each.area(cell))
    ]
    beside = [at for parts, at in read if parts == (_OWN,)]
    before = [sheet.content(at) for parts, at in read if parts != (_OWN,)]
    return (
        bool(beside)
        and bool(before)
        and typed not in before
        and all(sheet.content(at) is None for at in beside)
    )


def reads_line_before(shape: Shape, axis: Axis) -> bool:
    """Whether a formula reads the line before its own, and so goes on from it."""
    return any(not each.sheet and _BEFORE in each.on(axis) for each in shape.references)


def _restarts(sheet: Sheet, shape: Shape, cell: Cell, axis: Axis) -> bool:
    held = sheet.content(cell)
    first, last = _end(sheet, shape, cell, axis, -1), _end(sheet, shape, cell, axis, 1)
    opening = first.step(axis, -1)
    if first == cell or not opening.on_sheet:
        return False
    if isinstance(held, Shape) and reads_line_before(held, axis):
        return False
    alike = type(sheet.content(opening)) is type(held)
    return alike and _begins_group(sheet, opening, cell, last, axis)


def _end(sheet: Sheet, shape: Shape, cell: Cell, axis: Axis, step: int) -> Cell:
    """The last cell of the formulas next to a cell."""
    for _ in range(_LONGEST):
        spend(1)
        further = cell.step(axis, step)
        if not holds(sheet, further, shape):
            break
        cell = further
    return cell


def _begins_group(sheet: Sheet, opening: Cell, cell: Cell, last: Cell, axis: Axis) -> bool:
    """Whether the lines before a cell are named alike, and those from it on otherwise."""
    crossing = CROSSING[axis]
    for back in range(1, min(cell.on(crossing), _NEAR)):
        spend(last.on(axis) - opening.on(axis) + 1)
        names: list[Content | None] = []
        line = opening.step(crossing, -back)
        for n in range(last.on(axis) - opening.on(axis) + 1):
            name = sheet.content(line.step(axis, n))
            # A name that stands once holds for the lines below it.
            names.append(names[-1] if name is None and names else name)
        here = cell.on(axis) - opening.on(axis)
        before, behind = set(names[:here]), set(names[here:])
        if len(before) == len(behind) == 1 and before != behind and None not in before | behind:
            return True
    return False
