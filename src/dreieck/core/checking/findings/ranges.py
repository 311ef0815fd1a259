"""Rules about what a range leaves out, and what it counts twice."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use, is_plain_summary, uses
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend, rule
from dreieck.core.checking.findings.mends import refilled, stretched
from dreieck.core.checking.findings.subject import Subject, moves
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, Part, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed

_MAX_NEIGHBOURS = 10_000


@rule("misses-neighbours")
def misses_neighbours(subject: Subject) -> Iterator[Finding]:
    """A range leaves out numbers that stand next to it."""
    for use in subject.range_uses:
        if not is_plain_summary(use) or has(use.function, Trait.COUNTS_ALL):
            continue
        reference = use.reference
        assert isinstance(reference, RangeReference)
        if not reference.rows or not reference.columns or _grows_or_slides(subject, use):
            continue
        landings: list[Cell] = []
        widest = (0, 0)
        axis: Axis = "row"
        missed: tuple[Area, ...] = ()
        for landing in subject.landings:
            found = _missed(subject, use, landing)
            if found:
                axis, before, behind, missed_here = found
                missed = missed or missed_here
                landings.append(landing)
                widest = (max(widest[0], before), max(widest[1], behind))
        if landings:
            yield _missing(subject, use, landings, missed, axis, widest)


def _missing(
    subject: Subject,
    use: Use,
    landings: list[Cell],
    missed: tuple[Area, ...],
    axis: Axis,
    widest: tuple[int, int],
) -> Finding:
    first = landings[0]
    area = use.reference.area(first)
    assert area is not None
    held = subject.named(use.reference, first).rstrip(",")
    cells = listed(missed)
    return Finding(
        "misses-neighbours",
        "doubt",
        subject.sheet.name,
        joined([Area.of(cell) for cell in landings]),
        f"{first.text} reads {held}, but not {cells}, where numbers go on.",
        "Numbers next to a range usually belong to it: a row added later is easily missed.",
        use.number,
        (stretched(subject, use, axis, *widest),),
    )


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


def _missed(
    subject: Subject, use: Use, landing: Cell
) -> tuple[Axis, int, int, tuple[Area, ...]] | None:
    """The axis of the range, how many cells are missed before and behind the range, and which."""
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    area = reference.area(landing)
    if (
        not area
        or not sheet
        or (area.width > 1 and area.height > 1)
        or area.size > _MAX_NEIGHBOURS
    ):
        return None
    if area.size == 1 and landing.row == area.top and landing.column == area.left:
        return None
    down = area.height > 1 or (area.width == 1 and landing.column == area.left)
    axis: Axis = "row" if down else "column"
    ends = [Area.of(landing)] if sheet is subject.sheet else []
    ends += _read_beside(subject, use, landing)
    before = _goes_on(subject, sheet, area, ends, axis, -1)
    behind = _goes_on(subject, sheet, area, ends, axis, 1)
    if not before and not behind:
        return None
    first, last = area.on(axis)
    missed = [
        area.spanning(axis, first - before, first - 1) if before else None,
        area.spanning(axis, last + 1, last + behind) if behind else None,
    ]
    return axis, before, behind, tuple(filter(None, missed))


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
    return any(summed.common(area) for summed in _summed(content, cell))


def _summed(content: Content | None, cell: Cell) -> Iterator[Area]:
    """The ranges that a cell is the sum of, if it is a plain sum."""
    if isinstance(content, Shape) and isinstance(content.tree, tree.Call):
        for use in uses(content):
            if has(use.function, Trait.TOTALS) and not use.reference.sheet:
                area = use.reference.area(cell)
                if area and isinstance(use.reference, RangeReference):
                    yield area


@rule("counts-total")
def counts_total(subject: Subject) -> Iterator[Finding]:
    """A sum counts its own subtotals, so that their parts are counted twice."""
    for use in subject.range_uses:
        if use.how != "total" or not has(use.function, Trait.ADDS_UP):
            continue
        sheet = subject.sheet_of(use.reference)
        for landing in (subject.start,):
            area = use.reference.area(landing)
            if not area or not sheet or area.size > _MAX_NEIGHBOURS * 10:
                continue
            subtotals = [
                (cell, summed)
                for cell, shape in sheet.formulas(area)
                for summed in _summed(shape, cell)
                if summed.within(area) and not summed.holds(cell)
                and _in_line(cell, summed, area)
            ]  # fmt: skip
            if subtotals:
                cells = joined([Area.of(cell) for cell, _ in subtotals])
                yield Finding(
                    "counts-total",
                    "doubt",
                    subject.sheet.name,
                    subject.parts,
                    f"{subject.tag(use)} reads {subject.address(use.reference, landing)},"
                    f" in which {listed(cells)} {_is(cells)} already the sum of"
                    f" {listed(tuple(summed for _, summed in subtotals))}.",
                    "Those numbers are counted twice.",
                    use.number,
                    _only_subtotals(subject, use, [cell for cell, _ in subtotals], sheet),
                )


def _is(cells: tuple[Area, ...]) -> str:
    return "is" if sum(area.size for area in cells) == 1 else "are"


def _in_line(cell: Cell, summed: Area, area: Area) -> bool:
    """Whether a subtotal stands in the line that it adds up, or the range spans both anyway."""
    same_column = summed.left <= cell.column <= summed.right
    same_row = summed.top <= cell.row <= summed.bottom
    return same_column or same_row or (area.width > 1 and area.height > 1)


def _only_subtotals(
    subject: Subject, use: Use, cells: list[Cell], sheet: Sheet
) -> tuple[Mend, ...]:
    """Add the subtotals alone, where they cover all that the range holds."""
    shape, area = subject.shape, use.reference.area(subject.start)
    whole = isinstance(shape.tree, tree.Call) and len(shape.tree.arguments) == 1
    if not whole or not area or len(cells) > 30 or area.width > 1:
        return ()
    covered = {cell.row for cell in cells}
    for cell in cells:
        for summed in _summed(sheet.content(cell), cell):
            covered |= set(range(summed.top, summed.bottom + 1))
    filled = {cell.row for cell, _ in sheet.filled(area)}
    if not filled <= covered:
        return ()
    start = subject.start
    arguments = tuple(
        CellReference(
            Part.seen_from(start.column, cell.column, locked=False),
            Part.seen_from(start.row, cell.row, locked=False),
            use.reference.sheet,
        )
        for cell in cells
    )
    changed = Shape.of(tree.Call(use.function, arguments))
    return (refilled(subject, changed, "add the subtotals alone"),)
