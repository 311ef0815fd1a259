"""Likely locks: those of a fill against which nothing speaks, or the least."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate import Block, Calculation, block_at
from dreieck.core.checking.findings import Finding, block_findings
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.choices import Choice, choices, locked_parts
from dreieck.core.editing.fill import plan_fill
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.headings import heading_of

_SAMPLE_ROWS, _SAMPLE_COLUMNS = 40, 12
_MOST_FILLED = 6
"""So many choices are filled in for a try; the others are weighed only."""
_WORTH = {"broken": 6.0, "doubt": 3.0, "note": 0.0}


@dataclass(frozen=True, slots=True)
class Likely:
    """A choice of locks for all references, and why it is likely in a line."""

    formula: str
    why: str
    findings: tuple[Finding, ...]


def likely_locks(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area, most: int = 3
) -> list[Likely]:
    """The lock choices of a fill that would be sound, the likeliest first; ``most`` at most."""
    sample = Area(
        target.left,
        target.top,
        min(target.right, max(start.column, target.left) + _SAMPLE_COLUMNS),
        min(target.bottom, max(start.row, target.top) + _SAMPLE_ROWS),
    ).around(Area.of(start))
    subject = Subject(calculation, sheet, Block(shape, (sample,)))
    weighed = sorted(choices(subject, start), key=_rank)
    found: list[tuple[float, int, Likely]] = []
    for order, choice in enumerate(weighed[: max(_MOST_FILLED, most)]):
        findings = _findings(calculation, sheet, start, choice.shape, sample)
        score = choice.weight + sum(_WORTH[finding.state] for finding in findings)
        score = round(score, 1)
        why = _why(sheet, choice.shape, start, target, findings)
        found.append((score, order, Likely(choice.shape.text(start), why, findings)))
    found.sort(key=lambda each: each[:2])
    return [each for _, _, each in found[:most]]


def _rank(choice: Choice) -> tuple[float, int]:
    """The better the smaller: nothing speaks against it, and few locks."""
    return round(choice.weight, 1), locked_parts(choice.shape)


def _findings(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area
) -> tuple[Finding, ...]:
    fill = plan_fill(calculation.workbook, sheet.id, Area.of(start), target, {start: shape})
    rehearsed = calculation.with_edits([fill.edit()])
    there = rehearsed.workbook.sheet_by_id(sheet.id)
    block = block_at(there, start)
    return block_findings(rehearsed, there, block) if block else ()


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
    wrong = next((finding.says for finding in findings if finding.state != "note"), None)
    return f"{said}; in doubt: {wrong}" if wrong else f"{said}; nothing is in doubt."
