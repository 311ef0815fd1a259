"""Rules about formulas that were copied, and still read what belongs to where they came from."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import replace
from itertools import islice

from dreieck.core.analysis.slots import slots
from dreieck.core.calculate.blocks import Block, Patch, blocks, patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.meant import note_on
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule, sheet_rule
from dreieck.core.checking.findings.run_ends import lacks
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, Reference, never_moves
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import label, texts_along
from dreieck.core.tables.series import counts_on
from dreieck.core.words.counting import listed, quoted

_MOST_ALIKE = 200
_NEAR = 20
_SHORTEST = 3
"""Shorter parts of a column that calculate otherwise are lines of their own kind."""
_OLD = re.compile(r"\b(last|old|older|previous|prior|former)\b", re.IGNORECASE)
_SPANS = re.compile(r"\b(from|until|till|through|up to|after|before|on)\b", re.IGNORECASE)
_TIMES = re.compile(
    r"\d+|old|older|new|newer|this|last|next|year|month|season|previous|prior|former|current|now|"
    r"today|january|february|march|april|may|june|july|august|september|october|november|december|"
    r"jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec|spring|summer|autumn|winter"
)


@rule("reads-old-table")
def reads_old_table(subject: Subject) -> Iterator[Finding]:
    """A copied table reads an input of the old one, though it has one of that label itself."""
    for number, reference in enumerate(subject.shape.references):
        held = never_moves(reference) or subject.stays(reference)
        if not isinstance(reference, CellReference) or not held:
            continue
        area = reference.area(subject.start)
        own = _own_input(subject, number, area.first) if area else None
        if area is None or own is None:
            continue
        wanted = replace(reference.reading(Area.of(own), subject.start, subject.start), sheet=None)
        changed = subject.shape.with_reference(number, wanted)
        told = _label(subject.calculation, subject.sheet, own)
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(number)} reads {subject.address(reference, subject.start)} of another"
            f" table, though {own.text} has the same label here: {quoted(told)}.",
            "The table was copied, and a lock kept what belongs to the old one.",
            number,
            (refilled(subject, changed, f"read {own.text}"),),
            (f"{own.text} stands here where the other stands there, and is labelled the same",),
        )
        return


def _own_input(subject: Subject, number: int, cell: Cell) -> Cell | None:
    """The input of a table that stands where the one that is read stands in the other table."""
    calculation, sheet = subject.calculation, subject.sheet
    reference = subject.shape.references[number]
    there = subject.sheet_of(reference)
    if there is None:
        return None
    told = _label(calculation, there, cell)
    if not told:
        return None
    if there is not sheet:
        free = not any(calculation.read_map().reading(sheet.name, Area.of(cell)))
        held = isinstance(sheet.content(cell), float | Shape)
        return cell if held and free and _label(calculation, sheet, cell) == told else None
    start = subject.start
    for other in _alike(sheet, subject.block, number, cell):
        if _far(other.start, cell) >= _far(start, cell):
            continue
        columns, rows = cell.column - other.start.column, cell.row - other.start.row
        beside = start.offset(columns, rows)
        # It stands where the other one stands, or nearby in its line.
        for own in (beside, *_between(cell, other, start)):
            held = own.on_sheet and isinstance(sheet.content(own), float | Shape)
            if held and own != cell and _label(calculation, sheet, own) == told:
                return own
    return None


def _between(cell: Cell, other: Block, start: Cell) -> Iterator[Cell]:
    """The cells in line with an input between another block and this one, the nearest first."""
    for axis in AXES:
        end = other.area.on(axis)[1]
        for at in range(start.on(axis), max(end, start.on(axis) - _NEAR), -1):
            yield Area.of(cell).spanning(axis, at, at).first


def _alike(sheet: Sheet, block: Block, number: int, cell: Cell) -> list[Block]:
    """The other blocks of a sheet that are built like one, and read a cell as it does."""
    built, typed = slots(block.shape), isinstance(sheet.content(cell), float)
    alike = (
        each
        for each in blocks(sheet)
        if each.start != block.start
        and each.area.shape == block.area.shape
        and (each.shape.plain is block.shape.plain or typed)
        and slots(each.shape) == built
        and each.shape.references[number].area(each.start) == Area.of(cell)
    )
    return list(islice(alike, _MOST_ALIKE))


def _far(one: Cell, other: Cell) -> int:
    return abs(one.column - other.column) + abs(one.row - other.row)


def _label(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    """What a cell is labelled on its row, else above it."""
    return label(calculation, sheet, cell, "row") or label(calculation, sheet, cell, "column")


@rule("other-sheet")
def other_sheet(subject: Subject) -> Iterator[Finding]:
    """A row or column labelled like a sheet reads the same cell of another sheet."""
    sheets = {each.sheet for each in subject.shape.references}
    if len(sheets) != 1:
        return
    (read,) = sheets
    if read is None:
        return
    wrong: dict[Cell, Sheet] = {}
    for landing in subject.landings:
        wanted = _named_like(subject, landing, read)
        if wanted:
            wrong[landing] = wanted
    if not wrong:
        return
    first, wanted = next(iter(wrong.items()))
    edits = []
    for landing, sheet in wrong.items():
        shape = subject.shape.changed(lambda each, name=sheet.name: replace(each, sheet=name))  # type: ignore[misc]
        edits.append(SetCells.with_content(subject.sheet, (Area.of(landing),), shape))
    after = subject.shape.changed(lambda each: replace(each, sheet=wanted.name))
    area = joined([Area.of(cell) for cell in wrong])
    yield Finding(
        "doubt",
        subject.sheet.name,
        area,
        f"{first.text} is labelled {quoted(wanted.name)} like a sheet, but reads"
        f" {reference_text(subject.shape.references[0], first).replace('$', '')}.",
        "Each line should read the sheet that it is named after.",
        0,
        (
            Mend(
                f"read the sheet that {listed(area)} {'is' if len(wrong) == 1 else 'are'} named"
                " after",
                subject.shape.text(first),
                after.text(first),
                tuple(edits),
            ),
        ),
        (f"there is a sheet {quoted(wanted.name)} with something in the same cell",),
    )


def _named_like(subject: Subject, landing: Cell, read: str) -> Sheet | None:
    """The sheet that a landing is labelled like, if another one is read."""
    workbook = subject.calculation.workbook
    labels = [label(subject.calculation, subject.sheet, landing, axis) for axis in AXES]
    if read.casefold() in labels:
        return None
    for text in labels:
        if text and workbook.has_sheet(text):
            sheet = subject.calculation.sheet(text)
            area = subject.shape.references[0].area(landing)
            if sheet is not subject.sheet and area and sheet.count(area):
                return sheet
    return None


@sheet_rule("two-rates")
def halves(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """A column of formulas reads one input in its upper half, another below."""
    by_first = {(patch.area.left, patch.area.top): patch for patch in patches(sheet)}
    for one in patches(sheet):
        below = by_first.get((one.area.left, one.area.bottom + 1))
        beside = by_first.get((one.area.right + 1, one.area.top))
        pairs: tuple[tuple[Patch | None, Axis], ...] = ((below, "row"), (beside, "column"))
        for other, axis in pairs:
            if other and one.area.on(CROSSING[axis]) == other.area.on(CROSSING[axis]):
                yield from _halves(calculation, sheet, one, other, axis)


def _halves(
    calculation: Calculation, sheet: Sheet, one: Patch, other: Patch, axis: Axis
) -> Iterator[Finding]:
    number = _only_difference(one.shape, other.shape)
    if min(one.area.length(axis), other.area.length(axis)) < 2:
        return
    if number is None:
        yield from _lacking(calculation, sheet, one, other, axis)
        return
    cells = [_held(patch, number, axis) for patch in (one, other)]
    if cells[0] is None or cells[1] is None:
        return
    labels = [_label(calculation, sheet, cell) for cell in cells if cell]
    if not _are_rivals(*labels):
        return
    wrong, right = _sides(one, other, labels, axis)
    start = wrong.area.first
    changed = wrong.shape.with_reference(number, right.shape.references[number])
    read = wrong.shape.references[number].text(start).replace("$", "")
    wanted = right.shape.references[number].text(start).replace("$", "")
    mend = Mend(
        f"read {wanted} there too",
        wrong.shape.text(start),
        changed.text(start),
        (SetCells.with_content(sheet, (wrong.area,), changed),),
    )
    yield Finding(
        "doubt",
        sheet.name,
        (wrong.area,),
        f"{wrong.area.text} reads {read} where {right.area.text}, the rest of the"
        f" {'column' if axis == 'row' else 'row'}, reads {wanted}.",
        "One part works with another input: filled halfway when the input changed.",
        number,
        (mend,),
        (f"{read} is labelled {quoted(labels[wrong is other])}",),
    )


def _lacking(
    calculation: Calculation, sheet: Sheet, one: Patch, other: Patch, axis: Axis
) -> Iterator[Finding]:
    """One part of a column leaves out what the other calculates as well, and nothing says why."""
    if lacks(one.shape.tree, other.shape.tree):
        short, long = one, other
    elif lacks(other.shape.tree, one.shape.tree):
        short, long = other, one
    else:
        return
    if short.area.length(axis) < _SHORTEST or long.area.length(axis) < _SHORTEST:
        return
    crossing, length = CROSSING[axis], one.area.length(axis) + other.area.length(axis)
    labels = texts_along(calculation, sheet, one.area.first, axis, length)
    told = label(calculation, sheet, short.area.first, crossing)
    meant = any(note_on(calculation, sheet, each.area.first) for each in (one, other))
    if (
        meant
        or says(told, "agreed")
        or counts_on(calculation, sheet, one.area.first, axis, length)
        or any(says(each, "total", "part", "agreed") for each in labels)
    ):
        return
    start = short.area.first
    mend = Mend(
        f"calculate as {long.area.text} does",
        short.shape.text(start),
        long.shape.text(start),
        (SetCells.with_content(sheet, (short.area,), long.shape),),
    )
    yield Finding(
        "doubt",
        sheet.name,
        (short.area,),
        f"{short.area.text} holds {short.shape.text(start)} where {long.area.text}, the rest of"
        f" the {'column' if axis == 'row' else 'row'}, would have {long.shape.text(start)}.",
        "One part leaves something out: filled halfway when the formula changed.",
        None,
        (mend,),
        ("nothing beside the cells says why they should differ",),
    )


def _only_difference(one: Shape, other: Shape) -> int | None:
    """The number of the only reference in which two formulas differ."""
    if len(one.references) != len(other.references):
        return None
    found = [
        n for n, (a, b) in enumerate(zip(one.references, other.references, strict=True)) if a != b
    ]
    if len(found) != 1 or one.with_reference(found[0], other.references[found[0]]) is not other:
        return None
    return found[0]


def _held(patch: Patch, number: int, axis: Axis) -> Cell | None:
    """The cell of the same sheet that a patch holds by a reference along an axis."""
    reference: Reference = patch.shape.references[number]
    area = reference.area(patch.area.first)
    held = all(part.locked for part in reference.on(axis))
    if isinstance(reference, CellReference) and held and area and not reference.sheet:
        return area.first
    return None


def _are_rivals(one: str, other: str) -> bool:
    """Whether two labels name the same input at different times."""
    if not one or not other or _SPANS.search(f"{one} {other}"):
        return False
    differ = set(re.findall(r"\w+", one)) ^ set(re.findall(r"\w+", other))
    return all(_TIMES.fullmatch(word) for word in differ)


def _sides(one: Patch, other: Patch, labels: list[str], axis: Axis) -> tuple[Patch, Patch]:
    """The part that reads the older input, or is the smaller, and the other one."""
    old = [bool(_OLD.search(text)) for text in labels]
    if old[0] != old[1]:
        return (one, other) if old[0] else (other, one)
    smaller = one.area.length(axis) < other.area.length(axis)
    return (one, other) if smaller else (other, one)
