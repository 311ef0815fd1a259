"""Rules about the kind of what is read: nothing, or text where a number is needed."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.uses import Use, is_plain_summary
from dreieck.core.checking.findings.finding import Finding, Mend, rule
from dreieck.core.checking.findings.locking import past_ends
from dreieck.core.checking.findings.mends import relocked
from dreieck.core.checking.findings.slides import slides
from dreieck.core.checking.findings.subject import Subject
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import Mask, areas_of, joined
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.formats import read_number
from dreieck.core.words.counting import listed, many

_MAX_TEXTS = 20_000


@rule("reads-empty")
def reads_empty(subject: Subject) -> Iterator[Finding]:
    """A landing reads an empty cell where a value is needed."""
    past = past_ends(subject)
    for use in subject.cell_uses:
        if use.guarded or not _needs_number(use):
            continue
        areas: list[Area] = []
        for part in subject.parts:
            found = subject.marked(use, part, Kind.EMPTY)
            if not found:
                continue
            mask = found[2] & ~_first_line(subject, use, part)
            if past and past[1] == part:
                mask = mask & _rows_up_to(part, past[2])
            areas.extend(areas_of(part, mask))
        if areas:
            yield _empty(subject, use, joined(areas))
    for use in subject.range_uses:
        if is_plain_summary(use) and not (use.guarded or has(use.function, Trait.COUNTS)):
            yield from _empty_range(subject, use, past)


def _empty(subject: Subject, use: Use, areas: tuple[Area, ...]) -> Finding:
    here = areas[0].first
    letter, reference = subject.tag(use), use.reference
    count = sum(area.size for area in areas)
    read = subject.address(reference, here)
    says = f"{letter} reads {read}, which is empty, in {here.text}"
    if here != subject.start and subject.start not in [area.first for area in areas]:
        says += f"; the start read {subject.named(reference, subject.start).rstrip(',')}"
    if count > 1:
        says += f". {many(count, 'landing')} read emptiness: {listed(areas)}"
    return Finding(
        "reads-empty",
        "doubt",
        subject.sheet.name,
        areas,
        says + ".",
        "An empty cell counts as 0: products become 0, quotients #DIV/0!.",
        use.number,
        _locks(subject, use),
    )


def _empty_range(
    subject: Subject, use: Use, past: tuple[Use, Area, int] | None
) -> Iterator[Finding]:
    """A range that is altogether empty in some landings, looked at in the corners."""
    for part in subject.parts:
        if past and past[1] == part and past[0].number == use.number:
            continue
        for cell in dict.fromkeys((part.first, part.last)):
            found = subject.read(use.reference, Area.of(cell))
            if found and found[0].count(found[1]) == 0:
                yield Finding(
                    "reads-empty",
                    "doubt",
                    subject.sheet.name,
                    (Area.of(cell),),
                    f"{subject.tag(use)} reads {subject.address(use.reference, cell)} in"
                    f" {cell.text}; no cell of that range holds anything.",
                    "The range was probably meant to lie elsewhere, or should stay.",
                    use.number,
                    _locks(subject, use),
                )
                return


def _needs_number(use: Use) -> bool:
    return use.how in ("number", "total") or (use.how == "value" and not use.function)


def _first_line(subject: Subject, use: Use, part: Area) -> Mask:
    """The landings of a recurrence that read what lies before all of it."""
    mask = np.zeros((part.width, part.height), bool)
    columns, rows = use.reference.on("column"), use.reference.on("row")
    if not subject.is_recurrence(use, part):
        return mask
    if rows and not rows[0].locked and rows[0].at < 0:
        mask[:, : -rows[0].at] = True
    if columns and not columns[0].locked and columns[0].at < 0:
        mask[: -columns[0].at, :] = True
    return mask


def _rows_up_to(part: Area, row: int) -> Mask:
    mask = np.zeros((part.width, part.height), bool)
    mask[:, : row - part.top + 1] = True
    return mask


def _locks(subject: Subject, use: Use) -> tuple[Mend, ...]:
    """The locks that keep a reference from sliding, if it slid."""
    axes = dict.fromkeys(s.axis for s in slides(subject) if s.use.number == use.number)
    return tuple(relocked(subject, use, axis, "stays") for axis in axes)


@rule("reads-text")
def reads_text(subject: Subject) -> Iterator[Finding]:
    """Text or a heading is read where a number is used, or a number is kept as text."""
    for use in subject.cell_uses:
        if use.guarded or use.how not in ("number", "total"):
            continue
        for part in subject.parts:
            yield from _text(subject, use, part)
    for use in subject.range_uses:
        if use.how == "total" or has(use.function, Trait.ADDS_UP):
            yield from _numbers_as_text(subject, use)


def _text(subject: Subject, use: Use, part: Area) -> Iterator[Finding]:
    found = subject.marked(use, part, Kind.TEXT)
    if not found:
        return
    sheet, area, marked = found
    wrong = _unreadable(subject, sheet, area)
    mask = marked & np.broadcast_to(wrong, marked.shape)
    if use.how == "total":
        mask = mask & ~_first_line(subject, use, part)
    areas = areas_of(part, mask)
    if not areas:
        return
    here = areas[0].first
    count = sum(each.size for each in areas)
    read = subject.address(use.reference, here)
    text = subject.what_is_in(use.reference, here)
    says = f"{subject.tag(use)} reads {read}, the text “{text}”, in {here.text}"
    if here != subject.start:
        says += f"; the start read {subject.named(use.reference, subject.start).rstrip(',')}"
    if count > 1:
        says += f". {many(count, 'landing')} read text: {listed(areas)}"
    yield Finding(
        "reads-text",
        "doubt",
        subject.sheet.name,
        areas,
        says + ".",
        "A number is needed there. Calculating with text leads to #VALUE!, and sums leave it out.",
        use.number,
        _locks(subject, use),
    )


def _unreadable(subject: Subject, sheet: Sheet, area: Area) -> Mask:
    """Which cells of an area hold text that reads as no number, by column and row."""
    mask = np.zeros((area.width, area.height), bool)
    for number in range(area.left, area.right + 1):
        cells = subject.calculation.cells(sheet.name, number, area.top, area.bottom)
        where = np.flatnonzero(cells.kinds == Kind.TEXT)[:_MAX_TEXTS]
        texts = cells.taken(where).values()
        wrong = [index for index, text in zip(where.tolist(), texts, strict=True)
                 if read_number(str(text)) is None]  # fmt: skip
        mask[number - area.left, wrong] = True
    return mask


def _numbers_as_text(subject: Subject, use: Use) -> Iterator[Finding]:
    """Texts in a range that read as numbers, and so are left out without a word."""
    assert isinstance(use.reference, RangeReference)
    found = subject.read(use.reference, subject.block.area)
    used = found[0].used() if found else None
    area = found[1].common(used) if found and used else None
    if not found or not area:
        return
    sheet = found[0]
    cells: dict[Cell, float] = {}
    for number in sheet.columns_in(area):
        values = subject.calculation.cells(sheet.name, number, area.top, area.bottom)
        where = np.flatnonzero(values.kinds == Kind.TEXT)[:_MAX_TEXTS]
        for index, text in zip(where.tolist(), values.taken(where).values(), strict=True):
            read = read_number(str(text))
            if read is not None:
                cells[Cell(number, area.top + index)] = read
    if cells:
        first = next(iter(cells))
        content = sheet.content(first)
        plain = all(isinstance(sheet.content(cell), str) for cell in cells)
        edits = tuple(
            SetCells.with_content(sheet, (Area.of(c),), value) for c, value in cells.items()
        )
        one = SetCells(sheet.id, tuple(run for edit in edits for run in edit.runs))
        mend = Mend("turn them into numbers", f"'{content}", f"{cells[first]:g}", (one,))
        named = ", ".join(cell.text for cell in list(cells)[:4])
        yield Finding(
            "reads-text",
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{named} in the range that {subject.tag(use)} reads"
            f" {'holds a number' if len(cells) == 1 else 'hold numbers'} kept as text,"
            " so left out.",
            "Text is not added up. The result is too small, and nothing shows it.",
            use.number,
            (mend,) if plain else (),
        )
