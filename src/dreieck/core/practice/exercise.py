"""A small table with a fill that has to be right: what questions are asked about."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property

from dreieck.core.calculate import Calculation
from dreieck.core.editing.fill import plan_fill
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.practice.skills import SkillKey
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Error, Value

_NEARLY = 1e-9
"""Values that differ by less of themselves count as equal."""
_FACTORS = (1.25, 0.5, 3.0, 1.75, 0.25, 2.5, 1.5)


@dataclass(frozen=True)
class Exercise:
    """A workbook, the start and the target of a fill on one of its sheets, and its formula.

    ``calculation`` has the values of the workbook, in which the target is empty. ``task`` says
    what the fill is for; ``number`` is the reference that the exercise is about.
    """

    calculation: Calculation
    sheet_name: str
    start: Cell
    target: Area
    shape: Shape
    task: str
    skill: SkillKey
    number: int = 0
    filled: dict[Shape, Calculation] = field(default_factory=dict, compare=False)

    @property
    def workbook(self) -> Workbook:
        """The workbook without the fill."""
        return self.calculation.workbook

    @property
    def sheet(self) -> Sheet:
        """The sheet of the fill, without it."""
        return self.workbook.sheet(self.sheet_name)

    @property
    def formula(self) -> str:
        """The right formula of the start."""
        return self.shape.text(self.start)

    @property
    def landings(self) -> tuple[Cell, ...]:
        """The target, row by row; the start is one of them."""
        return tuple(sorted(self.target.cells(), key=lambda cell: (cell.row, cell.column)))

    def with_start(self, content: Content | None) -> Calculation:
        """The values with something in the start alone."""
        return self.calculation.with_edits([self.put({self.start: content})])

    def put(self, contents: Mapping[Cell, Content | None]) -> SetCells:
        """The edit that puts contents into cells of the sheet of the fill."""
        look = self.sheet.look
        return SetCells.of(
            self.sheet.id, {cell: (content, look(cell)) for cell, content in contents.items()}
        )

    def with_fill(self, shape: Shape) -> Calculation:
        """The values with the target filled from a formula in the start."""
        if shape not in self.filled:
            self.filled[shape] = _filled(self, self.calculation, shape)
        return self.filled[shape]

    @cached_property
    def varied(self) -> Calculation:
        """The values of the table with other numbers in all inputs."""
        edits = []
        for sheet in self.workbook.sheets:
            used = sheet.used()
            numbers = [
                (cell, content)
                for cell, content in (sheet.filled(used) if used else ())
                if isinstance(content, int | float) and not isinstance(content, bool)
            ]
            cells = {
                cell: (_FACTORS[index % len(_FACTORS)] * content + index, sheet.look(cell))
                for index, (cell, content) in enumerate(numbers)
            }
            edits.append(SetCells.of(sheet.id, cells))
        return self.calculation.with_edits(edits)

    def values(self, shape: Shape) -> list[Value]:
        """What the landings come to with a formula in the start, row by row."""
        return self._values(self.with_fill(shape))

    def varied_values(self, shape: Shape) -> list[Value]:
        """The same, with other numbers in all inputs."""
        return self._values(_filled(self, self.varied, shape))

    def _values(self, calculation: Calculation) -> list[Value]:
        return [calculation.value(self.sheet_name, cell) for cell in self.landings]

    def differing(self, shape: Shape) -> Cell | None:
        """The first landing, row by row, where a formula gives a wrong value."""
        return self._first(self.values(shape), self.values(self.shape))

    def differs_at(self, shape: Shape, landing: Cell) -> bool:
        """Whether a landing has a wrong value with a formula in the start."""
        one, two = (
            self.with_fill(each).value(self.sheet_name, landing) for each in (shape, self.shape)
        )
        return not alike(one, two)

    def differing_when_varied(self, shape: Shape) -> Cell | None:
        """The same, with other numbers in all inputs."""
        return self._first(self.varied_values(shape), self.varied_values(self.shape))

    def _first(self, given: list[Value], right: list[Value]) -> Cell | None:
        together = zip(self.landings, given, right, strict=True)
        return next((cell for cell, one, two in together if not alike(one, two)), None)


def _filled(exercise: Exercise, calculation: Calculation, shape: Shape) -> Calculation:
    start = exercise.start
    fill = plan_fill(
        calculation.workbook, exercise.sheet.id, Area.of(start), exercise.target, {start: shape}
    )
    return calculation.with_edits([fill.edit()])


def alike(one: Value, other: Value) -> bool:
    """Whether two values are the same but for the last digits of a calculation."""
    if isinstance(one, float) and isinstance(other, float):
        return abs(one - other) <= _NEARLY * max(abs(one), abs(other))
    if isinstance(one, Error) and isinstance(other, Error):
        return one.code == other.code
    return type(one) is type(other) and one == other
