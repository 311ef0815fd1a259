"""The formulas that read what moves, wherever they stand, and what becomes of them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

from dreieck.core.calculate.read_map import ReadMap
from dreieck.core.editing.following import Movement, followed
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place

MAX_MOVED_CELLS = 200_000
"""How many cells can be moved at once, and how many formulas can follow."""


class Reader(NamedTuple):
    """A formula that reads some of an area."""

    sheet: Sheet
    cell: Cell
    shape: Shape


@dataclass
class _Mentions:
    """What formulas refer to, also where only the place of it counts, as in ``ROW(B4)``."""

    workbook: Workbook

    def references(self, shape: Shape) -> Iterator[Reference]:
        """All references of a formula; names follow by themselves."""
        return iter(shape.references)

    def reads_anywhere(self, shape: Shape) -> bool:
        """What no reference tells cannot follow."""
        return False


def readers_of(workbook: Workbook, sheet: str, area: Area) -> Iterator[Reader]:
    """The formulas that read some of an area of a sheet; one may come twice."""
    for reading in ReadMap(_Mentions(workbook)).reading(sheet, area):
        home = workbook.sheet(reading.sheet)
        for cell, shape in home.formulas(reading.area):
            yield Reader(home, cell, shape)


def readers_after(
    readers: Iterable[Reader], sheet: Sheet, area: Area, movement: Movement
) -> Iterator[Reader]:
    """Those of the readers of an area that stand outside of it, as they are after a movement.

    Raises DreieckError where too many change.
    """
    count = 0
    for home, cell, shape in readers:
        if home is sheet and area.holds(cell):
            continue
        here = Place(home.name, cell)
        after = followed(shape, movement, here, here)
        if after is not shape:
            count += 1
            if count > MAX_MOVED_CELLS:
                raise DreieckError(f"More than {MAX_MOVED_CELLS:,} formulas read these cells.")
            yield Reader(home, cell, after)
