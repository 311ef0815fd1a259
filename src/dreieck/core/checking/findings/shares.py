"""The rule about shares of a part of the list, where its total stands below."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.totalling import summed
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.trouble import extended
from dreieck.core.formula import Shape
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label


@rule("part-of-a-part")
def part_of_a_part(subject: Subject) -> Iterator[Finding]:
    """A list is divided by one of its own cells, while its total stands at its end."""
    if subject.block.size < 2 or doubt(subject):
        return
    for part in subject.parts:
        readings = [r for use in subject.cell_uses if (r := Reading.of(subject, use, part))]
        for axis in extended(part):
            for divisor in readings:
                if not divisor.stays(axis) or not _divides(divisor):
                    continue
                for walker in readings:
                    total = _total(walker, divisor, axis)
                    if total:
                        yield _finding(subject, divisor, walker, total)
                        return


def _divides(reading: Reading) -> bool:
    return other_operand(reading.subject.shape.tree, reading.use.number, "/") is not None


def _total(walker: Reading, divisor: Reading, axis: Axis) -> Cell | None:
    """The total behind a list of which a held divisor is a part; not its first cell."""
    crossing = CROSSING[axis]
    if walker.sheet is not divisor.sheet or not walker.moves(axis) or not walker.in_line(axis):
        return None
    low, high = walker.area.on(axis)
    at = divisor.area.on(axis)[0]
    cell = walker.area.spanning(axis, high + 1, high + 1).first
    if walker.area.on(crossing)[0] != divisor.area.on(crossing)[0]:
        twin = at == high + 1 and _are_twins(walker.sheet, cell, divisor.area.first)
        return cell if twin else None
    if not low < at <= high:
        return None
    return cell if _is_total(walker.subject, walker.sheet, cell, walker.area, axis) else None


def _are_twins(sheet: Sheet, one: Cell, other: Cell) -> bool:
    """Whether two cells add up lists of typed numbers beside each other, each its own."""
    found = [summed(sheet.content(cell), cell) for cell in (one, other)]
    if not all(len(each) == 1 and each[0].size > 1 for each in found):
        return False
    numbers = (content for (area,) in found for _, content in sheet.filled(area))
    return all(isinstance(content, float) for content in numbers)


def _is_total(subject: Subject, sheet: Sheet, cell: Cell, area: Area, axis: Axis) -> bool:
    content = sheet.content(cell)
    if any(each.common(area) for each in summed(content, cell)):
        return True
    told = label(subject.calculation, sheet, cell, axis)
    return isinstance(content, float | Shape) and says(told, "total")


def _finding(subject: Subject, divisor: Reading, walker: Reading, total: Cell) -> Finding:
    use, start = divisor.use, subject.start
    read = subject.named(use.reference, start)
    wanted = use.reference.reading(Area.of(total), start, start)
    changed = subject.shape.with_reference(use.number, wanted)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} divides by {read}, which is not the total of what"
        f" {subject.tag(walker.use.number)} goes along; that stands in {total.text}.",
        "The shares are those of a part, and do not come to the whole.",
        use.number,
        (refilled(subject, changed, f"divide by {total.text}"),),
        (f"{total.text} is the total of the list",),
    )
