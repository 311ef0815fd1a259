"""The values of a grid of contents, worked out when they are asked for.

Before a formula is evaluated, all formulas that it reads are, deepest first. Formulas
that read each other in a ring (found as strongly connected components, by Tarjan's
method without recursion) become ``#LOOP!``.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Protocol

from dreieck.core.address import Area, Cell
from dreieck.core.calculate.evaluation import evaluate
from dreieck.core.content import Content, Unreadable
from dreieck.core.formula import Shape, tree
from dreieck.core.functions import Takes, find
from dreieck.core.index import MOST as MOST_INDEXES
from dreieck.core.index import Index
from dreieck.core.ranges import Range
from dreieck.core.reference import CellReference, RangeReference, Reference
from dreieck.core.totals import MOST, Total, Totals
from dreieck.core.values import LOOP, NAME, Error, Place, Value


class Grid(Protocol):
    """Contents by sheet and cell: a workbook, or one with a rehearsed fill in it."""

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""

    def content(self, sheet: str, cell: Cell) -> Content | None:
        """What a cell holds."""

    def formulas(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Shape]]:
        """The cells of an area that hold formulas."""

    def filled(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Content]]:
        """The cells of an area that hold something, column by column."""


class Calculation:
    """The values of a grid. ``forget`` must be called after the grid has changed."""

    def __init__(self, grid: Grid) -> None:
        self.grid = grid
        self._values: dict[Place, Value] = {}
        self._settling = False
        self._totals = Totals()
        self._indexes: dict[tuple[str, Area], Index] = {}
        self._settled: dict[tuple[str, int, int, int], int] = {}

    def forget(self) -> None:
        """Drop all values, since contents have changed."""
        self._values.clear()
        self._totals.clear()
        self._indexes.clear()
        self._settled.clear()

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""
        return self.grid.has_sheet(name)

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""
        return self.grid.named(name)

    def value(self, sheet: str, cell: Cell) -> Value:
        """The value of a cell."""
        return self._value(Place(sheet, cell), self.grid.content(sheet, cell))

    def filled_values(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Value]]:
        """The cells of an area that are not empty, with their values, column by column."""
        for cell, content in self.grid.filled(sheet, area):
            yield cell, self._value(Place(sheet, cell), content)

    def total(self, sheet: str, area: Area) -> Total:
        """What the numbers of an area come to."""
        total, rest = self._totals.known(sheet, area)
        if rest:
            # All values first: one that is not settled yet must not leave half a total.
            values = [value for _, value in self.filled_values(sheet, rest)]
            total.take(values)
            self._totals.reached(sheet, area, total)
        return total

    def index(self, sheet: str, area: Area) -> Index:
        """Where in an area each value stands."""
        index = self._indexes.get((sheet, area))
        if index is None:
            if len(self._indexes) >= MOST_INDEXES:
                self._indexes.clear()
            index = self._indexes[sheet, area] = Index(Range(self, sheet, area).placed())
        return index

    def _value(self, place: Place, content: Content | None) -> Value:
        if isinstance(content, Unreadable):
            return Error(NAME, "The formula in this cell cannot be read.", place)
        if not isinstance(content, Shape):
            return content
        if place not in self._values:
            if self._settling:
                raise _UnsettledError(place, content)
            self._settling = True
            try:
                _Demand(self, self._values).settle(place, content)
            finally:
                self._settling = False
        return self._values[place]

    def _references(self, shape: Shape, within: frozenset[str]) -> Iterator[Reference]:
        """What a formula reads itself and by the names that it uses."""
        yield from read_references(shape)
        for name in read_names(shape):
            stands_for = self.grid.named(name)
            if stands_for and name.casefold() not in within:
                yield from self._references(stands_for, within | {name.casefold()})

    def formulas_read(self, place: Place, shape: Shape) -> Iterator[tuple[Place, Shape]]:
        """The formulas that a formula reads directly."""
        for reference in self._references(shape, frozenset()):
            area = reference.area(place.cell)
            sheet = reference.sheet or place.sheet
            if area is None or not self.grid.has_sheet(sheet):
                continue
            # A range that grows row by row is searched only where it has grown.
            known = self._settled.get((sheet, area.left, area.right, area.top), 0)
            rest = area._replace(top=max(area.top, known + 1))
            for cell, read in self.grid.formulas(sheet, rest):
                yield Place(sheet, cell), read

    def all_settled(self, place: Place, shape: Shape) -> None:
        """Remember that all that a formula reads has been settled."""
        for reference in self._references(shape, frozenset()):
            area = reference.area(place.cell)
            if area and area.height > 1:
                key = (reference.sheet or place.sheet, area.left, area.right, area.top)
                if len(self._settled) >= MOST:
                    self._settled.clear()
                self._settled[key] = max(self._settled.get(key, 0), area.bottom)


@lru_cache(maxsize=4096)
def read_names(shape: Shape) -> tuple[str, ...]:
    """The names that a formula uses."""
    return tuple(node.text for node in tree.walk(shape.tree) if isinstance(node, tree.Name))


@lru_cache(maxsize=4096)
def read_references(shape: Shape) -> tuple[Reference, ...]:
    """The references of a formula whose values it reads, not only their place."""
    return tuple(_read(shape.tree))


def _read(node: tree.Node) -> Iterator[Reference]:
    if isinstance(node, CellReference | RangeReference):
        yield node
    function = find(node.function) if isinstance(node, tree.Call) else None
    for index, child in enumerate(tree.children(node)):
        is_place = (
            function
            and index < len(function.parameters)
            and (function.parameters[index].takes is Takes.PLACE)
        )
        if not (is_place and isinstance(child, CellReference | RangeReference)):
            yield from _read(child)


class _UnsettledError(Exception):
    """A formula asks for a cell that its references do not tell, as with OFFSET."""

    def __init__(self, place: Place, shape: Shape) -> None:
        super().__init__(place)
        self.read = (place, shape)


@dataclass(slots=True)
class _Visit:
    place: Place
    shape: Shape
    reads: Iterator[tuple[Place, Shape]]
    number: int
    lowest: int
    reads_itself: bool = False


class _Demand:
    """One question for a value, and all that has to be settled before it."""

    def __init__(self, calculation: Calculation, values: dict[Place, Value]) -> None:
        self.calculation = calculation
        self.values = values
        self.numbers: dict[Place, int] = {}
        self.open: list[Place] = []

    def settle(self, place: Place, shape: Shape) -> None:
        path = [self.visit(place, shape)]
        while path:
            current = path[-1]
            for read, its_shape in current.reads:
                if read in self.values:
                    continue
                if read == current.place:
                    current.reads_itself = True
                elif read in self.numbers:
                    current.lowest = min(current.lowest, self.numbers[read])
                else:
                    path.append(self.visit(read, its_shape))
                    break
            else:
                if current.lowest == current.number:
                    try:
                        self.close(current)
                    except _UnsettledError as unsettled:
                        current.reads = iter([unsettled.read])
                        continue
                path.pop()
                if path:
                    path[-1].lowest = min(path[-1].lowest, current.lowest)

    def visit(self, place: Place, shape: Shape) -> _Visit:
        number = self.numbers[place] = len(self.numbers)
        self.open.append(place)
        reads = self.calculation.formulas_read(place, shape)
        return _Visit(place, shape, reads, number, number)

    def close(self, visit: _Visit) -> None:
        if self.open[-1] == visit.place and not visit.reads_itself:
            value = evaluate(visit.shape.tree, visit.place, self.calculation)
            if isinstance(value, Error) and value.origin is None:
                value = replace(value, origin=visit.place)
            self.values[self.open.pop()] = value
            self.calculation.all_settled(visit.place, visit.shape)
            return
        while visit.place not in self.values:
            place = self.open.pop()
            why = "This cell reads itself, directly or over other cells."
            self.values[place] = Error(LOOP, why, place)
