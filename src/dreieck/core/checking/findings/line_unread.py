"""The rule about a list beside the landings, of which all read the number before it."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import extended
from dreieck.core.formula.locks import with_lock
from dreieck.core.grid import CROSSING, Area, Axis


@rule("line-unread")
def line_unread(subject: Subject) -> Iterator[Finding]:
    """Every landing reads one number, though another one stands in line with each of them."""
    if subject.block.size < 2 or doubt(subject):
        return
    for part in subject.parts:
        for axis in extended(part):
            for use in subject.cell_uses:
                reading = Reading.of(subject, use, part)
                line = _unread(subject, reading, axis) if reading else None
                if reading and line:
                    yield _finding(subject, reading, axis, line)
                    return


def _unread(subject: Subject, reading: Reading, axis: Axis) -> Area | None:
    """The numbers in line with the landings, right behind the one that is read."""
    part = reading.part
    first, last = part.on(axis)
    crossing = CROSSING[axis]
    if not reading.home or not reading.stays(axis) or reading.area.on(axis)[0] != first - 1:
        return None
    if part.on(crossing)[0] <= reading.area.on(crossing)[0] <= part.on(crossing)[1]:
        return None
    line = reading.area.spanning(axis, first, last)
    typed = all(isinstance(subject.sheet.content(cell), float) for cell in line.cells())
    if line.size < 2 or line.size > 400 or not typed:
        return None
    return None if any(subject.calculation.read_map().reading(subject.sheet.name, line)) else line


def _finding(subject: Subject, reading: Reading, axis: Axis, line: Area) -> Finding:
    use, start = reading.use, subject.start
    aimed = use.reference.reading(Area.of(line.first), start, start)
    changed = subject.shape.with_equals(use.number, with_lock(aimed, start, axis, "moves"))
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} stays on {subject.named(use.reference, start)}, though"
        f" {line.text} holds a number for each landing, which nothing reads.",
        "All landings work with the number that belongs to the one before them.",
        use.number,
        (refilled(subject, changed, f"let {subject.tag(use.number)} go along {line.text}"),),
        (f"{line.text} is in line with the landings, and unread",),
        strength=2,
    )
