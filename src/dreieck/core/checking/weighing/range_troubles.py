"""What speaks against the locks of ranges: lists left behind, totals that do not run."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.analysis.totalling import summed
from dreieck.core.analysis.uses import Use
from dreieck.core.checking.subject import Subject, moves
from dreieck.core.checking.weighing.trouble import Trouble, extended
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, CROSSING, Area, Axis
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet

_MOST_CELLS = 100_000


def range_troubles(subject: Subject) -> Iterator[Trouble]:
    """What speaks against the locks of the ranges of a block."""
    for part in subject.whole_parts:
        for axis in extended(part):
            for use in subject.range_uses:
                if use.how != "place" and use.reference.on(axis):
                    yield from _range(subject, use, part, axis)


def _range(subject: Subject, use: Use, part: Area, axis: Axis) -> Iterator[Trouble]:
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    first = reference.area(part.first)
    last = reference.area(part.last)
    if not sheet or not first or not last or first.size > _MOST_CELLS:
        return
    locked = [each.locked for each in reference.on(axis)]
    yield from _torn(subject, use, part, axis, first)
    away = part.spanning(axis, part.on(axis)[0] + 1, part.on(axis)[1])
    searches = has(use.function, Trait.SEARCHES)
    length = first.length(axis)

    def told(sort: str, size: float) -> Iterator[Trouble]:
        yield Trouble(sort, use.number, size, (away,))  # type: ignore[arg-type]

    if all(locked):
        # One cell of a list that goes on beside the landings is no list.
        if length == 1 and _summed(use) and _goes_along(subject, sheet, first, part, axis):
            yield from told("one", 8.0)
        elif length == 1 and _goes_along(subject, sheet, first, part, axis):
            yield from told("unread", 9.0)
        return
    if not any(locked):
        if length == 1:
            yield from _line(subject, use, part, axis, sheet, first)
        elif whole_list(subject, use, part, axis):
            yield from told("shrinks", 9.0)
        elif searches and not _is_window(first, part, axis):
            yield from told("shrinks", 8.0)
        elif _comes_to_nothing(use, sheet, last):
            yield from told("shrinks", 7.0)
        return
    yield from _growing(subject, use, part, axis, first)


def _torn(subject: Subject, use: Use, part: Area, axis: Axis, first: Area) -> Iterator[Trouble]:
    """A list that moves while the same, or one that belongs to it, stays."""
    if any(each.locked for each in use.reference.on(axis)):
        return
    for other in subject.range_uses:
        area = other.reference.area(part.first)
        held = all(each.locked for each in other.reference.on(axis)) and other.reference.on(axis)
        if not held or area is None or other.number == use.number:
            continue
        if subject.sheet_of(other.reference) is not subject.sheet_of(use.reference):
            continue
        in_step = other.function == use.function and has(use.function, Trait.IN_STEP)
        together = in_step and use.how == other.how == "list"
        lies_along = together and area.on(axis) == first.on(axis) and first.length(axis) > 1
        if together and first.length(axis) == 1 and _is_text(subject, first):
            lies_along = True
        if area == first or lies_along:
            away = part.spanning(axis, part.on(axis)[0] + 1, part.on(axis)[1])
            yield Trouble("torn", use.number, 8.0, (away,))
            return


def _is_text(subject: Subject, area: Area) -> bool:
    """Whether a list of the same sheet holds texts: what is looked for, not what is added."""
    return bool((subject.kinds(subject.sheet, area) == Kind.TEXT).all())


def _summed(use: Use) -> bool:
    return use.how == "total" and has(use.function, Trait.SUMMARISES)


def _line(
    subject: Subject, use: Use, part: Area, axis: Axis, sheet: Sheet, first: Area
) -> Iterator[Trouble]:
    """A range of one row, or one column, that goes along with the landings."""
    away = part.spanning(axis, part.on(axis)[0] + 1, part.on(axis)[1])
    home = sheet is subject.sheet
    in_line = home and first.on(axis)[0] == part.on(axis)[0]
    own_list = has(use.function, Trait.FITS) and _looks_into_itself(subject, use)
    if first.size == 1 and (_summed(use) or own_list) and in_line:
        beside = first.on(CROSSING[axis])
        if beside != part.on(CROSSING[axis]):
            yield Trouble("one", use.number, 8.0, (away,))
        return
    if use.how == "list" and _is_crossed(subject, use, axis):
        yield Trouble("shrinks", use.number, 8.0, (away,))
        return
    if has(use.function, Trait.FITS) and home and first.length(CROSSING[axis]) > 1:
        yield from _keys_left(subject, use, part, axis, first)
    if in_line:
        return
    count = min(part.length(axis), 200)
    rows = first.spanning(axis, first.on(axis)[0], first.on(axis)[0] + count - 1)
    kinds = subject.kinds(sheet, rows)
    numbers = (kinds == Kind.NUMBER).any(axis=0 if axis == "row" else 1)
    if numbers[0] and not numbers.all():
        areas = (away,)
        share = 1 - float(numbers.mean())
        yield Trouble("empty", use.number, 5.0 + 9.0 * share, areas)
    elif home and use.how == "total" and not has(use.function, Trait.SUMMARISES):
        others = [
            each
            for each in subject.range_uses
            if each.number != use.number and each.function == use.function
        ]
        for each in others:
            area = each.reference.area(part.first)
            aligned = (
                area and area.on(axis)[0] == part.on(axis)[0] and moves(each.reference.on(axis))
            )
            if aligned and area and area.on(CROSSING[axis]) == first.on(CROSSING[axis]):
                yield Trouble("itself", use.number, 9.0, (away,))
                return


def _is_crossed(subject: Subject, use: Use, axis: Axis) -> bool:
    """Whether a list moves in a grid of landings whose keys stand at its side and at its head.

    Both are looked for in the same lists by all landings.
    """
    if min(subject.block.area.shape) < 2:
        return False
    calls = (n for n in tree.walk(subject.shape.tree) if isinstance(n, tree.Call))
    call = next((c for c in calls if use.reference in c.arguments), None)
    if call is None:
        return False
    cells = [each for each in call.arguments if isinstance(each, CellReference)]
    if has(call.function, Trait.FITS):
        return all(
            any(not key.on(one)[0].locked and key.on(CROSSING[one])[0].locked for key in cells)
            for one in AXES
        )
    key = call.arguments[0]
    return isinstance(key, CellReference) and key.on(axis)[0].locked


def _keys_left(
    subject: Subject, use: Use, part: Area, axis: Axis, first: Area
) -> Iterator[Trouble]:
    """A column of keys that moves on to a column of something else, or to the results."""
    first_kinds = subject.kinds(subject.sheet, first)
    at = first.on(axis)[0] + 1
    beside = first.spanning(axis, at, at)
    into_results = any(
        each.common(first.spanning(axis, at, at + part.length(axis) - 2)) for each in subject.parts
    )
    texts = (first_kinds == Kind.TEXT).all()
    if into_results or (texts and not (subject.kinds(subject.sheet, beside) == Kind.TEXT).all()):
        away = part.spanning(axis, part.on(axis)[0] + 1, part.on(axis)[1])
        yield Trouble("shrinks", use.number, 8.0, (away,))


def _growing(subject: Subject, use: Use, part: Area, axis: Axis, first: Area) -> Iterator[Trouble]:
    """A range of which one corner stays: a running total, or a list with one corner free."""
    away = part.spanning(axis, part.on(axis)[0] + 1, part.on(axis)[1])
    searches = has(use.function, Trait.SEARCHES)
    free = next(each for each in use.reference.on(axis) if not each.locked)
    follows = abs(free.at) <= 1 and use.reference.sheet is None
    if has(use.function, Trait.IN_STEP) and not has(use.function, Trait.FITS):
        yield Trouble("corner", use.number, 8.0, (away,))
    elif use.how == "list" and not follows:
        yield Trouble("corner", use.number, 9.0, (away,))
    elif searches and not (has(use.function, Trait.FITS) and _looks_into_itself(subject, use)):
        yield Trouble("corner", use.number, 8.0, (away,))
    elif (
        _summed(use) and first.length(CROSSING[axis]) > 1 and not _is_left_of(subject, use, axis)
    ) or (use.how == "total" and not follows and first.length(axis) > 2):
        yield Trouble("corner", use.number, 7.0, (away,))
    elif first.length(axis) > 1 and (use.how == "list" or _is_walked(subject, part, axis, first)):
        # A part of the rest is rarer than a part of the whole.
        yield Trouble("shrinks", use.number, 2.0, (away,))


def _is_left_of(subject: Subject, use: Use, axis: Axis) -> bool:
    """Whether what is read is taken away from a number that stays: what is left of it so far."""
    return any(
        isinstance(node, tree.Binary)
        and node.operator == "-"
        and isinstance(node.left, CellReference)
        and node.left.on(axis)[0].locked
        and isinstance(node.right, tree.Call)
        and use.reference in node.right.arguments
        for node in tree.walk(subject.shape.tree)
    )


def _is_walked(subject: Subject, part: Area, axis: Axis, first: Area) -> bool:
    """Whether another reference goes along the list that a range covers at the start."""
    return any(
        area and area.common(first) and moves(use.reference.on(axis))
        for use in subject.cell_uses
        if not use.reference.sheet
        for area in (use.reference.area(part.first),)
    )


def _looks_into_itself(subject: Subject, use: Use) -> bool:
    """Whether what is looked for is a cell of the list: a guest who came before."""
    area = use.reference.area(subject.start)
    cells = (other.reference.area(subject.start) for other in subject.cell_uses)
    if area is None:
        return False
    down = area.height >= area.width
    return any(cell.left == area.left if down else cell.top == area.top for cell in cells if cell)


def _goes_along(subject: Subject, sheet: Sheet, first: Area, part: Area, axis: Axis) -> bool:
    """Whether a list, of which one cell is read, goes on beside the landings."""
    if sheet is not subject.sheet or first.on(axis)[0] != part.on(axis)[0]:
        return False
    length = part.length(axis)
    return subject.run_of_numbers(sheet, first.first, axis, length) == length


def _is_window(first: Area, part: Area, axis: Axis) -> bool:
    """Whether a range goes along with its landing, which lies in it or next to it."""
    low, high = first.on(axis)
    return low - 1 <= part.on(axis)[0] <= high + 1 and not first.common(part)


def _comes_to_nothing(use: Use, sheet: Sheet, last: Area) -> bool:
    """Whether the last landing summarises a range without anything in it."""
    return _summed(use) and not has(use.function, Trait.COUNTS) and not sheet.count(last)


def whole_list(subject: Subject, use: Use, part: Area, axis: Axis) -> bool:
    """Whether the first landing reads all of a list, so that the others read less and less."""
    reference, sheet = use.reference, subject.sheet_of(use.reference)
    first = reference.area(part.first)
    assert isinstance(reference, RangeReference) and sheet is not None and first is not None
    if sheet is subject.sheet and first.common(part):
        return False
    if use.how not in ("total", "list"):
        return False
    _, end = first.on(axis)
    ends_full = bool(np.any(subject.kinds(sheet, first.spanning(axis, end, end)) != Kind.EMPTY))
    before, after = first.first.step(axis, -1), first.last.step(axis, 1)
    total = bool(summed(sheet.content(after), after)) if after.on_sheet else False
    after_is_free = total or not isinstance(subject.value(sheet, after), float)
    if use.how == "list":
        return ends_full and after_is_free
    before_is_free = not isinstance(subject.value(sheet, before), float)
    return ends_full and after_is_free and before_is_free
