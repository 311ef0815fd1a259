"""Repairs: each is an edit of the cells, ready to be made, and says what it changes."""

from __future__ import annotations

from itertools import islice

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Mend
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape
from dreieck.core.formula.locks import Lock, with_lock
from dreieck.core.grid import Area, Axis, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed, many

_MOST_EMPTIED = 40
"""So many cells at most are emptied to make room."""


def refilled(subject: Subject, shape: Shape, says: str) -> Mend:
    """Change the start and fill the block again."""
    start = subject.start
    edits = (SetCells.with_content(subject.sheet, subject.parts, shape),)
    return Mend(says, subject.shape.text(start), shape.text(start), edits)


def relocked(subject: Subject, use: Use, axis: Axis, hold: Lock) -> Mend:
    """Let the column or row of a reference stay, or move, and fill the block again."""
    changed = with_lock(use.reference, subject.start, axis, hold)
    does = "stay" if hold == "stays" else "move"
    return refilled(
        subject,
        subject.shape.with_equals(use.number, changed),
        f"let the {axis} of {subject.tag(use.number)} {does}",
    )


def stretched(subject: Subject, use: Use, axis: Axis, first: int, last: int) -> Mend:
    """Take so many cells more into a range, before its first and behind its last one."""
    start = subject.start
    area = use.reference.area(start)
    assert area is not None
    low, high = area.on(axis)
    changed = use.reference.reading(area.spanning(axis, low - first, high + last), start, start)
    return refilled(
        subject,
        subject.shape.with_equals(use.number, changed),
        f"stretch {subject.tag(use.number)} to {subject.address(changed, start)}",
    )


def ended(subject: Subject, row: int) -> Mend:
    """End the fill at a row: the landings below are emptied."""
    below = tuple(
        area._replace(top=max(area.top, row + 1)) for area in subject.parts if area.bottom > row
    )
    first = Cell(below[0].left, below[0].top)
    before = subject.shape.text(first)
    count = sum(area.size for area in below)
    return Mend(
        f"end the fill at row {row}: takes {many(count, 'formula')} away",
        before,
        "",
        (SetCells.with_content(subject.sheet, below, None),),
    )


def room_made(subject: Subject, start: Cell) -> tuple[Mend, ...]:
    """Empty what stands where a formula has to fill cells."""
    wanted = subject.calculation.wanted(subject.sheet.name, start)
    if wanted is None or not wanted.last.on_sheet or subject.block.size > 1:
        return ()
    sheet = subject.sheet
    filled = [cell for cell, _ in islice(sheet.filled(wanted), _MOST_EMPTIED + 2) if cell != start]
    if not filled or len(filled) > _MOST_EMPTIED:
        return ()
    areas = tuple(Area.of(cell) for cell in filled)
    before = typed_text(sheet.content(filled[0]), filled[0], sheet.look(filled[0]))
    return (
        Mend(
            f"empty {listed(areas)}, so that there is room",
            before,
            "",
            (SetCells.with_content(sheet, areas, None),),
        ),
    )


def restored(sheet: Sheet, areas: tuple[Area, ...], shape: Shape) -> Mend:
    """Give cells the shape of their block again."""
    first = areas[0].first
    before = typed_text(sheet.content(first), first, sheet.look(first))
    return Mend(
        "restore the block's formula",
        before,
        shape.text(first),
        (SetCells.with_content(sheet, areas, shape),),
    )
