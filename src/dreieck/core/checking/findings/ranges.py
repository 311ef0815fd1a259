"""The rule about what a range leaves out."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.analysis.uses import Use, is_plain_summary
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings.finding import Finding, State, rule
from dreieck.core.checking.findings.mends import stretched
from dreieck.core.checking.findings.totals import summed
from dreieck.core.checking.subject import Subject, moves
from dreieck.core.checking.surroundings import (
    is_heading,
    label,
    names_memo,
    names_part,
    names_whole,
)
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed

_MAX_NEIGHBOURS = 10_000
_LONGEST_GAP = 3


class Missed(NamedTuple):
    """How many cells a range misses on an axis before and behind it, and whether it should not.

    ``sure`` says that they stand between the range and the formula itself.
    """

    axis: Axis
    before: int
    behind: int
    areas: tuple[Area, ...]
    sure: bool


@rule("misses-neighbours")
def misses_neighbours(subject: Subject) -> Iterator[Finding]:
    """A range leaves out numbers that stand next to it."""
    if doubt(subject):
        return
    for use in subject.range_uses:
        if not is_plain_summary(use) or has(use.function, Trait.COUNTS_ALL):
            continue
        reference = use.reference
        assert isinstance(reference, RangeReference)
        if not reference.rows or not reference.columns or _grows_or_slides(subject, use):
            continue
        found = {at: missed for at in subject.landings if (missed := _missed(subject, use, at))}
        # Where most of a block miss nothing, the others are as their neighbours.
        if found and 2 * len(found) > len(subject.landings):
            yield _missing(subject, use, found)


def _missing(subject: Subject, use: Use, found: dict[Cell, Missed]) -> Finding:
    first, missed = next(iter(found.items()))
    before = max(each.before for each in found.values())
    behind = max(each.behind for each in found.values())
    cells = listed(missed.areas)
    state: State = "doubt" if any(each.sure for each in found.values()) else "note"
    return Finding(
        "misses-neighbours",
        state,
        subject.sheet.name,
        joined([Area.of(cell) for cell in found]),
        f"{first.text} reads {subject.named(use.reference, first)}, but not {cells}, where"
        " numbers go on.",
        "Numbers next to a range usually belong to it: a row added later is easily missed.",
        use.number,
        (stretched(subject, use, missed.axis, before, behind),),
        (f"{cells} holds numbers of the same sort, next to what is read",),
    )


@rule("takes-heading")
def takes_heading(subject: Subject) -> Iterator[Finding]:
    """A range begins with a number that heads its list, such as a year."""
    for use in subject.range_uses:
        sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
        if not is_plain_summary(use) or not sheet or not area or min(*area.shape) > 1:
            continue
        axis: Axis = "row" if area.height > 1 else "column"
        if area.length(axis) < 3 or not isinstance(sheet.content(area.first), float):
            continue
        inside = area.first.step(axis, 1)
        if not is_heading(subject.calculation, sheet, area.first, inside, axis):
            continue
        yield Finding(
            "takes-heading",
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(use.number)} reads {subject.address(use.reference, subject.start)},"
            f" but {area.first.text} ({subject.what_is_in(use.reference, subject.start)}) is the"
            " heading of the list.",
            "A heading that is a number counts like all others.",
            use.number,
            (stretched(subject, use, axis, -1, 0),),
            (f"{area.first.text} stands in a line of headings",),
        )
        return


def _grows_or_slides(subject: Subject, use: Use) -> bool:
    """Whether the range is meant to end where it does: a running total, or a moving window."""
    reference, area = use.reference, subject.block.area
    first = reference.area(subject.start)
    if any(len({part.locked for part in reference.on(axis)}) > 1 for axis in AXES):
        return True
    if first is None or subject.block.size == 1:
        return False
    return any(
        area.length(axis) > 1 and moves(reference.on(axis)) and first.length(axis) > 1
        for axis in AXES
    )


def _missed(subject: Subject, use: Use, landing: Cell) -> Missed | None:
    """What a range leaves out in a landing."""
    sheet, area = subject.sheet_of(use.reference), use.reference.area(landing)
    if not area or not sheet or min(area.width, area.height) > 1 or area.size > _MAX_NEIGHBOURS:
        return None
    if area.size == 1 and landing.row == area.top and landing.column == area.left:
        return None
    down = area.height > 1 or (area.width == 1 and landing.column == area.left)
    axis: Axis = "row" if down else "column"
    ends = [Area.of(landing)] if sheet is subject.sheet else []
    ends += _read_beside(subject, use, landing)
    before = _before(subject, sheet, area, axis, _goes_on(subject, sheet, area, ends, axis, -1))
    behind = _goes_on(subject, sheet, area, ends, axis, 1)
    if not behind and sheet is subject.sheet:
        behind = _behind_a_gap(subject, sheet, area, landing, axis)
    if not before and not behind:
        return None
    first, last = area.on(axis)
    missed = [
        area.spanning(axis, first - before, first - 1) if before else None,
        area.spanning(axis, last + 1, last + behind) if behind else None,
    ]
    areas = tuple(filter(None, missed))
    if any(_is_meant(subject, sheet, area, each, landing, axis) for each in areas):
        return None
    told = label(subject.calculation, subject.sheet, landing, axis)
    reaches = behind > 0 and _reaches(subject, sheet, area, landing, axis, behind)
    sure = reaches or names_whole(told)
    return None if names_part(told) else Missed(axis, before, behind, areas, sure)


def _reaches(
    subject: Subject, sheet: Sheet, area: Area, landing: Cell, axis: Axis, behind: int
) -> bool:
    """Whether nothing but what is missed lies between a range and its formula."""
    crossing = CROSSING[axis]
    in_line = area.on(crossing)[0] == landing.on(crossing) and sheet is subject.sheet
    return in_line and area.on(axis)[1] + behind < landing.on(axis) <= (
        area.on(axis)[1] + behind + 2
    )


def _before(subject: Subject, sheet: Sheet, area: Area, axis: Axis, count: int) -> int:
    """How many of the numbers before a range belong to it: headings do not."""
    cells = [area.first.step(axis, -n) for n in range(1, count + 1)]
    while cells and is_heading(subject.calculation, sheet, cells[-1], area.first, axis):
        cells.pop()
    if cells and is_heading(subject.calculation, sheet, cells[0], area.first, axis):
        return 0
    return len(cells)


def _behind_a_gap(
    subject: Subject, sheet: Sheet, area: Area, landing: Cell, axis: Axis
) -> int:
    """How far numbers that nothing reads go on behind a gap, up to the formula itself."""
    crossing = CROSSING[axis]
    end, own = area.on(axis)[1], landing.on(axis)
    if area.on(crossing)[0] != landing.on(crossing) or not end < own <= end + 200:
        return 0
    last, gap = 0, 0
    for at in range(end + 1, own):
        cell = area.spanning(axis, at, at).first
        content = sheet.content(cell)
        if isinstance(content, float):
            told = label(subject.calculation, sheet, cell, axis)
            if names_memo(told) or any(
                subject.calculation.read_map().reading(sheet.name, Area.of(cell))
            ):
                return 0
            last, gap = at - end, 0
        elif isinstance(content, Shape):
            return 0
        else:
            gap += 1
            if gap > _LONGEST_GAP:
                return 0
    return last


def _is_meant(
    subject: Subject, sheet: Sheet, area: Area, missed: Area, landing: Cell, axis: Axis
) -> bool:
    """Whether what is left out is summed up elsewhere, or has a part of its own."""
    calculation = subject.calculation
    told = {
        label(calculation, sheet, cell, axis) for cell in (missed.first, missed.last)
    }
    if any(names_memo(text) for text in told):
        return True
    readers = [each for each in calculation.read_map().reading(sheet.name, missed)]
    for reader in readers:
        if reader.sheet != subject.sheet.name:
            continue
        at = reader.area.first
        if subject.block.holds(at):
            continue
        ranges = summed(reader.patch.shape, at) or _windows(reader.patch.shape, at)
        if any(each.common(missed) and not each.holds(area.first) for each in ranges):
            return True
        # A window beside this one, which ends earlier or later.
        beside = abs(at.row - landing.row) + abs(at.column - landing.column) <= 1
        if beside and any(each.common(area) and each.size > 1 for each in ranges):
            return True
        added = [
            reference.area(at)
            for number, reference in enumerate(reader.patch.shape.references)
            if not reference.sheet
            and other_operand(reader.patch.shape.tree, number, "+-") is not None
        ]
        if Area.of(landing) in added and any(each and each.within(missed) for each in added):
            return True
    return _is_total_line(subject, sheet, area, missed, axis)


def _windows(shape: Shape, at: Cell) -> list[Area]:
    """The ranges that a formula summarises in any way."""
    found = (each.area(at) for each in shape.references if isinstance(each, RangeReference))
    return [area for area in found if area]


def _is_total_line(
    subject: Subject, sheet: Sheet, area: Area, missed: Area, axis: Axis
) -> bool:
    """Whether the line behind a range holds the totals of the lines before it."""
    crossing = CROSSING[axis]
    cell = missed.first
    for step in (-1, 1):
        beside = cell.step(crossing, step)
        if beside.on_sheet and any(
            each.on(axis)[0] <= area.on(axis)[1] and each.on(crossing)[0] == beside.on(crossing)
            for each in summed(sheet.content(beside), beside)
        ):
            return True
    return False


def _read_beside(subject: Subject, use: Use, landing: Cell) -> Iterator[Area]:
    """What the same function reads by other references: that is not missed."""
    for other in subject.uses:
        alike = (other.function, other.how) == (use.function, use.how)
        same_sheet = subject.sheet_of(other.reference) is subject.sheet_of(use.reference)
        area = other.reference.area(landing)
        if other.number != use.number and alike and same_sheet and area:
            yield area


def _goes_on(
    subject: Subject, sheet: Sheet, area: Area, ends: list[Area], axis: Axis, step: int
) -> int:
    """How many numbers of the same kind follow the range on one side, up to what ends it."""
    inside = area.last if step > 0 else area.first
    count = 0
    cell = inside.step(axis, step)
    while cell.on_sheet and count < _MAX_NEIGHBOURS:
        ended = any(end.holds(cell) for end in ends)
        if ended or not goes_on(subject.calculation, sheet, inside, cell, area):
            break
        count += 1
        cell = cell.step(axis, step)
    # On the far side of the formula only what looks alike counts: above a list stand headings.
    return count


def goes_on(calculation: Calculation, sheet: Sheet, inside: Cell, cell: Cell, area: Area) -> bool:
    """Whether a cell next to an area holds a number of the sort that the area ends with."""
    if not isinstance(calculation.value(sheet.name, cell), float):
        return False
    one, other = sheet.content(inside), sheet.content(cell)
    if isinstance(one, Shape) or isinstance(other, Shape):
        if not isinstance(one, Shape) or not isinstance(other, Shape):
            return False
        return one.plain is other.plain and not _sums(other, cell, area)
    look, its = sheet.look(inside), sheet.look(cell)
    return (look.role, look.form) == (its.role, its.form)


def _sums(content: Content, cell: Cell, area: Area) -> bool:
    """Whether a formula adds up some of an area itself."""
    return any(each.common(area) for each in summed(content, cell))


