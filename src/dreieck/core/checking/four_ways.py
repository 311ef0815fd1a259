"""Four ways: one formula filled with nothing of a reference locked, the row, the column, both."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.editing.fill import Fill, plan_fill
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.locks import axes, lock_of, with_lock
from dreieck.core.grid import Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet

WAYS: tuple[tuple[str, bool, bool], ...] = (
    ("nothing locked", False, False),
    ("row locked", False, True),
    ("column locked", True, False),
    ("both locked", True, True),
)
"""What is locked, in words; whether the column and the row stay."""


@dataclass(frozen=True)
class Way:
    """One way: what is locked, the formula of the start, the fill, and its values."""

    says: str
    formula: str
    is_now: bool
    fill: Fill
    calculation: Calculation

    @property
    def sheet(self) -> Sheet:
        """The sheet with the fill in it."""
        return self.calculation.workbook.sheet_by_id(self.fill.sheet_id)


def four_ways(
    calculation: Calculation, sheet: Sheet, start: Cell, shape: Shape, target: Area, number: int
) -> list[Way]:
    """The four ways to lock the reference ``number``, filled over a target.

    Raises DreieckError where there is no such reference, or the fill cannot be.
    """
    if not 0 <= number < len(shape.references):
        raise DreieckError("The formula has no such reference.")
    reference = shape.references[number]
    ways: list[Way] = []
    for says, column, row in WAYS:
        changed = reference
        locks: dict[Axis, bool] = {"column": column, "row": row}
        for axis in axes(reference):
            changed = with_lock(changed, start, axis, "stays" if locks[axis] else "moves")
        is_now = all(
            lock_of(reference, start, axis) == ("stays" if locks[axis] else "moves")
            for axis in axes(reference)
        )
        other = shape.with_equals(number, changed)
        source = Area.of(start)
        fill = plan_fill(
            calculation.workbook, sheet.id, source, target.around(source), {start: other}
        )
        filled = calculation.with_edits([fill.edit()])
        ways.append(Way(says, other.text(start), is_now, fill, filled))
    return ways
