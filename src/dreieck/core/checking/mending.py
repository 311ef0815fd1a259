"""Several mends at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import reduce

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import Mend
from dreieck.core.grid import Area
from dreieck.core.grid.areas import cells_of, joined
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.values import Error

_MANY = 100
MAX_COMPARED = 20_000
"""So many results are compared before and after."""


@dataclass(frozen=True)
class Mending:
    """Mends that are made together, and those that would write what one of these writes."""

    mends: tuple[Mend, ...]
    left: tuple[Mend, ...]

    @property
    def edits(self) -> list[Edit]:
        """What is done."""
        return [edit for mend in self.mends for edit in mend.edits]


def together(mends: Sequence[Mend]) -> Mending:
    """As many mends as do not touch each other's cells, names or charts, the first ones first."""
    made: list[Mend] = []
    left: list[Mend] = []
    cells: list[tuple[int, Area]] = []
    others: set[tuple[type, object]] = set()
    for mend in mends:
        writes = [
            (edit.sheet_id, area)
            for edit in mend.edits
            if isinstance(edit, SetCells)
            for area in _few(edit.areas())
        ]
        rest = {
            (type(edit), getattr(edit, "key", getattr(edit, "sheet_id", None)))
            for edit in mend.edits
            if not isinstance(edit, SetCells)
        }
        meets = any(
            id == known and area.common(each) for id, area in writes for known, each in cells
        )
        if meets or rest & others:
            left.append(mend)
            continue
        made.append(mend)
        cells += writes
        others |= rest
    return Mending(tuple(made), tuple(left))


def _few(areas: Sequence[Area]) -> Sequence[Area]:
    """The same areas, or all that lies around them where there are many."""
    found = joined(areas)
    return found if len(found) <= _MANY else (reduce(Area.around, found),)


def outcome(calculation: Calculation, mending: Mending) -> tuple[int, int]:
    """How many results of the cells that are written would change, and how many errors go."""
    after = calculation.with_edits(mending.edits)
    changed = gone = compared = 0
    for edit in mending.edits:
        if not isinstance(edit, SetCells):
            continue
        sheet = calculation.workbook.sheet_by_id(edit.sheet_id).name
        for cell in cells_of(tuple(edit.areas())):
            compared += 1
            if compared > MAX_COMPARED:
                return changed, gone
            one, two = calculation.value(sheet, cell), after.value(sheet, cell)
            changed += one != two
            gone += isinstance(one, Error) and not isinstance(two, Error)
    return changed, gone
