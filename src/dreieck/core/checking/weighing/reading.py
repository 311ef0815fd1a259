"""What one reference reads over a rectangle of landings, as arrays."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.guards import is_passed, ways
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, CROSSING, Area, Axis, Cell
from dreieck.core.grid.areas import Mask, mask_of
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.labels import texts_along
from dreieck.core.values import Place

_MOST_ASKED = 200
"""So many landings are asked whether a condition leads past a reference."""


@dataclass(frozen=True)
class Reading:
    """What the use of a single cell reads in a part of a block: ``area`` on ``sheet``."""

    subject: Subject
    use: Use
    part: Area
    sheet: Sheet
    area: Area

    @classmethod
    def of(cls, subject: Subject, use: Use, part: Area) -> Reading | None:
        """The reading of a use; None where it reads no sheet, or falls off it somewhere."""
        return subject.kept((use.number, part), lambda: cls._of(subject, use, part))

    @classmethod
    def _of(cls, subject: Subject, use: Use, part: Area) -> Reading | None:
        if not isinstance(use.reference, CellReference):
            return None
        found = subject.read(use.reference, part)
        if not found:
            return None
        moved = [axis for axis in AXES if not use.reference.on(axis)[0].locked]
        wanted = [part.length(axis) if axis in moved else 1 for axis in ("column", "row")]
        area = found[1]
        return cls(subject, use, part, *found) if [*area.shape] == wanted else None

    @property
    def home(self) -> bool:
        """Whether the sheet of the block itself is read."""
        return self.sheet is self.subject.sheet

    def moves(self, axis: Axis) -> bool:
        """Whether the landings along an axis read different cells."""
        return not self.use.reference.on(axis)[0].locked and self.part.length(axis) > 1

    def stays(self, axis: Axis) -> bool:
        """Whether the landings along an axis, of which there are several, read one cell."""
        return self.use.reference.on(axis)[0].locked and self.part.length(axis) > 1

    def offset(self, axis: Axis) -> int:
        """How far from the first landing lies what it reads."""
        return self.area.on(axis)[0] - self.part.on(axis)[0]

    def in_line(self, axis: Axis) -> bool:
        """Whether every landing along an axis reads its own row or column of the sheet."""
        return self.home and self.moves(axis) and self.offset(axis) == 0

    @property
    def shape(self) -> tuple[int, int]:
        """How many columns and rows of landings."""
        return self.part.width, self.part.height

    @cached_property
    def kinds(self) -> NDArray[np.uint8]:
        """The kind of what each landing reads."""
        return np.broadcast_to(self.subject.kinds(self.sheet, self.area), self.shape)

    @cached_property
    def own(self) -> Mask:
        """The landings that read other landings of the block."""
        own = mask_of(self.area, self.subject.parts if self.home else ())
        return np.broadcast_to(own, self.shape)

    def passed(self, mask: Mask) -> Mask:
        """Those of the landings marked that a condition of the formula leads past this use."""
        way = ways(self.subject.shape)[self.use.number]
        found = np.zeros(self.shape, bool)
        if way:
            for column, row in np.argwhere(mask)[:_MOST_ASKED].tolist():
                cell = Cell(self.part.left + column, self.part.top + row)
                place = Place(self.subject.sheet.name, cell)
                found[column, row] = is_passed(self.subject.calculation, way, place)
        return found

    def along(self, axis: Axis, mask: Mask) -> Mask:
        """Whether all landings of each line across an axis are marked."""
        return np.asarray(mask.all(axis=0 if axis == "row" else 1))

    def labels(self, axis: Axis) -> tuple[str, ...]:
        """What the cells from the first one read on are labelled, as many as landings."""
        return texts_along(
            self.subject.calculation, self.sheet, self.area.first, axis, self.part.length(axis)
        )

    def numbers_on(self, axis: Axis) -> int:
        """How many landings along an axis find numbers before the first that does not."""
        numbers = (self.kinds == Kind.NUMBER) | self.own
        others = np.flatnonzero(~self.along(axis, numbers))
        return int(others[0]) if len(others) else self.part.length(axis)

    def ends_on(self, axis: Axis) -> int:
        """How many landings along an axis there are up to the last that finds a number."""
        numbers = (self.kinds == Kind.NUMBER) | self.own
        found = np.flatnonzero(self.along(axis, numbers))
        return int(found[-1]) + 1 if len(found) else 0

    def contiguous(self, axis: Axis) -> bool:
        """Whether no empty line parts what is read from the block."""
        if not self.home:
            return False
        crossing = CROSSING[axis]
        low, high = sorted((self.area.on(crossing)[0], self.part.on(crossing)[0]))
        lines = (self.part.spanning(crossing, each, each) for each in range(low, high))
        return all(self.sheet.count(line) for line in lines)
