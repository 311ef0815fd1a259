"""A block of formulas, looked at: what its references read, as arrays over its landings."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import islice
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.reads import reach, read_names
from dreieck.core.analysis.uses import Use, uses
from dreieck.core.calculate.blocks import Block
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import CellReference, Part, Reference
from dreieck.core.formula.shift import circled
from dreieck.core.functions import Trait, calls
from dreieck.core.grid import AXES, LAST, Area, Axis, Cell
from dreieck.core.grid.areas import cells_of
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Value
from dreieck.core.values.look import shown_text
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import heading_of

T = TypeVar("T")
_MAX_LANDINGS = 60


@dataclass(frozen=True)
class Subject:
    """One block of a sheet, with the values of the workbook."""

    calculation: Calculation
    sheet: Sheet
    block: Block
    _answers: dict[object, Any] = field(default_factory=dict, compare=False)

    @property
    def shape(self) -> Shape:
        """The formula of the block."""
        return self.block.shape

    @property
    def start(self) -> Cell:
        """The first cell of the block."""
        return self.block.start

    @property
    def parts(self) -> tuple[Area, ...]:
        """The rectangles of the block."""
        return self.block.parts

    @cached_property
    def whole_parts(self) -> tuple[Area, ...]:
        """The rectangles of the block; a block with a few holes counts as one without."""
        area = self.block.area
        return (area,) if 3 * self.block.size >= 2 * area.size else self.parts

    @cached_property
    def landings(self) -> tuple[Cell, ...]:
        """Its first cells; where they are looked at one by one, the others are like them."""
        return tuple(islice(cells_of(self.parts), _MAX_LANDINGS))

    def relocked(self, shape: Shape) -> Subject:
        """The same cells with another formula."""
        if shape is self.shape:
            return self
        return Subject(self.calculation, self.sheet, Block(shape, self.parts))

    @property
    def reads_by_place(self) -> bool:
        """Whether the formula gives something else elsewhere though its references stay."""
        return bool(read_names(self.shape)) or calls(self.shape.tree, Trait.MOVES_ALONG)

    @property
    def name_keys(self) -> list[str]:
        """The names that the formula uses, without case."""
        return [name.casefold() for name in read_names(self.shape)]

    @cached_property
    def uses(self) -> tuple[Use, ...]:
        """What the formula does with its references."""
        return uses(self.shape)

    @cached_property
    def cell_uses(self) -> list[Use]:
        """The uses of single cells."""
        return [use for use in self.uses if isinstance(use.reference, CellReference)]

    @cached_property
    def range_uses(self) -> list[Use]:
        """The uses of ranges."""
        return [use for use in self.uses if not isinstance(use.reference, CellReference)]

    def stays(self, reference: Reference) -> bool:
        """Whether all landings read the same by a reference; a single landing tells nothing."""
        axes = [axis for axis in AXES if self.block.area.length(axis) > 1]
        parts = [part for axis in axes for part in reference.on(axis)]
        return bool(axes) and all(part.locked for part in parts)

    def once(self, question: Callable[[Subject], T]) -> T:
        """The answer to a question about the block, worked out once."""
        return self.kept(question, lambda: question(self))

    def kept(self, key: object, find: Callable[[], T]) -> T:
        """What is found under a key, looked for once."""
        if key not in self._answers:
            self._answers[key] = find()
        answer: T = self._answers[key]
        return answer

    def sheet_of(self, reference: Reference) -> Sheet | None:
        """The sheet that a reference reads; None where there is none of that name."""
        if reference.sheet is None:
            return self.sheet
        workbook = self.calculation.workbook
        there = workbook.has_sheet(reference.sheet)
        return self.calculation.sheet(reference.sheet) if there else None

    def value(self, sheet: Sheet, cell: Cell) -> Value:
        """The value of a cell; None beyond the sheet."""
        return self.calculation.value(sheet.name, cell) if cell.on_sheet else None

    def kinds(self, sheet: Sheet, area: Area) -> NDArray[np.uint8]:
        """The kinds of the values of an area, by column and row."""
        columns = range(area.left, area.right + 1)
        cells = (self.calculation.cells(sheet.name, n, area.top, area.bottom) for n in columns)
        return np.array([each.kinds for each in cells], np.uint8)

    def read(self, reference: Reference, part: Area) -> tuple[Sheet, Area] | None:
        """The sheet and the area that a part of the block reads by a reference."""
        sheet, area = self.sheet_of(reference), reach(reference, part)
        return (sheet, area) if sheet and area else None

    def is_recurrence(self, use: Use, part: Area) -> bool:
        """Whether landings read other landings of the same part by a reference."""
        found = self.read(use.reference, part)
        return bool(found and found[0] is self.sheet and found[1].common(part))

    def run_of_numbers(self, sheet: Sheet, cell: Cell, axis: Axis, most: int) -> int:
        """How many numbers follow each other on an axis from a cell on, at most so many."""
        last = min(cell.on(axis) + most - 1, LAST[axis])
        kinds = self.kinds(sheet, Area.of(cell).spanning(axis, cell.on(axis), last)).ravel()
        others = np.flatnonzero(kinds != Kind.NUMBER)
        return int(others[0]) if len(others) else len(kinds)

    def tag(self, number: int) -> str:
        """The letter of a reference in its circle."""
        return circled(self.shape.letters[number])

    def address(self, reference: Reference, landing: Cell) -> str:
        """What a reference reads in a landing, without locks."""
        return reference_text(reference, landing).replace("$", "")

    def named(self, reference: Reference, landing: Cell) -> str:
        """The same, with what the headings of the sheet call it in quotes."""
        area, sheet = reference.area(landing), self.sheet_of(reference)
        name = heading_of(sheet, area) if sheet and area else None
        address = self.address(reference, landing)
        return f"{address} ({quoted(name)})" if name else address

    def found(self, reference: Reference, landing: Cell) -> str:
        """What a landing reads by a reference to a single cell, and what is in there."""
        area, sheet = reference.area(landing), self.sheet_of(reference)
        address = self.address(reference, landing)
        if not sheet or not area:
            return f"{address}, which is not there"
        value = self.value(sheet, area.first)
        if value is None:
            return f"{address}, which is empty"
        if value == "":
            return f"{address}, an empty text"
        if isinstance(value, str):
            return f"{address}, the text {quoted(self.what_is_in(reference, landing))}"
        if sheet is self.sheet and self.block.holds(area.first):
            return f"{address}, a result of this fill ({self.what_is_in(reference, landing)})"
        return (
            f"{self.named(reference, landing)}, which holds {self.what_is_in(reference, landing)}"
        )

    def what_is_in(self, reference: Reference, landing: Cell) -> str:
        """A value that is read, as text."""
        area, sheet = reference.area(landing), self.sheet_of(reference)
        if not sheet or not area:
            return "#REF!"
        value, look = self.value(sheet, area.first), sheet.look(area.first)
        return shown_text(value, look, 24, self.calculation.workbook.locale) or "empty"


def moves(parts: tuple[Part, ...]) -> bool:
    """Whether a reference moves on an axis, with all its corners."""
    return bool(parts) and not any(part.locked for part in parts)
