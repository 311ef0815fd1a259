"""Repairs: each is an edit of the cells, ready to be made, and says what it changes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from dreieck.core.address import Area, Axis, Cell
from dreieck.core.content import Content, typed_text
from dreieck.core.edits import SetCells
from dreieck.core.findings.finding import Mend
from dreieck.core.findings.subject import Subject
from dreieck.core.findings.uses import Use
from dreieck.core.formula import Shape
from dreieck.core.formula.tree import Node
from dreieck.core.locks import Hold, held
from dreieck.core.reference import Part, RangeReference, Reference, Span
from dreieck.core.sheet import Run, Sheet


def put(sheet: Sheet, areas: tuple[Area, ...], content: Content | None) -> SetCells:
    """The edit that puts one content into areas; looks stay."""
    return SetCells(
        sheet.id,
        tuple(
            run._replace(content=content)
            for area in areas
            for column in range(area.left, area.right + 1)
            for run in _looks(sheet, area._replace(left=column, right=column))
        ),
    )


def _looks(sheet: Sheet, strip: Area) -> list[Run]:
    """A strip of a column, cut only where its look changes."""
    found: list[Run] = []
    for run in sheet.runs(strip):
        if found and found[-1].look == run.look:
            found[-1] = found[-1]._replace(bottom=run.bottom)
        else:
            found.append(run)
    return found


def refilled(subject: Subject, shape: Shape, says: str) -> Mend:
    """Change the start and fill the block again."""
    start = subject.start
    edits = (put(subject.sheet, subject.parts, shape),)
    return Mend(says, subject.shape.text(start), shape.text(start), edits)


def relocked(subject: Subject, use: Use, axis: Axis, hold: Hold) -> Mend:
    """Let the column or row of a reference stay, or move, and fill the block again."""
    changed = held(use.reference, subject.start, axis, hold)
    does = "stay" if hold == "stays" else "move"
    return refilled(
        subject,
        with_reference(subject.shape, use.number, changed),
        f"let the {axis} of {subject.tag(use)} {does}",
    )


def stretched(subject: Subject, use: Use, *, down: bool, first: int, last: int) -> Mend:
    """Take so many cells more into a range, before its first and behind its last one."""
    reference = use.reference
    assert isinstance(reference, RangeReference)
    span = reference.rows if down else reference.columns
    assert span is not None
    at = subject.start.row if down else subject.start.column
    low, high = span.ordered(at)
    wider = Span.of(_moved(low, -first), _moved(high, last))
    changed = replace(reference, rows=wider) if down else replace(reference, columns=wider)
    text = subject.address(changed, subject.start)
    return refilled(
        subject,
        with_reference(subject.shape, use.number, changed),
        f"stretch {subject.tag(use)} to {text}",
    )


def ended(subject: Subject, row: int) -> Mend:
    """End the fill at a row: the landings below are emptied."""
    below = tuple(
        area._replace(top=max(area.top, row + 1)) for area in subject.parts if area.bottom > row
    )
    first = Cell(below[0].left, below[0].top)
    before = subject.shape.text(first)
    return Mend(f"end the fill at row {row}", before, "", (put(subject.sheet, below, None),))


def restored(sheet: Sheet, areas: tuple[Area, ...], shape: Shape) -> Mend:
    """Give cells the shape of their block again."""
    first = areas[0].first
    before = typed_text(sheet.content(first), first, sheet.look(first))
    return Mend(
        "restore the block's formula",
        before,
        shape.text(first),
        (put(sheet, areas, shape),),
    )


def with_reference(shape: Shape, index: int, changed: Reference) -> Shape:
    """The shape with one of its references, counted from 0, replaced."""
    count = -1

    def one(reference: Reference) -> Node:
        nonlocal count
        count += 1
        return changed if count == index else reference

    change: Callable[[Reference], Node] = one
    return shape.changed(change)


def _moved(part: Part, steps: int) -> Part:
    return replace(part, at=part.at + steps)
