"""Cut and paste: cells move, keep what they read, and are followed by those that read them.

The rule is that of a moved formula: references of moved cells keep the cells that they read,
and a reference to cells that all move goes along with them, in every formula of the workbook.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.editing.following import followed, followed_besides, same_sheet
from dreieck.core.editing.readers import MAX_MOVED_CELLS, readers_after, readers_of
from dreieck.core.editing.target import check_target
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.values import Place
from dreieck.core.values.look import PLAIN, Look


@dataclass(frozen=True)
class _Cut:
    """An area that moves; what reads only some of it does not go along."""

    source: Sheet
    area: Area
    target: Sheet
    columns: int
    rows: int

    def where(self, sheet: str, area: Area) -> tuple[str, Area]:
        """Where an area stands afterwards."""
        if not same_sheet(sheet, self.source.name) or not area.within(self.area):
            return sheet, area
        return self.target.name, area.offset(self.columns, self.rows)


def cut_to(
    calculation: Calculation, source: Sheet, area: Area, target: Sheet, at: Cell
) -> list[Edit]:
    """Move an area so that its first cell comes to ``at``. Raises DreieckError."""
    columns, rows = at.column - area.left, at.row - area.top
    place = area.offset(columns, rows)
    check_target(place)
    if area.size > MAX_MOVED_CELLS and source.count(area) > MAX_MOVED_CELLS:
        raise DreieckError(f"At most {MAX_MOVED_CELLS:,} cells can be moved at once.")
    cut = _Cut(source, area, target, columns, rows)
    workbook = calculation.workbook
    readers = readers_of(workbook, source.name, area)
    followers: dict[int, dict[Cell, tuple[Shape, Look]]] = {}
    for sheet, cell, shape in readers_after(readers, source, area, cut):
        followers.setdefault(sheet.id, {})[cell] = (shape, sheet.look(cell))
    moved = list(source.all_runs(area))
    come = (run for each in moved for run in _arrived(cut, each))
    edits = list(followed_besides(workbook, cut))
    edits += [SetCells.of(id, dict(cells)) for id, cells in followers.items()]
    for sheet, runs in (
        (source, _cleared(moved)),
        (target, _cleared(target.all_runs(place))),
        (target, come),
    ):
        written = SetCells(sheet.id, tuple(runs))
        edits += [written] if written.runs else []
    return edits


def _cleared(runs: Iterable[Run]) -> Iterator[Run]:
    return (run._replace(content=None, look=PLAIN) for run in runs)


def _arrived(cut: _Cut, run: Run) -> Iterator[Run]:
    """A run of cells where it stands afterwards; formulas keep what they read."""
    there = run._replace(
        column=run.column + cut.columns, top=run.top + cut.rows, bottom=run.bottom + cut.rows
    )
    if not isinstance(run.content, Shape):
        yield there
        return
    for cell in run.area.cells():
        to = cell.offset(cut.columns, cut.rows)
        before, after = Place(cut.source.name, cell), Place(cut.target.name, to)
        shape = followed(run.content, cut, before, after)
        yield there._replace(top=to.row, bottom=to.row, content=shape)
