"""Try it: what answers when an input holds another value, and what should have answered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate import Block, Calculation, block_at
from dreieck.core.calculate.elementwise import distinct
from dreieck.core.calculate.read_map import touched_areas
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import areas_of, mask_of
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Value

_MAX_SHOWN = 400
_OF_ONE_AREA = 4
_MAX_CELLS = 2_000_000
_CLOSE = 1e-9
"""So near, relative to the larger one, numbers are the same but for rounding."""


@dataclass(frozen=True, slots=True)
class Answer:
    """One cell that answers, with its value before and after."""

    sheet: str
    cell: Cell
    before: Value
    after: Value


@dataclass(frozen=True)
class Trial:
    """A trial value held in a cell: the calculation with it, and what came of it.

    ``answers`` are some of those that answer, what no other formula reads first. ``silent`` are
    the parts of blocks, by sheet, that should have answered and do not depend on the cell: some
    of the same block did, and these stand in its row or column, or it stands apart.
    """

    calculation: Calculation
    edit: SetCells
    answers: tuple[Answer, ...]
    count: int
    changed: tuple[tuple[str, Area], ...]
    silent: tuple[tuple[str, Area], ...]


def tried(calculation: Calculation, sheet: Sheet, cell: Cell, content: Content | None) -> Trial:
    """Hold a trial value in a cell; nothing is written."""
    edit = SetCells.of(sheet.id, {cell: (content, sheet.look(cell))})
    after = calculation.with_edits([edit])
    touched = _touched(calculation, sheet, cell)
    changed = [
        (name, part)
        for name, area in touched
        for part in _differences(calculation, after, name, area)
    ]
    answers = [
        Answer(name, each, calculation.value(name, each), after.value(name, each))
        for name, part in _ends_first(calculation, changed)
        for each in islice(part.cells(), _OF_ONE_AREA if len(changed) > 1 else _MAX_SHOWN)
    ]
    return Trial(
        after,
        edit,
        tuple(answers),
        sum(area.size for _, area in changed),
        tuple(changed),
        tuple(_silent(calculation, sheet, cell, changed, touched)),
    )


def _ends_first(
    calculation: Calculation, changed: list[tuple[str, Area]]
) -> list[tuple[str, Area]]:
    """Areas in the order in which they are told: what no formula reads, single results first."""
    reads = calculation.read_map().reading

    def order(each: tuple[str, Area]) -> tuple[bool, int]:
        others = (found for found in reads(*each) if not found.area.within(each[1]))
        return any(others), each[1].size

    return sorted(changed[:_MAX_SHOWN], key=order)


def _touched(calculation: Calculation, sheet: Sheet, cell: Cell) -> list[tuple[str, Area]]:
    """The formulas that depend on a cell, in areas that do not overlap."""
    found: list[tuple[str, Area]] = []
    size = 0
    for name, area in touched_areas(calculation.read_map(), sheet.name, [Area.of(cell)]):
        parts = [area]
        for known in [each for other, each in found if other == name]:
            parts = [rest for part in parts for rest in part.without(known)]
        size += sum(part.size for part in parts)
        if size > _MAX_CELLS:
            break
        found.extend((name, part) for part in parts)
    return found


def _differences(
    before: Calculation, after: Calculation, sheet: str, area: Area
) -> tuple[Area, ...]:
    """The cells of an area whose values differ."""
    masks = [
        differing(*(each.cells(sheet, number, area.top, area.bottom) for each in (before, after)))
        for number in range(area.left, area.right + 1)
    ]
    return areas_of(area, np.array(masks))


def differing(one: Cells, two: Cells) -> NDArray[np.bool_]:
    """Which of as many cells have other values, by more than rounding explains."""
    mask: NDArray[np.bool_] = (one.kinds != two.kinds) | (one.payload != two.payload)
    apart = np.abs(one.payload - two.payload)
    near = apart <= _CLOSE * np.abs(one.payload)
    near &= (one.kinds == Kind.NUMBER) & (two.kinds == Kind.NUMBER)
    mask &= ~near
    if one.pool is two.pool:
        return mask
    # The same number means another text or error in another pool.
    pooled = np.flatnonzero((one.kinds == two.kinds) & is_kind(one.kinds, Kind.TEXT, Kind.ERROR))
    first, which = distinct((one.taken(pooled), two.taken(pooled)), len(pooled))
    pairs = [(one.value(at), two.value(at)) for at in pooled[first].tolist()]
    mask[pooled] = np.array([a != b for a, b in pairs], np.bool_)[which]
    return mask


def _silent(
    calculation: Calculation,
    sheet: Sheet,
    cell: Cell,
    changed: list[tuple[str, Area]],
    touched: list[tuple[str, Area]],
) -> Iterator[tuple[str, Area]]:
    seen: set[tuple[str, Block]] = set()
    reading = list(calculation.read_map().reading(sheet.name, Area.of(cell)))
    for name, area in changed[:_MAX_SHOWN]:
        home = calculation.workbook.sheet(name)
        block = block_at(home, area.first)
        if block is None or block.size == 1 or (name, block) in seen:
            continue
        # What only answers over others reads what it reads: not all of it has to answer.
        if not any(each.sheet == name and block.holds(each.area.first) for each in reading):
            continue
        seen.add((name, block))
        for part in block.parts:
            expected = _expected(part, block.area, cell) if home is sheet else part
            if expected is None:
                continue
            answering = mask_of(expected, (area for other, area in touched if other == name))
            for silent in areas_of(expected, ~answering):
                yield name, silent


def _expected(part: Area, whole: Area, cell: Cell) -> Area | None:
    """The landings that should answer: those in line with the cell, or all if none are."""
    if whole.top <= cell.row <= whole.bottom:
        return part.common(whole._replace(top=cell.row, bottom=cell.row))
    if whole.left <= cell.column <= whole.right:
        return part.common(whole._replace(left=cell.column, right=cell.column))
    return part
