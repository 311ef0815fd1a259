"""Which blocks and inputs feed which, over all sheets: a graph of areas, not of cells."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import reduce
from itertools import islice
from typing import Literal

import numpy as np

from dreieck.core.analysis.reads import reach
from dreieck.core.budget import spend
from dreieck.core.calculate import Block, Calculation
from dreieck.core.calculate.blocks import blocks, patches_in
from dreieck.core.formula import Shape
from dreieck.core.grid import EVERYWHERE, Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error

Sort = Literal["input", "unread", "block", "result", "loop"]
MAX_KNOTS = 400
"""So many blocks are looked at."""
_TYPED = (Kind.NUMBER, Kind.TEXT, Kind.LOGICAL, Kind.UNREADABLE)
"""What a person wrote that is no formula, or none that can be read."""


@dataclass(frozen=True, slots=True)
class Knot:
    """One area that feeds others or is fed: typed cells, or a block of formulas.

    ``unread`` are inputs that no formula reads, ``result`` blocks that none reads, ``loop``
    blocks whose cells read themselves. ``layer`` counts the steps from the inputs on;
    ``feeds`` are the numbers of the knots that read it.
    """

    sort: Sort
    sheet: str
    areas: tuple[Area, ...]
    shape: Shape | None
    layer: int
    feeds: tuple[int, ...]
    reads_itself: bool

    @property
    def area(self) -> Area:
        """The smallest area that holds all of it."""
        return reduce(Area.around, self.areas)

    @property
    def start(self) -> Cell:
        """Its first cell."""
        return self.areas[0].first


@dataclass(frozen=True, slots=True)
class FeedingMap:
    """All knots; ``is_cut`` says that there are more blocks than are looked at."""

    knots: tuple[Knot, ...]
    is_cut: bool


def feeding_map(calculation: Calculation) -> FeedingMap:
    """The map of a workbook."""
    return _Drawer(calculation).drawn()


class _Drawer:
    def __init__(self, calculation: Calculation) -> None:
        self.calculation = calculation
        every = [
            (sheet, block) for sheet in calculation.workbook.sheets for block in blocks(sheet)
        ]
        self.is_cut = len(every) > MAX_KNOTS
        self.blocks = every[:MAX_KNOTS]
        self.of_patch = {
            (sheet.name, part): number
            for number, (sheet, block) in enumerate(self.blocks)
            for part in block.parts
        }
        self.feeds: dict[int, set[int]] = {number: set() for number in range(len(self.blocks))}
        self.inputs: dict[str, dict[Area, set[int]]] = {}

    def drawn(self) -> FeedingMap:
        """The knots with their layers."""
        for number, (sheet, block) in enumerate(self.blocks):
            for read, area in set(self._read(sheet, block)):
                self._meet(number, read, area)
        areas: list[tuple[Sheet, Area, set[int]]] = []
        for name, found in self.inputs.items():
            sheet = self.calculation.workbook.sheet(name)
            areas += [(sheet, *each) for each in _merged(found)]
        layers = _layers(self.feeds)
        first = len(areas)
        knots = [
            Knot("input", sheet.name, (area,), None, 0,
                 tuple(sorted(first + each for each in fed)), False)
            for sheet, area, fed in areas
        ]  # fmt: skip
        last = max(layers.values(), default=0)
        for number, (sheet, block) in enumerate(self.blocks):
            fed = tuple(sorted(first + n for n in self.feeds[number] if n != number))
            sort: Sort = "loop" if self._loops(sheet, block) else "block" if fed else "result"
            # Results stand together at the end, however few steps lead to them.
            layer = 1 + (last if sort == "result" else layers[number])
            itself = number in self.feeds[number]
            knots.append(Knot(sort, sheet.name, block.parts, block.shape, layer, fed, itself))
        return FeedingMap((*knots, *self._unread(areas)), self.is_cut)

    def _read(self, sheet: Sheet, block: Block) -> Iterator[tuple[Sheet, Area]]:
        """The areas that a block reads, as far as they are used."""
        workbook = self.calculation.workbook
        for reference in dict.fromkeys(self.calculation.references(block.shape)):
            name = reference.sheet or sheet.name
            if not workbook.has_sheet(name):
                continue
            read = workbook.sheet(name)
            used = read.used()
            for part in block.parts:
                spend(20)
                area = reach(reference, part)
                if area and used and (common := area.common(used)):
                    yield read, common

    def _meet(self, number: int, sheet: Sheet, area: Area) -> None:
        """Note which blocks and typed cells an area that is read has."""
        for _, patch in patches_in(sheet, area):
            feeder = self.of_patch.get((sheet.name, patch.area))
            if feeder is not None:
                self.feeds[feeder].add(number)
        typed = _typed(sheet, area)
        if typed:
            self.inputs.setdefault(sheet.name, {}).setdefault(typed, set()).add(number)

    def _loops(self, sheet: Sheet, block: Block) -> bool:
        value = self.calculation.value(sheet.name, block.start)
        return isinstance(value, Error) and value.code == "#LOOP!"

    def _unread(self, inputs: list[tuple[Sheet, Area, set[int]]]) -> Iterator[Knot]:
        """The cells marked as inputs that no formula reads."""
        for sheet in self.calculation.workbook.sheets:
            read = [area for name, area, _ in inputs if name is sheet]
            alone = islice(_alone(sheet, read), MAX_KNOTS * 50)
            for area in joined(list(alone))[:MAX_KNOTS]:
                yield Knot("unread", sheet.name, (area,), None, 0, (), False)


def _alone(sheet: Sheet, read: list[Area]) -> Iterator[Area]:
    """The filled cells of a sheet that are marked as inputs and lie in none of the areas read."""
    for cell, look in sheet.looked(EVERYWHERE):
        spend(len(read) + 1)
        is_input = look.role == "input" and sheet.content(cell) is not None
        if is_input and not any(area.holds(cell) for area in read):
            yield Area.of(cell)


def _typed(sheet: Sheet, area: Area) -> Area | None:
    """The smallest area that holds what is typed into an area."""
    ends: list[tuple[int, int, int]] = []
    for number in sheet.columns_in(area):
        kinds = sheet.columns[number].cells(area.top, area.bottom).kinds
        rows = np.flatnonzero(np.isin(kinds, _TYPED))
        spend(len(kinds) // 64)
        if len(rows):
            ends.append((number, area.top + int(rows[0]), area.top + int(rows[-1])))
    if not ends:
        return None
    columns, tops, bottoms = zip(*ends, strict=True)
    return Area(min(columns), min(tops), max(columns), max(bottoms))


def _merged(found: dict[Area, set[int]]) -> list[tuple[Area, set[int]]]:
    """Areas that overlap become one, which feeds what each of them does."""
    waiting = sorted(found.items(), key=lambda each: -each[0].size)
    merged: list[tuple[Area, set[int]]] = []
    while waiting:
        area, fed = waiting.pop()
        spend(len(merged) + 1)
        other = next((each for each in merged if each[0].common(area)), None)
        if other is None:
            merged.append((area, set(fed)))
        else:
            # Together they may reach others that neither reached alone.
            merged.remove(other)
            waiting.append((other[0].around(area), other[1] | fed))
    return sorted(merged, key=lambda each: (each[0].top, each[0].left))


def _layers(feeds: dict[int, set[int]]) -> dict[int, int]:
    """How many blocks lie before each at most; blocks that go round count as one step."""
    groups = _strong(feeds)
    group_of = {number: index for index, group in enumerate(groups) for number in group}
    layer = [0] * len(groups)
    # The groups come with those that are fed last first.
    for index in reversed(range(len(groups))):
        for number in groups[index]:
            for fed in feeds[number]:
                other = group_of[fed]
                if other != index:
                    layer[other] = max(layer[other], layer[index] + 1)
    return {number: layer[group_of[number]] for number in feeds}


def _strong(feeds: dict[int, set[int]]) -> list[list[int]]:
    """The groups of blocks that feed each other round and round (Tarjan 1972)."""
    order: dict[int, int] = {}
    low: dict[int, int] = {}
    stack: list[int] = []
    on_stack: set[int] = set()
    groups: list[list[int]] = []
    for root, fed in feeds.items():
        if root in order:
            continue
        order[root] = low[root] = len(order)
        stack.append(root)
        on_stack.add(root)
        walk = [(root, iter(sorted(fed)))]
        while walk:
            number, others = walk[-1]
            for other in others:
                if other not in order:
                    order[other] = low[other] = len(order)
                    stack.append(other)
                    on_stack.add(other)
                    walk.append((other, iter(sorted(feeds[other]))))
                    break
                if other in on_stack:
                    low[number] = min(low[number], order[other])
            else:
                walk.pop()
                if walk:
                    low[walk[-1][0]] = min(low[walk[-1][0]], low[number])
                if low[number] == order[number]:
                    group: list[int] = []
                    while not group or group[-1] != number:
                        group.append(stack.pop())
                        on_stack.discard(group[-1])
                    groups.append(group)
    return groups
