"""Notes about locks that do no harm."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import relocked
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.staying import all_stays
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES
from dreieck.core.words.counting import many


@rule("same-results")
def same_results(subject: Subject) -> Iterator[Finding]:
    """The landings give one result, and no other locks are known to be better."""
    if doubt(subject) or not all_stays(subject):
        return
    yield Finding(
        "note",
        subject.sheet.name,
        subject.parts,
        f"All {many(subject.block.size, 'landing')} read the same cells and show the same.",
        "Nothing moves in this direction. That may be meant, as with equal parts of a whole.",
    )


@rule("lock-not-needed")
def lock_not_needed(subject: Subject) -> Iterator[Finding]:
    """A lock of one part only, on an axis on which this fill does not go."""
    area = subject.block.area
    if subject.block.size < 2:
        return
    for use in subject.cell_uses:
        reference = use.reference
        assert isinstance(reference, CellReference)
        locked = [axis for axis in AXES if reference.on(axis)[0].locked]
        if len(locked) == 1 and area.length(locked[0]) == 1:
            (axis,) = locked
            yield Finding(
                "note",
                subject.sheet.name,
                subject.parts,
                f"The {axis} of {subject.tag(use.number)} stays; the fill goes along one {axis}"
                " only.",
                "The lock does no harm. It matters once the block is filled the other way too.",
                use.number,
                (relocked(subject, use, axis, "moves"),),
            )
