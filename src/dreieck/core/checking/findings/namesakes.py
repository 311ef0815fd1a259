"""The rule about a step back that misses its namesake by one: last year's June for May."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import cells_of
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.series import order_of
from dreieck.core.words.counting import quoted

_LEAST = 3
"""A shorter step back is one to the line before."""
_FAR = 40
_LOOKED_AT = 6


@rule("off-by-one-step")
def off_by_one_step(subject: Subject) -> Iterator[Finding]:
    """Landings read a month, a day or the like that is not their own, and the next one is."""
    if doubt(subject) or subject.block.size < 2:
        return
    for axis in ("row", "column"):
        for use in subject.cell_uses:
            step = _step(subject, use, axis)
            if step:
                yield _finding(subject, use, axis, step)
                return


def _step(subject: Subject, use: Use, axis: Axis) -> int | None:
    """One step forward or back that takes all landings to what is labelled as they are."""
    (part,) = use.reference.on(axis)
    if (
        part.locked
        or abs(part.at) < _LEAST
        or subject.sheet_of(use.reference) is not subject.sheet
    ):
        return None
    found: set[int] = set()
    for landing in list(cells_of(subject.parts))[:_LOOKED_AT]:
        area = use.reference.area(landing)
        own = _ordered(subject, subject.sheet, landing, axis)
        if area is None or own is None:
            return None
        back, text = own
        at = Area.of(landing.step(CROSSING[axis], -back))
        labels = {
            n: subject.value(subject.sheet, at.spanning(axis, where, where).first)
            for n in (-1, 0, 1)
            if (where := area.on(axis)[0] + n) >= 1
        }
        same = [n for n, value in labels.items() if value == text]
        if len(same) != 1 or not isinstance(labels.get(0), str):
            return None
        found.add(same[0])
    return next(iter(found)) if len(found) == 1 and 0 not in found else None


def _ordered(subject: Subject, sheet: Sheet, cell: Cell, axis: Axis) -> tuple[int, str] | None:
    """The label of a line that is a month, a day or the like, and how far away it stands."""
    for back in range(1, min(cell.on(CROSSING[axis]), _FAR)):
        value = subject.value(sheet, cell.step(CROSSING[axis], -back))
        if isinstance(value, str) and order_of(value):
            return back, value
    return None


def _finding(subject: Subject, use: Use, axis: Axis, step: int) -> Finding:
    start = subject.start
    area = use.reference.area(start)
    assert area is not None
    at = area.on(axis)[0] + step
    wanted = use.reference.reading(area.spanning(axis, at, at), start, start)
    changed = subject.shape.with_equals(use.number, wanted)
    own = _ordered(subject, subject.sheet, start, axis)
    told = own[1] if own else ""
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{start.text} stands in the {axis} of {quoted(told)}, but {subject.tag(use.number)} reads"
        f" {subject.address(use.reference, start)}, one {axis} beside the other {quoted(told)}.",
        "A step back by a year, a week or the like should end where it began.",
        use.number,
        (refilled(subject, changed, f"read {subject.address(wanted, start)}"),),
        (f"{subject.address(wanted, start)} is labelled {quoted(told)} as well",),
    )
