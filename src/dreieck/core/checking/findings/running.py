"""The rule about running totals that do not begin where their list does."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.heads import is_heading
from dreieck.core.tables.lists import belongs

_MOST = 1_000


@rule("begins-late")
def begins_late(subject: Subject) -> Iterator[Finding]:
    """A total that grows from landing to landing leaves out the first numbers of its list."""
    if doubt(subject) or subject.block.size < 2:
        return
    for use in subject.range_uses:
        if use.how != "total" or not has(use.function, Trait.SUMMARISES):
            continue
        for axis in AXES:
            locked = [part.locked for part in use.reference.on(axis)]
            if subject.block.area.length(axis) > 1 and len(set(locked)) == 2:
                yield from _late(subject, use, axis)


def _late(subject: Subject, use: Use, axis: Axis) -> Iterator[Finding]:
    reference, start = use.reference, subject.start
    sheet, area = subject.sheet_of(reference), reference.area(start)
    assert isinstance(reference, RangeReference)
    if sheet is not subject.sheet or not area or area.length(CROSSING[axis]) > 1:
        return
    held = next(part.at for part in reference.on(axis) if part.locked)
    free = next(part.at for part in reference.on(axis) if not part.locked)
    if subject.block.area.on(axis)[1] + free <= held:
        # What is still to come shrinks to the cell that stays.
        return
    first = _first(subject, sheet, area, axis, held)
    if first >= held or not 0 <= free <= 1 or held < start.on(axis):
        return
    if _grows_before(subject, first, held, axis):
        return
    end = max(start.on(axis), first)
    wanted = reference.reading(area.spanning(axis, first, end), start, start)
    missed = area.spanning(axis, first, held - 1)
    yield Finding(
        "doubt",
        sheet.name,
        subject.parts,
        f"{start.text} reads {subject.named(reference, start)}: the running total begins with"
        f" {area.first.text}, but its list with {missed.first.text}.",
        "What comes before the first cell is in none of the landings.",
        use.number,
        (
            refilled(
                subject,
                subject.shape.with_reference(use.number, wanted),
                f"let {subject.tag(use.number)} begin with {missed.first.text}",
            ),
        ),
        (f"{missed.text} stands before what is read, in the same list",),
    )


def _first(subject: Subject, sheet: Sheet, area: Area, axis: Axis, held: int) -> int:
    """Where the list begins of which a range reads a part from ``held`` on."""
    at = held
    inside = area.spanning(axis, held, held).first
    while at > 1 and held - at < _MOST:
        cell = area.spanning(axis, at - 1, at - 1).first
        if not isinstance(subject.value(sheet, cell), float):
            break
        if is_heading(subject.calculation, sheet, cell, inside, axis):
            break
        if belongs(subject.calculation, sheet, area, cell, axis) is False:
            break
        at -= 1
    return at


def _grows_before(subject: Subject, first: int, held: int, axis: Axis) -> bool:
    """Whether other running totals in line with these take what comes before."""
    line = Area.of(subject.start).spanning(axis, first, held - 1)
    if line.common(subject.block.area):
        return False
    return any(
        isinstance(content, Shape) and content is not subject.shape
        and any(isinstance(each, RangeReference) for each in content.references)
        for _, content in subject.sheet.formulas(line)
    )  # fmt: skip
