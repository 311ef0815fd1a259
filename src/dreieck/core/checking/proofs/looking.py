"""What a statement is about, cell by cell: values, and where each stands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.calculate import Calculation
from dreieck.core.calculate.appearance import look_at
from dreieck.core.calculate.elementwise import size_of, spread
from dreieck.core.calculate.evaluation import Statement
from dreieck.core.checking.proofs.verdict import MAX_DRAWN, CannotJudge, Picture
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.printer import place_text
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import areas_of
from dreieck.core.ranges.operands import Array, Range, Several, Table, parts
from dreieck.core.sheet.cells import Cells, Kind, is_kind
from dreieck.core.sheet.stated import STANDS
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.words.working import told_as

Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class Looked:
    """The cells that an argument of a statement gives, column by column.

    ``range`` is where they stand; if they are ``worked_out``, for which cells, one by one.
    """

    calculation: Calculation
    cells: Cells
    range: Range | None
    height: int
    worked_out: bool = False

    @property
    def is_number(self) -> Mask:
        """Which of them are numbers."""
        return is_kind(self.cells.kinds, Kind.NUMBER)

    @property
    def is_filled(self) -> Mask:
        """Which of them are not empty."""
        return ~is_kind(self.cells.kinds, Kind.EMPTY)

    def areas(self, which: Mask) -> tuple[tuple[str, Area], ...]:
        """Where those stand that are marked."""
        if self.range is None:
            return ()
        area = self.range.area
        if area.height > self.height:
            area = area._replace(bottom=area.top + self.height - 1)
        width = len(which) // max(self.height, 1)
        area = area._replace(right=area.left + max(width, 1) - 1)
        return tuple((self.range.sheet, each) for each in areas_of(area, which.reshape(width, -1)))

    def first(self, which: Mask) -> int:
        """The first one that is marked, row by row."""
        found = np.flatnonzero(which)
        height = max(self.height, 1)
        return int(found[np.lexsort((found // height, found % height))[0]])

    def place(self, index: int) -> Place | None:
        """Where one of them stands."""
        if self.range is None:
            return None
        column, row = divmod(index, max(self.height, 1))
        area = self.range.area
        return Place(self.range.sheet, Cell(area.left + column, area.top + row))

    def named(self, index: int) -> str:
        """One of them, by its address or else by its number."""
        place = self.place(index)
        if place:
            return "for " * self.worked_out + place_text(place)
        return "it" if len(self.cells) == 1 else f"number {index + 1:,}"

    def said(self, index: int) -> str:
        """The value of one of them."""
        return self.told(self.cells.value(index))

    def told(self, value: Value) -> str:
        """A value as those here look."""
        return told_as(value, self.look, self.calculation.workbook.locale)

    @property
    def look(self) -> Look:
        """The look of the first one of them."""
        place = self.place(0)
        if place is None or self.worked_out:
            return PLAIN
        sheet = self.calculation.workbook.sheet(place.sheet)
        return look_at(sheet, place.cell)

    def numbers(self, *, needed: bool = True) -> tuple[NDArray[np.float64], NDArray[np.intp]]:
        """The numbers, and which of the cells they are. Raises CannotJudge for errors."""
        self.without_errors()
        which = np.flatnonzero(self.is_number)
        if needed and not len(which):
            raise CannotJudge("no number stands there")
        return self.cells.payload[which], which

    def without_errors(self) -> None:
        """Raise CannotJudge where one of them is an error."""
        wrong = self.cells.kinds == Kind.ERROR
        if wrong.any():
            first = self.first(wrong)
            error = self.cells.value(first)
            assert isinstance(error, Error)
            said = _error_said(self, first, error)
            raise CannotJudge(said, *self.areas(wrong), picture=self.tiles(wrong))

    def tiles(self, wrong: Mask) -> Picture:
        """A picture of the first cells in which those are marked that are to blame."""
        filled = self.is_filled[:MAX_DRAWN].tolist()
        numbers = tuple(0.0 if each else None for each in filled)
        return Picture("tiles", numbers, drawn_marks(wrong))

    def drawn(self) -> tuple[float | None, ...]:
        """The numbers of the first cells."""
        return tuple(self.cells.taken(slice(0, MAX_DRAWN)).only_numbers())


def drawn_marks(which: Mask) -> tuple[bool, ...]:
    """Which of the first cells are marked."""
    return tuple(which[:MAX_DRAWN].tolist())


def _error_said(looked: Looked, index: int, error: Error) -> str:
    place = looked.place(index)
    if place is None:
        return f"{error.code}: {_within(error.why)}"
    if looked.worked_out:
        return f"{looked.named(index)} it is {error.code}: {_within(error.why)}"
    if error.origin and error.origin != place:
        return f"{place_text(place)} is {error.code}, which began in {place_text(error.origin)}"
    return f"{place_text(place)} is {error.code}: {_within(error.why)}"


def _within(sentence: str) -> str:
    """A sentence as a part of another one."""
    plain = sentence.rstrip(".")
    begins = plain[:1].lower() if plain[1:2].islower() else plain[:1]
    return begins + plain[1:]


class Looking:
    """Works out what statements are about, with the values of a workbook."""

    def __init__(self, calculation: Calculation) -> None:
        self.calculation = calculation
        self.place = Place(calculation.workbook.sheets[0].name, STANDS)

    def operand(self, node: tree.Node) -> Range | Array | Several | Value:
        """What an argument stands for. Raises CannotJudge where that is an error."""
        found = Statement(self.place, self.calculation, node).array(node)
        if isinstance(found, Error):
            raise CannotJudge(f"{self.said(node)} is {found.code}: {_within(found.why)}")
        return found

    def all(self, node: tree.Node) -> Iterator[Looked]:
        """The cells of an argument, part by part."""
        for part in parts(self.operand(node)):
            yield self._looked(part, node)

    def one(self, node: tree.Node) -> Looked:
        """The cells of an argument that is one range, or worked out. Raises CannotJudge."""
        found = list(self.all(node))
        if len(found) > 1:
            raise CannotJudge("several ranges stand where one is needed")
        return found[0]

    def pair(self, one: tree.Node, other: tree.Node) -> tuple[Looked, Looked]:
        """The cells of two arguments side by side; a single value goes with all.

        Raises CannotJudge where they differ in size.
        """
        operands = [self.operand(each) for each in (one, other)]
        sheets = [each for each in operands if isinstance(each, Range)]
        rows = max((each.ended().height for each in sheets), default=1)
        shortened = [each.ended(rows) if isinstance(each, Range) else each for each in operands]
        size = size_of(shortened)
        if isinstance(size, Error):
            raise CannotJudge(_within(size.why))
        width, height = size or (1, 1)
        tables = [each for each in shortened if isinstance(each, Table)]
        if any(t.width not in (1, width) or t.height not in (1, height) for t in tables):
            raise CannotJudge("the ranges differ in size")
        found = []
        for node, operand in zip((one, other), shortened, strict=True):
            values = spread(operand, width, height)
            if not isinstance(values, Cells):
                values = Cells.alike(values, width * height)
            spend(len(values) // AT_ONCE + 1)
            of_own_size = isinstance(operand, Range) and operand.size == len(values)
            place = operand if isinstance(operand, Range) and of_own_size else None
            worked_out = isinstance(operand, Array)
            if worked_out:
                place = self._stands(node, width, height)
            found.append(Looked(self.calculation, values, place, height, worked_out))
        return found[0], found[1]

    def number(self, node: tree.Node) -> float:
        """An argument that is a single number. Raises CannotJudge."""
        looked = self.one(node)
        numbers, _ = looked.numbers(needed=False)
        if len(looked.cells) != 1 or not len(numbers):
            raise CannotJudge(f"a single number is needed where {self.said(node)} stands")
        return float(numbers[0])

    def said(self, node: tree.Node) -> str:
        """An argument as it is written."""
        return Shape.of(node).text(STANDS)[1:] or "nothing"

    def cells_at(self, node: tree.Node) -> Range:
        """The cells that an argument refers to. Raises CannotJudge where it refers to none."""
        operand = self.operand(node)
        if not isinstance(operand, Range):
            raise CannotJudge(f"{self.said(node)} stands where a cell is needed")
        return operand

    def _stands(self, node: tree.Node, width: int, height: int) -> Range | None:
        """The first range in a calculation that has its size: what it gives stands for its cells.

        None where there is none, or where it gives one value.
        """
        if width * height == 1:
            return None
        for reference in tree.walk(node):
            if isinstance(reference, CellReference | RangeReference):
                found = self.operand(reference)
                if not isinstance(found, Range):
                    continue
                for each in (found, found.ended()):
                    if (each.width, each.height) == (width, height):
                        return each
        return None

    def _looked(self, operand: Range | Array | Value, node: tree.Node) -> Looked:
        range: Range | None = None
        if isinstance(operand, Range):
            operand = range = operand.ended()
            cells, height = operand.all_cells(), operand.height
        elif isinstance(operand, Array):
            cells, height = operand.all_cells(), operand.height
            range = self._stands(node, operand.width, height)
        else:
            cells, height = Cells.of([operand]), 1
        spend(len(cells) // AT_ONCE + 1)
        return Looked(self.calculation, cells, range, height, isinstance(operand, Array))
