"""Rules about the kind of what is read: nothing, or text where a number is needed.

What comes of locks that slid is told by these, in ``relocking``; here is what no lock mends.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.uses import Use, is_plain_summary
from dreieck.core.checking.findings.finding import Finding, State
from dreieck.core.checking.findings.past_end import past_ends
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.checking.weighing.missing import first_line, needs_number
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.formula.reference import ends_apart
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, Area, Cell
from dreieck.core.grid.areas import Mask, areas_of, joined
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.formats import read_number
from dreieck.core.words.counting import listed, many

_MAX_TEXTS = 20_000


def explained(subject: Subject) -> set[int]:
    """The references whose landings are in doubt for their locks, and told so."""
    found = doubt(subject)
    return {trouble.reference for trouble in found.gone} if found else set()


@rule("reads-empty")
def reads_empty(subject: Subject) -> Iterator[Finding]:
    """A landing reads an empty cell where a value is needed."""
    known = explained(subject)
    past = past_ends(subject)
    for use in subject.cell_uses:
        if use.guarded or not needs_number(use) or use.number in known:
            continue
        areas: list[Area] = []
        in_line = False
        for part in subject.parts:
            reading = Reading.of(subject, use, part)
            if not reading:
                continue
            mask = (reading.kinds == Kind.EMPTY) & ~reading.own & ~first_line(reading)
            if past and past.part == part:
                mask = mask & ~past.beyond
            if mask.any():
                areas.extend(areas_of(part, mask & ~reading.passed(mask)))
                in_line = in_line or any(reading.in_line(axis) for axis in AXES)
        if areas:
            yield _empty(subject, use, joined(areas), in_line=in_line)
    for use in subject.range_uses:
        # What is still to come is nothing in the end.
        counts = has(use.function, Trait.COUNTS) or use.guarded or ends_apart(use.reference)
        if is_plain_summary(use) and not counts and use.number not in known:
            yield from _empty_range(subject, use)


def _empty(subject: Subject, use: Use, areas: tuple[Area, ...], *, in_line: bool) -> Finding:
    here = areas[0].first
    count = sum(area.size for area in areas)
    tag, read = subject.tag(use.number), subject.address(use.reference, here)
    says = f"{tag} reads {read}, which is empty, in {here.text}"
    if count > 1:
        says += f". {many(count, 'landing')} read an empty cell: {listed(areas)}"
    awaited = in_line or _only_adds(subject, use) or _is_labelled(subject, use, here)
    state: State = "note" if awaited else "doubt"
    return Finding(
        state,
        subject.sheet.name,
        areas,
        says + ".",
        "An empty cell counts as 0: products become 0, quotients #DIV/0!.",
        use.number,
        because=() if state == "note" else (f"nothing is in {read}, and a number is needed",),
    )


def _is_labelled(subject: Subject, use: Use, landing: Cell) -> bool:
    """Whether a label stands right beside an empty cell, which waits to be filled in."""
    sheet, area = subject.sheet_of(use.reference), use.reference.area(landing)
    if subject.block.size > 1 or not sheet or not area:
        return False
    beside = area.first.step("column", -1)
    return beside.on_sheet and isinstance(sheet.content(beside), str)


def _only_adds(subject: Subject, use: Use) -> bool:
    """Whether an empty cell is none the worse: it is added, or taken away."""
    return other_operand(subject.shape.tree, use.number, "+-") is not None


def _empty_range(subject: Subject, use: Use) -> Iterator[Finding]:
    """A range that is altogether empty in some landings, looked at in the corners."""
    for part in subject.parts:
        for cell in dict.fromkeys((part.first, part.last)):
            found = subject.read(use.reference, Area.of(cell))
            if found is None or found[0].count(found[1]):
                continue
            if not subject.calculation.fans_in(found[0].name, found[1]):
                read = subject.address(use.reference, cell)
                yield Finding(
                    "doubt",
                    subject.sheet.name,
                    (Area.of(cell),),
                    f"{subject.tag(use.number)} reads {read} in {cell.text}; no cell of that"
                    " range holds anything.",
                    "The range was probably meant to lie elsewhere, or should stay.",
                    use.number,
                    because=(f"all of {read} is empty",),
                )
                return


@rule("reads-text")
def reads_text(subject: Subject) -> Iterator[Finding]:
    """Text or a heading is read where a number is used, or a number is kept as text."""
    known = explained(subject)
    for use in subject.cell_uses:
        if use.guarded or use.how not in ("number", "total") or use.number in known:
            continue
        for part in subject.parts:
            yield from _text(subject, use, part)


def _text(subject: Subject, use: Use, part: Area) -> Iterator[Finding]:
    reading = Reading.of(subject, use, part)
    if not reading:
        return
    marked = (reading.kinds == Kind.TEXT) & ~reading.own
    if not marked.any():
        return
    wrong = _unreadable(subject, reading.sheet, reading.area)
    mask = marked & np.broadcast_to(wrong, marked.shape)
    if use.how == "total":
        mask = mask & ~first_line(reading)
    areas = areas_of(part, mask & ~reading.passed(mask))
    if not areas:
        return
    here = areas[0].first
    count = sum(each.size for each in areas)
    says = f"{subject.tag(use.number)} reads {subject.found(use.reference, here)}, in {here.text}"
    if count > 1:
        says += f". {many(count, 'landing')} read text: {listed(areas)}"
    yield Finding(
        "doubt",
        subject.sheet.name,
        areas,
        says + ".",
        "A number is needed there. Calculating with text leads to #VALUE!, and sums leave it out.",
        use.number,
        because=(f"{listed(areas)} {'calculates' if count == 1 else 'calculate'} with text",),
    )


def _unreadable(subject: Subject, sheet: Sheet, area: Area) -> Mask:
    """Which cells of an area hold text that reads as no number, by column and row."""
    mask = np.zeros((area.width, area.height), bool)
    for number in range(area.left, area.right + 1):
        cells = subject.calculation.cells(sheet.name, number, area.top, area.bottom)
        wrong = [index for index, read in _texts_read(cells) if read is None]
        mask[number - area.left, wrong] = True
    return mask


def _texts_read(cells: Cells) -> Iterator[tuple[int, float | None]]:
    """The places of texts, and the number that each reads as; equal ones are read once."""
    where = np.flatnonzero(cells.kinds == Kind.TEXT)[:_MAX_TEXTS]
    held, which = np.unique(cells.payload[where], return_inverse=True)
    told = [read_number(str(cells.pool.objects[int(number)])) for number in held]
    return ((place, told[number]) for place, number in zip(where.tolist(), which, strict=True))
