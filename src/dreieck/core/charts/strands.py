"""The cells of a chart in strands: one for each column, or row, of all its sources together."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import NamedTuple, overload

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import AXES, CROSSING, LAST, Area, Axis
from dreieck.core.sheet.chart import Source
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place


class SheetArea(NamedTuple):
    """An area of a sheet."""

    sheet: Sheet
    area: Area


class Strand(NamedTuple):
    """Cells in a line on one axis, of one part or of several that follow each other."""

    axis: Axis
    parts: tuple[SheetArea, ...]

    def __len__(self) -> int:
        return sum(part.area.size for part in self.parts)

    def place(self, index: int) -> Place:
        """The cell with this number, counted from 0. Raises IndexError."""
        for sheet, area in self.parts:
            if index < area.size:
                return Place(sheet.name, area.first.step(self.axis, index))
            index -= area.size
        raise IndexError(index)


def parts_of(workbook: Workbook, home: Sheet, sources: Iterable[Source]) -> list[SheetArea]:
    """Where sources are; of whole columns and rows as far as they are filled.

    ``home`` is the sheet on which their chart stands. Raises SheetError.
    """
    found: list[SheetArea] = []
    for name, area in sources:
        sheet = home if name is None else workbook.sheet(name)
        used = sheet.used()
        held = area
        for axis in AXES:
            if used and area.length(axis) == LAST[axis]:
                held = held.spanning(axis, *used.on(axis))
        found.append(SheetArea(sheet, held))
    return found


class Strands(Sequence[Strand]):
    """The columns of all parts, or their rows, in order; made when they are asked for.

    Parts of the same height stand side by side, those of the same width below each other.
    Raises DreieckError where they fit together neither way.
    """

    def __init__(self, parts: Sequence[SheetArea], axis: Axis) -> None:
        self._parts = parts
        self._axis = axis
        self.single = _joined_on(parts) == axis
        """Whether each is of one part alone."""

    def __len__(self) -> int:
        lengths = [area.length(self._axis) for _, area in self._parts]
        return sum(lengths) if self.single else max(lengths, default=0)

    @overload
    def __getitem__(self, index: int) -> Strand: ...

    @overload
    def __getitem__(self, index: slice) -> list[Strand]: ...

    def __getitem__(self, index: int | slice) -> Strand | list[Strand]:
        if isinstance(index, slice):
            return [self[each] for each in range(*index.indices(len(self)))]
        if not self.single:
            return self._of(self._parts, index)
        for part in self._parts:
            length = part.area.length(self._axis)
            if index < length:
                return self._of([part], index)
            index -= length
        raise IndexError(index)

    def _of(self, parts: Sequence[SheetArea], index: int) -> Strand:
        axis = self._axis
        lines = (
            SheetArea(sheet, area.spanning(axis, at, at))
            for sheet, area in parts
            for at in [area.on(axis)[0] + index]
        )
        return Strand(CROSSING[axis], tuple(lines))


def _joined_on(parts: Sequence[SheetArea]) -> Axis:
    """The axis on which the parts follow each other."""
    areas = [part.area for part in parts]
    questions: tuple[Callable[[Area, Axis], object], ...] = (Area.on, Area.length)
    for question in questions:
        for axis in AXES:
            if len({question(area, CROSSING[axis]) for area in areas}) <= 1:
                return axis
    raise DreieckError(
        "The places of a chart have to be equally high, to stand side by side, or equally wide."
    )
