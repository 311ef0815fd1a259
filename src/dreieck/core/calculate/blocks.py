"""Blocks: connected areas of cells that share one shape, and the rectangles they are made of."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import cached_property, reduce
from itertools import chain
from weakref import WeakKeyDictionary

import numpy as np

from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.column import Column
from dreieck.core.sheet.sheet import Sheet


@dataclass(frozen=True)
class Block:
    """Cells that share one shape: rectangles that touch each other, mostly just one."""

    shape: Shape
    parts: tuple[Area, ...]

    @cached_property
    def area(self) -> Area:
        """The smallest area that holds the block."""
        return reduce(Area.around, self.parts)

    @cached_property
    def start(self) -> Cell:
        """The first cell in reading order."""
        return min((part.first for part in self.parts), key=_reading_order)

    @property
    def size(self) -> int:
        """How many cells."""
        return sum(part.size for part in self.parts)

    def holds(self, cell: Cell) -> bool:
        """Whether a cell belongs to the block."""
        return any(part.holds(cell) for part in self.parts)

    def cells(self) -> list[Cell]:
        """All cells, in reading order."""
        return sorted((cell for part in self.parts for cell in part.cells()), key=_reading_order)

    def stepped(self, cell: Cell, steps: int) -> Cell:
        """The cell so many steps further in reading order, round and round."""
        if len(self.parts) == 1:
            area = self.area
            index = (cell.row - area.top) * area.width + cell.column - area.left
            row, column = divmod((index + steps) % area.size, area.width)
            return Cell(area.left + column, area.top + row)
        cells = self.cells()
        return cells[(cells.index(cell) + steps) % len(cells)]


def block_at(sheet: Sheet, cell: Cell) -> Block | None:
    """The block that a cell belongs to, None where the cell holds no formula."""
    shape = sheet.content(cell)
    if not isinstance(shape, Shape):
        return None
    return next(block for block in _by_shape(sheet)[shape.plain] if block.holds(cell))


def blocks(sheet: Sheet) -> list[Block]:
    """All blocks of a sheet, in reading order of their starts."""
    found = [block for alike in _by_shape(sheet).values() for block in alike]
    return sorted(found, key=lambda block: _reading_order(block.start))


def _by_shape(sheet: Sheet) -> dict[Shape, list[Block]]:
    """The blocks of a sheet by their shape, whose numbers may be spelled in several ways."""
    found = patches(sheet)
    known = _BLOCKS.get(sheet)
    if known is None or known[0] is not found:
        alike: dict[Shape, dict[Area, Shape]] = {}
        for patch in found:
            alike.setdefault(patch.shape.plain, {})[patch.area] = patch.shape
        joined = {
            plain: [_block(parts, shapes) for parts in _connected(list(shapes))]
            for plain, shapes in alike.items()
        }
        known = _BLOCKS[sheet] = (found, joined)
    return known[1]


def _block(parts: list[Area], shapes: dict[Area, Shape]) -> Block:
    """The block of areas that touch each other, spelled as in its start."""
    first = min(parts, key=lambda part: _reading_order(part.first))
    return Block(shapes[first], tuple(parts))


def _connected(areas: list[Area]) -> list[list[Area]]:
    """Areas, none of which overlap, in groups that share edges; a corner alone does not count."""
    leader = list(range(len(areas)))

    def lead(index: int) -> int:
        while leader[index] != index:
            leader[index] = index = leader[leader[index]]
        return index

    for one, other in (*_beside(areas), *_beside([_turned(area) for area in areas])):
        leader[lead(other)] = lead(one)
    groups: dict[int, list[Area]] = {}
    for index, area in enumerate(areas):
        groups.setdefault(lead(index), []).append(area)
    return list(groups.values())


def _beside(areas: list[Area]) -> Iterator[tuple[int, int]]:
    """The pairs of areas, by their places, that share an edge to the right of the first one."""
    by_left: dict[int, list[tuple[int, int]]] = {}
    for index, area in enumerate(areas):
        by_left.setdefault(area.left, []).append((area.bottom, index))
    for column in by_left.values():
        column.sort()
    for index, area in enumerate(areas):
        column = by_left.get(area.right + 1, [])
        for at in range(bisect_left(column, (area.top, 0)), len(column)):
            other = column[at][1]
            if areas[other].top > area.bottom:
                break
            yield index, other


def _turned(area: Area) -> Area:
    """An area with its rows as columns."""
    return Area(area.top, area.left, area.bottom, area.right)


def _reading_order(cell: Cell) -> tuple[int, int]:
    return cell.row, cell.column


@dataclass(frozen=True, slots=True)
class Patch:
    """A rectangle of cells that share one shape; a block is made of one or several."""

    shape: Shape
    area: Area


_Run = tuple[int, int, Shape]
_Placed = tuple[int, int, int]
_PLACES: WeakKeyDictionary[Sheet, tuple[object, dict[int, list[_Placed]]]] = WeakKeyDictionary()
_PATCHES: WeakKeyDictionary[Sheet, tuple[object, tuple[Patch, ...]]] = WeakKeyDictionary()
_BLOCKS: WeakKeyDictionary[Sheet, tuple[object, dict[Shape, list[Block]]]] = WeakKeyDictionary()
_RUNS: WeakKeyDictionary[Column, tuple[int, list[_Run]]] = WeakKeyDictionary()


def patches(sheet: Sheet) -> tuple[Patch, ...]:
    """All formulas of a sheet, as rectangles of one shape each."""
    state = tuple((n, c.serial, c.formula_version) for n, c in sorted(sheet.columns.items()))
    known = _PATCHES.get(sheet)
    if known is None or known[0] != state:
        known = _PATCHES[sheet] = (state, tuple(_patches(sheet)))
    return known[1]


def patches_in(sheet: Sheet, area: Area) -> Iterator[tuple[int, Patch]]:
    """The formulas that lie in an area at least in part, with their places among all."""
    found = patches(sheet)
    known = _PLACES.get(sheet)
    if known is None or known[0] is not found:
        known = _PLACES[sheet] = (found, _placed(found))
    columns = known[1]
    numbers: Iterable[int] = range(area.left, area.right + 1)
    if area.width > len(columns):
        numbers = (number for number in columns if area.left <= number <= area.right)
    each = (_places(columns.get(number, []), area) for number in numbers)
    # Those of one column are looked up as they are asked for: many may wait in a long chain.
    places = next(each, ()) if area.width == 1 else sorted(set(chain.from_iterable(each)))
    for place in places:
        yield place, found[place]


def _places(column: list[_Placed], area: Area) -> Iterator[int]:
    """Which patches of a column lie in an area, from the top."""
    # Runs of one column follow each other, so their ends are in order as well.
    for index in range(bisect_left(column, (area.top,)), len(column)):
        _, top, place = column[index]
        if top > area.bottom:
            break
        yield place


def _placed(found: tuple[Patch, ...]) -> dict[int, list[_Placed]]:
    """For each column the last and first rows of its patches, and their places among all."""
    columns: dict[int, list[_Placed]] = {}
    for place, patch in enumerate(found):
        for number in range(patch.area.left, patch.area.right + 1):
            columns.setdefault(number, []).append((patch.area.bottom, patch.area.top, place))
    for column in columns.values():
        column.sort()
    return columns


def areas_by_shape(sheet: Sheet) -> dict[Shape, tuple[Area, ...]]:
    """Where each formula of a sheet stands."""
    areas: dict[Shape, list[Area]] = {}
    for patch in patches(sheet):
        areas.setdefault(patch.shape, []).append(patch.area)
    return {shape: tuple(where) for shape, where in areas.items()}


def _patches(sheet: Sheet) -> list[Patch]:
    """Runs down the columns, joined where the next column has the same run."""
    done: list[Patch] = []
    growing: dict[tuple[int, int], Patch] = {}
    for number, column in sorted(sheet.columns.items()):
        still: dict[tuple[int, int], Patch] = {}
        for top, bottom, shape in _runs(column):
            before = growing.pop((top, bottom), None)
            if before and before.shape is shape and before.area.right == number - 1:
                area = Area(before.area.left, top, number, bottom)
            else:
                if before:
                    done.append(before)
                area = Area(number, top, number, bottom)
            still[top, bottom] = Patch(shape, area)
        done.extend(growing.values())
        growing = still
    return done + list(growing.values())


def _runs(column: Column) -> list[_Run]:
    """The rows of a column that hold one shape each, from top to bottom."""
    known = _RUNS.get(column)
    if known is None or known[0] != column.formula_version:
        known = _RUNS[column] = (column.formula_version, _found_runs(column))
    return known[1]


def _found_runs(column: Column) -> list[_Run]:
    extent = column.extent()
    if extent is None:
        return []
    cells = column.cells(*extent)
    shapes = np.where(cells.kinds == Kind.FORMULA, cells.payload, -1.0)
    starts = np.concatenate(([0], np.flatnonzero(shapes[1:] != shapes[:-1]) + 1))
    ends = np.concatenate((starts[1:], [len(cells)])) - 1
    held = shapes[starts] >= 0
    return [
        (extent[0] + start, extent[0] + end, cells.pool.objects[int(number)])
        for start, end, number in zip(
            starts[held].tolist(), ends[held].tolist(), shapes[starts][held].tolist(), strict=True
        )
    ]
