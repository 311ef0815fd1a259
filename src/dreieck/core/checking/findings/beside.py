"""The rule about a line of formulas that does something else than the lines beside it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from dreieck.core.analysis.slots import Slot, slots, with_slot
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.meant import is_exception
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.grid import AXES, CROSSING, Axis
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.words.headings import label_on

_LOOKED_AT: tuple[Slot, ...] = ("sheets", "operators")
_SHORTEST = 3
"""Shorter lines are closing lines of a table, which differ as their columns do."""
_MOST = 60
"""Of so many lines beside each other one is compared with the others."""


@sheet_rule("differs-beside")
def differs_beside(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """One of several lines beside each other has another operator, or reads another sheet."""
    for axis in AXES:
        for group in _groups(sheet, axis):
            yield from _odd_ones(calculation, sheet, group, axis)


def _groups(sheet: Sheet, axis: Axis) -> Iterator[list[Patch]]:
    """Lines of formulas along an axis, side by side, of one structure; three lines or more."""
    crossing = CROSSING[axis]
    lines = [each for each in patches(sheet) if each.area.length(axis) >= _SHORTEST]
    lines.sort(key=lambda each: (each.area.on(axis), each.area.on(crossing)))
    group: list[Patch] = []
    for each in lines:
        if group and not _go_together(group[-1], each, axis):
            yield from _several(group, axis)
            group = []
        group.append(each)
    yield from _several(group, axis)


def _go_together(one: Patch, other: Patch, axis: Axis) -> bool:
    crossing = CROSSING[axis]
    return (
        one.area.on(axis) == other.area.on(axis)
        and one.area.on(crossing)[1] + 1 == other.area.on(crossing)[0]
        and slots(one.shape).structure == slots(other.shape).structure
    )


def _several(group: list[Patch], axis: Axis) -> Iterator[list[Patch]]:
    count = sum(each.area.length(CROSSING[axis]) for each in group)
    if len(group) > 1 and 3 <= count <= _MOST:
        yield group


def _odd_ones(
    calculation: Calculation, sheet: Sheet, group: list[Patch], axis: Axis
) -> Iterator[Finding]:
    for slot in _LOOKED_AT:
        count: Counter[tuple[str, ...]] = Counter()
        for each in group:
            count[slots(each.shape).held(slot)] += each.area.length(CROSSING[axis])
        (usual, many), *others = count.most_common()
        if len(others) != 1 or others[0][1] > 1 or many < 2 or (slot == "operators" and many < 3):
            continue
        odd = next(each for each in group if slots(each.shape).held(slot) != usual)
        like = next(each for each in group if slots(each.shape).held(slot) == usual)
        if _is_called_otherwise(sheet, odd, axis):
            continue
        if slot == "operators" and with_slot(odd.shape, like.shape, slot).plain is not (
            like.shape.plain
        ):
            continue
        if is_exception(calculation, sheet, odd.area.first):
            continue
        yield _finding(sheet, odd, like, slot, axis)


def _is_called_otherwise(sheet: Sheet, odd: Patch, axis: Axis) -> bool:
    """Whether a line is labelled as one of its own kind: a difference, a share, last year."""
    told = label_on(sheet, odd.area.first, CROSSING[axis])
    return says(told, "total", "statistic", "memo", "balance")


def _finding(sheet: Sheet, odd: Patch, like: Patch, slot: Slot, axis: Axis) -> Finding:
    start = odd.area.first
    changed = with_slot(odd.shape, like.shape, slot)
    pairs = zip(slots(odd.shape).held(slot), slots(like.shape).held(slot), strict=True)
    here, there = next((a, b) for a, b in pairs if a != b)
    thing = "sheet" if slot == "sheets" else "operator"
    lines = "columns" if axis == "row" else "rows"
    one = here or sheet.name
    other = there or sheet.name
    return Finding(
        "doubt",
        sheet.name,
        (odd.area,),
        f"{odd.area.text} has the {thing} “{one}” where the {lines} beside it have “{other}”.",
        f"The {lines} are built alike, and this one differs in one place.",
        None,
        (
            Mend(
                f"take “{other}” as the {lines} beside it do",
                odd.shape.text(start),
                changed.text(start),
                (SetCells.with_content(sheet, (odd.area,), changed),),
            ),
        ),
        (f"{like.area.text} and its neighbours agree",),
    )
