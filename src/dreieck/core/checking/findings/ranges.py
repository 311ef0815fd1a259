"""The rule about what a range leaves out."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from typing import NamedTuple

from dreieck.core.analysis.totalling import is_total, summed
from dreieck.core.analysis.uses import Use, is_plain_summary, uses
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings.finding import Finding, State
from dreieck.core.checking.findings.mends import stretched
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject, moves
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, RangeReference, ends_apart, never_moves
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import names, names_span, names_whole, says
from dreieck.core.tables.heads import is_heading
from dreieck.core.tables.labels import label
from dreieck.core.tables.lists import akin, belongs
from dreieck.core.words.counting import listed, quoted
from dreieck.core.words.headings import label_on

_MAX_NEIGHBOURS = 10_000
_LONGEST_GAP = 3
_LOOKED_AT = 24
"""So many landings tell what the others of a block miss."""
_FEW = 8
"""If so many miss nothing, the others are not asked."""
_SORTED = 3
"""So many labels tell of which sort a list is."""
_SEVERAL = 3
"""So many landings that miss the same are no part that is meant."""


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
        searches = has(use.function, Trait.SEARCHES) and use.how in ("total", "list")
        if not is_plain_summary(use) and not searches:
            continue
        reference = use.reference
        assert isinstance(reference, RangeReference)
        if not reference.rows or not reference.columns or _grows_or_slides(subject, use):
            continue
        landings = subject.landings[:_LOOKED_AT]
        if never_moves(reference):
            # All landings read the same.
            missed = _missed(subject, use, subject.start)
            found = dict.fromkeys(landings, missed) if missed else {}
        else:
            found = {at: missed for at in landings[:_FEW] if (missed := _missed(subject, use, at))}
            rest = landings[_FEW:] if found else ()
            found |= {at: missed for at in rest if (missed := _missed(subject, use, at))}
        # Where most of a block miss nothing, the others are as their neighbours.
        if found and 2 * len(found) >= len(landings):
            yield _missing(subject, use, found)


def _missing(subject: Subject, use: Use, found: dict[Cell, Missed]) -> Finding:
    first, missed = next(iter(found.items()))
    # Most landings tell; one at the edge may find more next to it.
    (before, behind), _ = Counter((m.before, m.behind) for m in found.values()).most_common(1)[0]
    cells = listed(missed.areas)
    sure = len(found) >= _SEVERAL or any(each.sure for each in found.values())
    state: State = "doubt" if sure else "note"
    return Finding(
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
        heads = is_heading(subject.calculation, sheet, area.first, inside, axis, sure=True)
        told = "" if heads else _of_another_sort(sheet, area, axis)
        if not heads and not told:
            continue
        what = f"is {quoted(told)}, and none of the list" if told else "is the heading of the list"
        because = "is labelled as another thing" if told else "stands in a line of headings"
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(use.number)} reads {subject.address(use.reference, subject.start)},"
            f" but {area.first.text} ({subject.what_is_in(use.reference, subject.start)}) {what}.",
            "What heads a list, or stands before it, counts like all others.",
            use.number,
            (stretched(subject, use, axis, -1, 0),),
            (f"{area.first.text} {because}",),
        )
        return


def _of_another_sort(sheet: Sheet, area: Area, axis: Axis) -> str:
    """What the first cell of a range is called, if that is a size, a price or the like alone.

    The others count on, as months do, or are measured in one unit.
    """
    cells = list(area.cells())[: _SORTED + 1]
    first, *rest = [label_on(sheet, cell, axis) for cell in cells]
    if len(rest) < _SORTED or not first or not all(rest):
        return ""
    sorted_so = akin(rest[1:], rest[0]) and not any(says(each, "lone") for each in rest)
    return first if sorted_so and says(first, "lone") and akin(rest, first) is False else ""


def _grows_or_slides(subject: Subject, use: Use) -> bool:
    """Whether the range is meant to end where it does: a running total, or a moving window."""
    reference, area = use.reference, subject.block.area
    first = reference.area(subject.start)
    if ends_apart(reference):
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
    before = behind = 0
    if is_plain_summary(use) or _walks_on(subject, area, landing, axis):
        before = _goes_on(subject, sheet, area, ends, axis, -1)
        before = _before(subject, sheet, area, axis, before)
        behind = _goes_on(subject, sheet, area, ends, axis, 1)
    if not behind and sheet is subject.sheet:
        behind = _behind_a_gap(subject, sheet, area, landing, axis)
    before, parted = _left_to_none(subject, sheet, area, axis, -before)
    behind, also_parted = _left_to_none(subject, sheet, area, axis, behind)
    parted = parted or also_parted
    if not before and not behind:
        return None
    first, last = area.on(axis)
    missed = [
        area.spanning(axis, first - before, first - 1) if before else None,
        area.spanning(axis, last + 1, last + behind) if behind else None,
    ]
    areas = tuple(filter(None, missed))
    if any(_is_meant(subject, use, area, each, landing, axis) for each in areas):
        return None
    if any(_divides_whole(subject, sheet, area, each, landing) for each in areas):
        return None
    told = label(subject.calculation, subject.sheet, landing, axis)
    reaches = behind > 0 and _reaches(subject, sheet, area, landing, axis, behind)
    ending = label(subject.calculation, sheet, area.last if behind else area.first, axis)
    part = says(told, "part") or (says(told, "period") and not (reaches and behind == 1))
    # A label such as *Mean to March* says where the range ends.
    part = (
        part
        or (len(ending) > 2 and told != ending and names(told, ending))
        or names_span(told or label(subject.calculation, subject.sheet, landing, CROSSING[axis]))
    )
    if part and not parted:
        return None
    # What ends in the formula's own line adds up to there.
    to_date = area.on(axis)[1] == landing.on(axis)
    sure = (
        reaches
        or parted
        or _stands_below(area, landing, axis)
        or (names_whole(told) and not to_date)
        or _walks_on(subject, area, landing, axis)
        or _is_read_together(subject, area, areas)
    )
    return Missed(axis, before, behind, areas, sure)


def _stands_below(area: Area, landing: Cell, axis: Axis) -> bool:
    """Whether a formula stands right behind its range, as the total of a list does."""
    crossing = CROSSING[axis]
    in_line = area.on(crossing)[0] == landing.on(crossing)
    return in_line and area.on(axis)[1] + 1 == landing.on(axis)


def _walks_on(subject: Subject, area: Area, landing: Cell, axis: Axis) -> bool:
    """Whether another reference goes along the list, and farther than the range reads."""
    crossing = CROSSING[axis]
    first, last = subject.block.area.on(axis)
    low, high = area.on(axis)
    for other in subject.cell_uses:
        read = other.reference.area(landing)
        in_line = read and read.on(crossing) == area.on(crossing) and not other.reference.sheet
        if in_line and read and read.on(axis)[0] == landing.on(axis):
            return moves(other.reference.on(axis)) and (first < low or last > high)
    return False


def _is_read_together(subject: Subject, area: Area, missed: tuple[Area, ...]) -> bool:
    """Whether another formula summarises what is read and what is missed as one list."""
    whole = area
    for each in missed:
        whole = whole.around(each)
    calculation, name = subject.calculation, subject.sheet.name
    return any(
        any(each == whole for each in _windows(reader.patch.shape, reader.area.first))
        for reader in calculation.read_map().reading(name, missed[0])
        if reader.sheet == name
    )


def _left_to_none(
    subject: Subject, sheet: Sheet, area: Area, axis: Axis, count: int
) -> tuple[int, bool]:
    """How many of the numbers next to a range no other range of its line takes.

    Also whether the list is parted: others of its formulas take parts of it, but not these.
    """
    step = 1 if count > 0 else -1
    edge = area.on(axis)[1 if count > 0 else 0]
    crossing = CROSSING[axis]
    if not count:
        return 0, False
    far = area.spanning(axis, *sorted((edge + step, edge + count)))
    ranges = [
        each
        for reader in subject.calculation.read_map().reading(sheet.name, far)
        if reader.sheet == subject.sheet.name and not subject.block.holds(reader.area.first)
        for each in summed(reader.patch.shape, reader.area.first)
        or _windows(reader.patch.shape, reader.area.first)
        if each.on(crossing) == area.on(crossing) and not each.holds(area.first)
    ]
    taken = 0
    for n in range(1, abs(count) + 1):
        cell = area.spanning(axis, edge + n * step, edge + n * step).first
        if any(each.holds(cell) for each in ranges):
            break
        taken = n
    gap = 0 < taken < abs(count) and taken < area.length(axis)
    return taken, gap and any(not each.common(area) for each in ranges)


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
    held = (n for n, cell in enumerate(cells) if _is_held(subject, sheet, cell))
    return next(held, len(cells))


def _is_held(subject: Subject, sheet: Sheet, cell: Cell) -> bool:
    """Whether formulas hold a number as their input: a price above its list."""
    for reader in subject.calculation.read_map().reading(sheet.name, Area.of(cell)):
        for each in reader.patch.shape.references:
            held = isinstance(each, CellReference) and never_moves(each)
            if held and each.area(reader.area.first) == Area.of(cell):
                return True
    return False


def _behind_a_gap(subject: Subject, sheet: Sheet, area: Area, landing: Cell, axis: Axis) -> int:
    """How far numbers that nothing reads go on behind a gap, up to the formula itself."""
    crossing = CROSSING[axis]
    end, own = area.on(axis)[1], landing.on(axis)
    if area.on(crossing)[0] != landing.on(crossing) or not end < own <= end + 200:
        return 0
    last, gap = 0, 0
    for at in range(end + 1, own):
        cell = area.spanning(axis, at, at).first
        content = sheet.content(cell)
        if isinstance(content, float) or (isinstance(content, Shape) and not gap):
            told = label(subject.calculation, sheet, cell, axis)
            value = subject.value(sheet, cell)
            if not isinstance(value, float) or says(told, "memo"):
                return 0
            if isinstance(content, Shape) and _works_with(content, cell, area):
                return 0
            if _is_read_elsewhere(subject, sheet, cell, axis):
                return 0
            last, gap = at - end, 0
        elif isinstance(content, Shape):
            return 0
        else:
            gap += 1
            if gap > _LONGEST_GAP:
                return 0
    return last


def _works_with(shape: Shape, cell: Cell, area: Area) -> bool:
    """Whether a formula is a total, or another result of the same list."""
    read = (each.area(cell) for each in shape.references if not each.sheet)
    return is_total(shape, cell) or any(each and each.common(area) for each in read)


def _is_read_elsewhere(subject: Subject, sheet: Sheet, cell: Cell, axis: Axis) -> bool:
    """Whether formulas below a cell work with it, or sum it up with others of its line."""
    found = subject.calculation.read_map().reading(sheet.name, Area.of(cell))
    for reader in found:
        at = reader.area.first
        if reader.sheet != subject.sheet.name or at.on(axis) > cell.on(axis):
            return True
    return False


def _is_meant(
    subject: Subject, use: Use, area: Area, missed: Area, landing: Cell, axis: Axis
) -> bool:
    """Whether what is left out is worked with elsewhere, or is the next window's."""
    calculation = subject.calculation
    sheet = subject.sheet_of(use.reference)
    assert sheet is not None
    told = {label(calculation, sheet, cell, axis) for cell in (missed.first, missed.last)}
    if any(says(text, "memo") for text in told):
        return True
    readers = list(calculation.read_map().reading(sheet.name, missed))
    for reader in readers:
        if reader.sheet != subject.sheet.name:
            continue
        at = reader.area.first
        if subject.block.holds(at):
            continue
        # A window beside this one, which ends earlier or later.
        beside = [
            cell
            for each in AXES
            for n in (-1, 1)
            if reader.area.holds(cell := landing.step(each, n))
        ]
        windows = [
            each.reference.area(cell)
            for cell in beside
            for each in uses(reader.patch.shape)
            if each.function == use.function and isinstance(each.reference, RangeReference)
        ]
        if any(each and each.common(area) and each.size > 1 for each in windows):
            return True
        added = [
            reference.area(at)
            for number, reference in enumerate(reader.patch.shape.references)
            if not reference.sheet
            and other_operand(reader.patch.shape.tree, number, "+-") is not None
        ]
        if Area.of(landing) in added and any(each and each.within(missed) for each in added):
            return True
    return _is_total_line(sheet, area, missed, axis)


def _divides_whole(
    subject: Subject, sheet: Sheet, area: Area, missed: Area, landing: Cell
) -> bool:
    """Whether the formula also reads the total of the whole list, so that a part is meant."""
    for other in subject.cell_uses:
        read = other.reference.area(landing)
        if read and subject.sheet_of(other.reference) is sheet:
            parts = summed(sheet.content(read.first), read.first)
            if any(area.within(each) and missed.within(each) for each in parts):
                return True
    return False


def _windows(shape: Shape, at: Cell) -> list[Area]:
    """The ranges that a formula summarises in any way."""
    found = (each.area(at) for each in shape.references if isinstance(each, RangeReference))
    return [area for area in found if area]


def _is_total_line(sheet: Sheet, area: Area, missed: Area, axis: Axis) -> bool:
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
    """What the same formula reads by other references: that is not missed."""
    for other in subject.uses:
        same_sheet = subject.sheet_of(other.reference) is subject.sheet_of(use.reference)
        area, own = other.reference.area(landing), use.reference.area(landing)
        alike = (other.function, other.how) == (use.function, use.how)
        if other.number == use.number or not same_sheet or not area or not own:
            continue
        # What overlaps the range is the same list, read as a whole.
        if alike or not area.common(own):
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
        if one.plain is not other.plain or _sums(other, cell, area):
            return False
    else:
        look, its = sheet.look(inside), sheet.look(cell)
        if (look.role, look.form) != (its.role, its.form):
            return False
    axis: Axis = "row" if cell.column == inside.column else "column"
    return belongs(calculation, sheet, area, cell, axis) is not False


def _sums(content: Content, cell: Cell, area: Area) -> bool:
    """Whether a formula adds up some of an area itself."""
    return any(each.common(area) for each in summed(content, cell))
