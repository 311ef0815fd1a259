"""What follows when rows or columns come, go or move: few pieces, however long the blocks."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.calculate.blocks import patches
from dreieck.core.editing.following import followed, followed_besides, same_sheet
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.grid import Area, LineChange, LineMove
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place


@dataclass(frozen=True)
class Following:
    """Formulas that change with the lines: where they stood and stand, and what they become."""

    sheet: Sheet
    before: Area
    after: Area
    shape: Shape

    @property
    def loses(self) -> bool:
        """Whether a reference is lost."""
        held = self.sheet.content(self.before.first)
        assert isinstance(held, Shape)
        return len(self.shape.references) < len(held.references)


def followed_lines(
    workbook: Workbook, sheet: Sheet, change: LineChange | LineMove
) -> Iterator[Edit]:
    """The edits of all that follows, for when the lines have come, gone or moved."""
    runs: dict[int, list[Run]] = {}
    for each in following_lines(workbook, sheet, change):
        columns = each.after.left - each.before.left
        rows = each.after.top - each.before.top
        for run in each.sheet.runs(each.before):
            moved = Run(
                run.column + columns, run.top + rows, run.bottom + rows, each.shape, run.look
            )
            runs.setdefault(each.sheet.id, []).append(moved)
    yield from (SetCells(id, tuple(of_sheet)) for id, of_sheet in runs.items())

    movement = LinesMovement(sheet.name, change)
    yield from followed_besides(workbook, movement)


def following_lines(
    workbook: Workbook, sheet: Sheet, change: LineChange | LineMove
) -> Iterator[Following]:
    """The formulas that change, in stretches that change alike."""
    axis = change.lines.axis
    movement = LinesMovement(sheet.name, change)
    for home in workbook.sheets:
        moves = home is sheet
        for patch in patches(home):
            read = [
                reference
                for reference in patch.shape.references
                if same_sheet(reference.sheet or home.name, sheet.name)
            ]
            if not moves and not read:
                continue
            for first, last in _stretches(patch.area, change, read, moves=moves):
                here = change.where(first) if moves else first
                if here is None:
                    continue
                before = patch.area.spanning(axis, first, last)
                after = patch.area.spanning(axis, here, here + last - first)
                shape = followed(
                    patch.shape, movement,
                    Place(home.name, before.first), Place(home.name, after.first),
                )  # fmt: skip
                if shape is not patch.shape:
                    yield Following(home, before, after, shape)


def _stretches(
    area: Area, change: LineChange | LineMove, read: list[Reference], *, moves: bool
) -> Iterator[tuple[int, int]]:
    """An area's coordinates on the axis, in stretches whose formulas change alike.

    ``read`` are the references to the sheet on which lines come or go.
    """
    low, high = area.on(change.lines.axis)
    cuts = set(change.edges) if moves else set()
    for reference in read:
        cuts.update(_cuts(reference, change, low, high))
    starts = [low, *sorted(cut for cut in cuts if low < cut <= high)]
    yield from zip(starts, [*(start - 1 for start in starts[1:]), high], strict=True)


def _cuts(
    reference: Reference, change: LineChange | LineMove, low: int, high: int
) -> Iterator[int]:
    """The formulas' coordinates from which on a reference follows in another way."""
    parts = reference.on(change.lines.axis)
    locked = [part.at for part in parts if part.locked]
    for part in parts:
        if part.locked:
            continue
        yield from (edge - part.at for edge in change.edges)
        if not isinstance(reference, CellReference):
            stops = change.stops
            near = range(max(stops.start, low + part.at), min(stops.stop, high + part.at + 1))
            # The corners change places where a free one passes one that is locked.
            for at in (*near, *locked):
                yield from (at - part.at, at - part.at + 1)


@dataclass(frozen=True, slots=True)
class LinesMovement:
    """Rows or columns of a sheet that come, go, or move."""

    sheet: str
    change: LineChange | LineMove

    def where(self, sheet: str, area: Area) -> tuple[str, Area] | None:
        """Where an area stands afterwards; None where all of it is gone."""
        if not same_sheet(sheet, self.sheet):
            return sheet, area
        there = self.change.area(area)
        return (sheet, there) if there else None
