"""One workbook worked out many times over, with other values in some cells.

All runs of a stretch are worked out together: what depends on the cells that change is a column of
runs times rows, one run below the other. What does not depend on them is worked out once for all.
"""

from __future__ import annotations

from collections.abc import Sequence

from dreieck.core.budget import TooMuchWork, current
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.calculate.run_strips import RunStrip
from dreieck.core.calculate.stretch import Plan, Stretch
from dreieck.core.calculate.tasks import Task
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values import WORK, Error, Place, Value

_AT_ONCE = 409_600
"""So many values are worked out at once, so that looking at formulas costs little of it."""
_MOST_RUNS = 2_048


class Runs:
    """Runs of one workbook. Good until the workbook changes."""

    def __init__(
        self, calculation: Calculation, inputs: Sequence[Place], results: Sequence[Place]
    ) -> None:
        """Find out what depends on the inputs, and in which order it is worked out."""
        self.inputs = inputs
        self.results = results
        self.calculation = calculation
        # What does not depend on the inputs is worked out before, once for all.
        values = [calculation.value(place.sheet, place.cell) for place in (*inputs, *results)]
        self.base = self._with(values[: len(inputs)])
        self.tasks: list[Task] = []
        for place in results:
            self.tasks += self.base.in_order(place.sheet, Area.of(place.cell))
        height = max((task.area.height for task in self.tasks), default=1)
        self.at_once = max(min(_AT_ONCE // height, _MOST_RUNS), 1)
        """So many runs are best worked out together."""
        self._plan = Plan()
        self._is_plain = not calculation.fans_read(inputs) and not any(
            calculation.reads_anywhere(task.shape) for task in self.tasks
        )

    def of(self, given: Sequence[Cells]) -> list[Cells]:
        """What each result is in some runs; ``given`` are the values of each input in them."""
        if not self._is_plain:
            return self._one_by_one(given)
        stretch = Stretch(self.base, len(given[0]), self._plan)
        for place, cells in zip(self.inputs, given, strict=True):
            stretch.put(place.sheet, place.cell.column, place.cell.row, 1, cells)
        for task in self.tasks:
            _work_out(stretch, task)
        found = [stretch.read(p.sheet, p.cell.column, p.cell.row, 1) for p in self.results]
        # The tables of a stretch are used again by the next one.
        return [Cells(each.kinds, each.payload.copy(), each.pool) for each in found]

    def _with(self, values: Sequence[Value]) -> Calculation:
        """The calculation with values in the inputs."""
        workbook = self.calculation.workbook
        held: dict[int, dict[Cell, Value]] = {}
        for place, value in zip(self.inputs, values, strict=True):
            held.setdefault(workbook.sheet(place.sheet).id, {})[place.cell] = value
        edits = [
            SetCells.of(
                id,
                {
                    cell: (0.0 if isinstance(value, Error) else value,
                           workbook.sheet_by_id(id).look(cell))
                    for cell, value in cells.items()
                },
            )
            for id, cells in held.items()
        ]  # fmt: skip
        return self.calculation.with_edits(edits)

    def _one_by_one(self, given: Sequence[Cells]) -> list[Cells]:
        """The same, each run by itself."""
        found: list[list[Value]] = [[] for _ in self.results]
        for values in zip(*(cells.values() for cells in given), strict=True):
            made = self._with(values)
            for column, place in zip(found, self.results, strict=True):
                column.append(made.value(place.sheet, place.cell))
        return [Cells.of(column) for column in found]


def _work_out(stretch: Stretch, task: Task) -> None:
    """Work out the formulas of a task in all runs."""
    rows = range(task.area.top, task.area.bottom + 1)
    for column in range(task.area.left, task.area.right + 1):
        try:
            with current().formula(stretch.count * len(rows)):
                strip = RunStrip(stretch, task.sheet, column, rows, task.shape.tree)
                cells = strip.result()
        except TooMuchWork:
            error = Error(WORK, "Working this out takes more steps than it may.")
            cells = Cells.alike(error, stretch.count * len(rows))
        stretch.put(task.sheet, column, rows.start, len(rows), cells)
