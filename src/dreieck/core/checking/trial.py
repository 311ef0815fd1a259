"""Try it: what answers when an input holds another value, and what should have answered."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

import numpy as np

from dreieck.core.calculate import Block, Calculation, block_at
from dreieck.core.calculate.elementwise import distinct
from dreieck.core.calculate.read_map import touched_areas
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import areas_of
from dreieck.core.sheet.cells import Kind, is_kind
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Value

_MAX_SHOWN = 400
_MAX_CELLS = 2_000_000


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

    ``silent`` are the parts of blocks, by sheet, that should have answered: some of the same
    block did, and these stand in the row or column of the cell, or it stands apart.
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
    answers: list[Answer] = []
    changed: list[tuple[str, Area]] = []
    for name, area in _touched(calculation, sheet, cell):
        for part in _differences(calculation, after, name, area):
            changed.append((name, part))
            for each in islice(part.cells(), _MAX_SHOWN - len(answers)):
                before = calculation.value(name, each)
                answers.append(Answer(name, each, before, after.value(name, each)))
    return Trial(
        after,
        edit,
        tuple(answers),
        sum(area.size for _, area in changed),
        tuple(changed),
        tuple(_silent(calculation, sheet, cell, changed)),
    )


def _touched(calculation: Calculation, sheet: Sheet, cell: Cell) -> list[tuple[str, Area]]:
    """The formulas that depend on a cell, no area of them twice."""
    found: list[tuple[str, Area]] = []
    size = 0
    for name, area in touched_areas(calculation.read_map(), sheet.name, [Area.of(cell)]):
        if any(other == name and area.within(each) for other, each in found):
            continue
        size += area.size
        if size > _MAX_CELLS:
            break
        found.append((name, area))
    return found


def _differences(
    before: Calculation, after: Calculation, sheet: str, area: Area
) -> tuple[Area, ...]:
    """The cells of an area whose values differ."""
    masks = []
    for number in range(area.left, area.right + 1):
        one = before.cells(sheet, number, area.top, area.bottom)
        two = after.cells(sheet, number, area.top, area.bottom)
        mask = (one.kinds != two.kinds) | (one.payload != two.payload)
        # The same number means another text or error in another pool.
        pooled = np.flatnonzero(
            (one.kinds == two.kinds) & is_kind(one.kinds, Kind.TEXT, Kind.ERROR)
        )
        first, which = distinct((one.taken(pooled), two.taken(pooled)), len(pooled))
        pairs = [(one.value(at), two.value(at)) for at in pooled[first].tolist()]
        mask[pooled] = np.array([a != b for a, b in pairs], np.bool_)[which]
        masks.append(mask)
    return areas_of(area, np.array(masks))


def _silent(
    calculation: Calculation, sheet: Sheet, cell: Cell, changed: list[tuple[str, Area]]
) -> Iterator[tuple[str, Area]]:
    seen: set[tuple[str, Block]] = set()
    for name, area in changed[:_MAX_SHOWN]:
        home = calculation.workbook.sheet(name)
        block = block_at(home, area.first)
        if block is None or block.size == 1 or (name, block) in seen:
            continue
        seen.add((name, block))
        for part in block.parts:
            expected = _expected(part, block.area, cell) if home is sheet else part
            if expected is None:
                continue
            mask = np.ones((expected.width, expected.height), bool)
            for other, answered in changed:
                shared = answered.common(expected) if other == name else None
                if shared:
                    left, top = shared.left - expected.left, shared.top - expected.top
                    mask[left : left + shared.width, top : top + shared.height] = False
            for silent in areas_of(expected, mask):
                yield name, silent


def _expected(part: Area, whole: Area, cell: Cell) -> Area | None:
    """The landings that should answer: those in line with the cell, or all if none are."""
    if whole.top <= cell.row <= whole.bottom:
        return part.common(whole._replace(top=cell.row, bottom=cell.row))
    if whole.left <= cell.column <= whole.right:
        return part.common(whole._replace(left=cell.column, right=cell.column))
    return part
