"""Aim: the locks that make a landing read what it should; and locks that are likely.

Between the start and a landing a part of a reference can do two things, stay or move along. So
what it reads in one landing tells which of both it has to do.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice, product

from dreieck.core.analysis.uses import uses
from dreieck.core.calculate import Calculation, block_at
from dreieck.core.checking.findings import Finding, block_findings
from dreieck.core.editing.fill import plan_fill
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.locks import axes, with_lock
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, Locks, Reference
from dreieck.core.grid import AXES, Area, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.headings import heading_of

MAX_TRIED = 64
"""How many combinations of locks are tried."""
_SAMPLE_ROWS, _SAMPLE_COLUMNS = 40, 12


def aimed(reference: Reference, start: Cell, landing: Cell, wanted: Area) -> Reference:
    """The reference that reads the same at the start, and ``wanted`` in a landing.

    Raises DreieckError where no locks do that, and says why.
    """
    there = reference.area(start)
    if there is None:
        raise DreieckError("The reference reads nothing at the start.")
    now = reference.corners(start)
    choices = [
        reference.with_locks(start, tuple(Locks(*each) for each in corners))
        for corners in product(product((False, True), repeat=2), repeat=len(now))
    ]
    found = [choice for choice in choices if choice.area(landing) == wanted]
    if not found:
        raise DreieckError(_refusal(reference, there, start, landing, wanted))
    return min(found, key=lambda choice: _differences(choice.corners(start), now))


def _differences(one: tuple[Locks, ...], other: tuple[Locks, ...]) -> int:
    return sum(a != b for x, y in zip(one, other, strict=True) for a, b in zip(x, y, strict=True))


def _refusal(reference: Reference, there: Area, start: Cell, landing: Cell, wanted: Area) -> str:
    """Why no locks make a landing read what is wanted."""
    if isinstance(reference, CellReference) and wanted.size > 1:
        return f"The start reads one cell, so {landing.text} can read one only."
    ends = (
        ("column", there.left, wanted.left, landing.column - start.column, column_letters),
        ("row", there.top, wanted.top, landing.row - start.row, str),
        ("column", there.right, wanted.right, landing.column - start.column, column_letters),
        ("row", there.bottom, wanted.bottom, landing.row - start.row, str),
    )
    for axis, at, want, steps, says in ends:
        if want not in (at, at + steps):
            moved = f" or {says(at + steps)} (it moves)" if steps and at + steps > 0 else ""
            return (
                f"No lock can do that: the start reads {axis} {says(at)}, so {landing.text} can"
                f" read {axis} {says(at)} (it stays){moved}, but not {says(want)}."
            )
    return f"No lock can do that: what stays and what moves does not come to {wanted.text}."


@dataclass(frozen=True, slots=True)
class Likely:
    """A choice of locks for all references, and why it is likely in a line."""

    formula: str
    why: str
    findings: tuple[Finding, ...]


def likely_locks(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area
) -> list[Likely]:
    """The lock choices of a fill that would be sound, the likeliest first; three at most."""
    sample = Area(
        target.left,
        target.top,
        min(target.right, max(start.column, target.left) + _SAMPLE_COLUMNS),
        min(target.bottom, max(start.row, target.top) + _SAMPLE_ROWS),
    )
    ranked: list[tuple[float, int, Likely]] = []
    for order, changed in enumerate(islice(_choices(shape, start, sample), MAX_TRIED)):
        findings = _findings(calculation, sheet, start, changed, sample)
        score = _score(findings) + 0.01 * _locked(changed)
        why = _why(sheet, changed, start, target, findings)
        ranked.append((score, order, Likely(changed.text(start), why, findings)))
    ranked.sort(key=lambda each: each[:2])
    return [each for _, _, each in ranked[:3]]


def _choices(shape: Shape, start: Cell, target: Area) -> Iterator[Shape]:
    """The shape as it is, and with every choice of locks on the axes of the fill."""
    across, down = target.width > 1, target.height > 1
    options: list[list[Reference]] = []
    for use in uses(shape):
        reference = use.reference
        choices = [reference]
        for axis in axes(reference):
            if (axis == "column" and not across) or (axis == "row" and not down):
                continue
            for hold in ("stays", "moves"):
                choices += [with_lock(each, start, axis, hold) for each in choices]
        options.append(list(dict.fromkeys(choices)))
    seen: dict[Shape, None] = {}
    for combination in product(*options):
        changed = shape
        for number, reference in enumerate(combination):
            changed = changed.with_reference(number, reference)
        if changed not in seen:
            seen[changed] = None
            yield changed


def _findings(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area
) -> tuple[Finding, ...]:
    fill = plan_fill(
        calculation.workbook, sheet.id, Area.of(start), target.around(Area.of(start)),
        {start: shape},
    )  # fmt: skip
    rehearsed = calculation.with_edits([fill.edit()])
    there = rehearsed.workbook.sheet_by_id(sheet.id)
    block = block_at(there, start)
    return block_findings(rehearsed, there, block) if block else ()


def _score(findings: tuple[Finding, ...]) -> float:
    worth = {"broken": 100.0, "doubt": 10.0, "note": 1.0}
    return sum(worth[finding.state] for finding in findings)


def _locked(shape: Shape) -> int:
    return sum(
        part.locked
        for reference in shape.references
        for axis in AXES
        for part in reference.on(axis)
    )


def _why(
    sheet: Sheet, shape: Shape, start: Cell, target: Area, findings: tuple[Finding, ...]
) -> str:
    """What the far corner would read, and whether anything is in doubt."""
    far = Cell(
        target.left if target.left < start.column else target.right,
        target.top if target.top < start.row else target.bottom,
    )
    reads = []
    for reference in shape.references:
        area = reference.area(far)
        name = heading_of(sheet, area) if area and not reference.sheet else None
        text = reference_text(reference, far).replace("$", "")
        reads.append(f"{text} ({name})" if name else text)
    said = f"{far.text} reads {' and '.join(reads)}"
    wrong = [finding.rule for finding in findings if finding.state != "note"]
    return f"{said}; {'in doubt: ' + ', '.join(wrong) if wrong else 'nothing is in doubt'}."
