"""Rules about references that move, or stay, where they should not."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.reads import read_names
from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding, rule
from dreieck.core.checking.findings.mends import ended, relocked
from dreieck.core.checking.findings.slides import Slide, slides
from dreieck.core.checking.findings.subject import Subject, moves
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, calls, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.words.counting import listed, many


@rule("input-slid")
def input_slid(subject: Subject) -> Iterator[Finding]:
    """A lone input, or a whole list, slid although every landing should read the same."""
    seen: set[tuple[int, Axis]] = set()
    for slide in slides(subject):
        if (slide.use.number, slide.axis) not in seen:
            seen.add((slide.use.number, slide.axis))
            yield _slid(subject, slide)


def _slid(subject: Subject, slide: Slide) -> Finding:
    use, part, axis, why = slide
    last = part.first.step(axis, part.length(axis) - 1)
    start = subject.named(use.reference, part.first)
    letter = subject.tag(use)
    read = subject.address(use.reference, last)
    held = subject.what_is_in(use.reference, last)
    if isinstance(use.reference, RangeReference):
        says = f"The range {letter} slides: the start reads {start} but {last.text} reads {read}."
        why_so = "The landings read less and less of the list. It should be the same for all."
    elif why == "results":
        says = (
            f"{letter} slides from landing to landing: the start reads {start} but {last.text}"
            f" reads {read}, which is a result of this fill ({held})."
        )
        why_so = "Results are multiplied again and again, so the numbers are merely too large."
    else:
        says = (
            f"{letter} slides off {start} which stands alone: {last.text} reads {read} ({held})."
        )
        why_so = "Every landing should read the same cell; others give zeros, errors or nonsense."
    return Finding(
        "input-slid",
        "doubt",
        subject.sheet.name,
        (_away(part, axis),),
        says.replace(",,", ","),
        why_so,
        use.number,
        (relocked(subject, use, axis, "stays"),),
    )


@rule("past-end")
def past_end(subject: Subject) -> Iterator[Finding]:
    """The fill lands beyond the end of the list that it reads."""
    found = past_ends(subject)
    if found:
        use, part, row = found
        area = part._replace(top=row + 1)
        last = subject.address(use.reference, Cell(part.left, part.bottom))
        yield Finding(
            "past-end",
            "doubt",
            subject.sheet.name,
            (area,),
            f"The list that {subject.tag(use)} reads ends with row {row} of this fill;"
            f" {listed((area,))} read{'s' * (area.height == 1)} beyond it ({last} is empty).",
            "There is nothing to calculate with, so zeros or errors stand below the list.",
            use.number,
            (ended(subject, row),),
        )


def past_ends(subject: Subject) -> tuple[Use, Area, int] | None:
    """The reference whose list ends first, its part, and the last landing row that it serves."""
    return subject.once(_past_ends)


def _past_ends(subject: Subject) -> tuple[Use, Area, int] | None:
    slid = {(slide.use.number, slide.axis) for slide in slides(subject)}
    ends: list[tuple[int, Use, Area]] = []
    for use in subject.uses:
        if use.guarded or (use.number, "row") in slid or not moves(use.reference.on("row")):
            continue
        if use.how in ("place", "text") or has(use.function, Trait.CHOOSES):
            continue
        for part in subject.parts:
            if subject.is_recurrence(use, part) or part.height < 2:
                continue
            last = _last_served(subject, use, part)
            if last is not None:
                ends.append((last, use, part))
    if not ends:
        return None
    row, use, part = min(ends, key=lambda each: each[0])
    return use, part, row


def _last_served(subject: Subject, use: Use, part: Area) -> int | None:
    """The last row of landings that read something, if the rows below all read emptiness."""
    reference = use.reference
    found = subject.read(reference, part)
    first = reference.area(part.first)
    if not found or not first:
        return None
    sheet, area = found
    ends = Area(area.left, area.bottom - part.height + 1, area.right, area.bottom)
    empty = (subject.kinds(sheet, ends) == Kind.EMPTY).all(axis=0)
    filled = np.flatnonzero(~empty)
    if not len(filled) or len(filled) == len(empty) or filled[-1] == len(empty) - 1:
        return None
    last = int(filled[-1])
    # A list has several entries, and the landings were meant to go along with it.
    return part.top + last if last >= 1 and len(filled) > last // 2 else None


@rule("all-same")
def all_same(subject: Subject) -> Iterator[Finding]:
    """The landings give one result because everything is locked."""
    references = subject.shape.references
    if subject.block.size < 2 or not references or _reads_by_place(subject):
        return
    area = subject.block.area
    free = [not p.locked for r in references for axis in _extended(area) for p in r.on(axis)]
    if any(free):
        return
    mends = [
        relocked(subject, use, axis, "moves")
        for use in subject.uses
        for axis in _extended(area)
        if _has_neighbours(subject, use, axis)
    ]
    yield Finding(
        "all-same",
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"All {many(subject.block.size, 'landing')} read the same cells and show the same.",
        "Nothing moves in this direction. One of the references probably should.",
        None,
        tuple(mends[:3]),
    )


def _extended(area: Area) -> list[Axis]:
    axes: tuple[Axis, Axis] = ("row", "column")
    return [axis for axis in axes if area.length(axis) > 1]


def _has_neighbours(subject: Subject, use: Use, axis: Axis) -> bool:
    """Whether numbers go on where a single cell would move to."""
    sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
    if not isinstance(use.reference, CellReference) or not sheet or not area:
        return False
    length = subject.block.area.length(axis)
    return subject.run_of_numbers(sheet, area.first, axis, length) == length


def _reads_by_place(subject: Subject) -> bool:
    return bool(read_names(subject.shape)) or calls(subject.shape.tree, Trait.MOVES_ALONG)


@rule("heading-unread")
def heading_unread(subject: Subject) -> Iterator[Finding]:
    """A row or column of numbers beside the block is read at its first cell only."""
    area = subject.block.area
    for use in subject.cell_uses:
        reference = use.reference
        assert isinstance(reference, CellReference)
        if use.how == "place" or subject.sheet_of(reference) is not subject.sheet:
            continue
        for axis in _extended(area):
            line = CROSSING[axis]
            (part,), (other,) = reference.on(axis), reference.on(line)
            at, beside = subject.start.on(axis), other.coordinate(subject.start.on(line))
            if not part.locked or part.at != at or beside >= area.on(line)[0]:
                continue
            if _is_walked(subject, use, axis, beside) or not _has_neighbours(subject, use, axis):
                continue
            far = area.on(axis)[1]
            cells = area.spanning(axis, at, far).spanning(line, beside, beside)
            yield Finding(
                "heading-unread",
                "doubt",
                subject.sheet.name,
                (_away(area, axis),),
                f"{cells.text} stands beside the block, a number for each of its"
                f" {axis}s, but {subject.tag(use)} reads only"
                f" {subject.named(reference, subject.start).rstrip(',')}.",
                f"All landings use the first number of that {line}.",
                use.number,
                (relocked(subject, use, axis, "moves"),),
            )


def _away(area: Area, axis: Axis) -> Area:
    first, last = area.on(axis)
    return area.spanning(axis, first + 1, last)


def _is_walked(subject: Subject, use: Use, axis: Axis, beside: int) -> bool:
    """Whether another reference of the formula goes along the same line."""
    for other in subject.uses:
        area = other.reference.area(subject.start)
        if other.number == use.number or not area or other.reference.sheet:
            continue
        first, last = area.on(CROSSING[axis])
        if first <= beside <= last and not all(p.locked for p in other.reference.on(axis)):
            return True
    return False


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
                "lock-not-needed",
                "note",
                subject.sheet.name,
                subject.parts,
                f"The {axis} of {subject.tag(use)} stays; the fill goes along one {axis} only.",
                "The lock does no harm. It matters once the block is filled the other way too.",
                use.number,
                (relocked(subject, use, axis, "moves"),),
            )
