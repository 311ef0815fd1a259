"""Inserting and deleting rows and columns, with everything that refers to them following.

Every reference is adjusted, locked or not: it goes on reading the cells that it read. A range
stretches when lines are inserted inside it and shrinks when some of its lines are deleted; a
reference whose cells are all deleted becomes ``#REF!`` for good. A range to the very end of the
sheet, such as that of a growing name, stays one.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.calculate.blocks import patches
from dreieck.core.editing.following import followed, followed_layouts, followed_names, same_sheet
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.grid import Area, Cell, LineChange, Lines
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines, SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.values.look import PLAIN, Look

MAX_DELETED_CELLS = 200_000
"""How many filled cells can be deleted with their lines."""


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


def inserted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Insert rows or columns. Raises DreieckError where something would fall off the sheet."""
    if sheet.end(lines.axis) >= lines.first and sheet.end(lines.axis) + lines.count > lines.limit:
        raise DreieckError(
            f"There is no room for {lines.count:,} more {lines.axis}s: the last {lines.axis} of"
            " the sheet is in use. Clear or delete something at its end first."
        )
    looks = tuple(_looks_between(sheet, lines))
    change = LineChange(lines, comes=True)
    return [InsertLines(sheet.id, lines, looks), *_followed(workbook, sheet, change)]


def deleted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Delete rows or columns. Raises DreieckError where they hold too much."""
    if sheet.count(lines.area) > MAX_DELETED_CELLS:
        raise DreieckError(f"At most {MAX_DELETED_CELLS:,} filled cells can be deleted at once.")
    change = LineChange(lines, comes=False)
    return [DeleteLines(sheet.id, lines), *_followed(workbook, sheet, change)]


def losing(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Following]:
    """The formulas that would lose a reference if lines were deleted."""
    return [
        each for each in _following(workbook, sheet, LineChange(lines, comes=False)) if each.loses
    ]


def _followed(workbook: Workbook, sheet: Sheet, change: LineChange) -> Iterator[Edit]:
    """Edits of the formulas and names that follow, for when the lines have come or gone."""
    runs: dict[int, list[Run]] = {}
    for each in _following(workbook, sheet, change):
        columns = each.after.left - each.before.left
        rows = each.after.top - each.before.top
        for run in each.sheet.runs(each.before):
            moved = Run(
                run.column + columns, run.top + rows, run.bottom + rows, each.shape, run.look
            )
            runs.setdefault(each.sheet.id, []).append(moved)
    yield from (SetCells(id, tuple(of_sheet)) for id, of_sheet in runs.items())

    movement = LinesMovement(sheet.name, change)
    yield from followed_names(workbook, movement)
    yield from followed_layouts(workbook, movement)


def _following(workbook: Workbook, sheet: Sheet, change: LineChange) -> Iterator[Following]:
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
    area: Area, change: LineChange, read: list[Reference], *, moves: bool
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


def _cuts(reference: Reference, change: LineChange, low: int, high: int) -> Iterator[int]:
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
    """Rows or columns of a sheet that come or go."""

    sheet: str
    change: LineChange

    def where(self, sheet: str, area: Area) -> tuple[str, Area] | None:
        """Where an area stands afterwards; None where all of it is gone."""
        if not same_sheet(sheet, self.sheet):
            return sheet, area
        there = self.change.area(area)
        return (sheet, there) if there else None


def _looks_between(sheet: Sheet, lines: Lines) -> Iterator[Run]:
    """The looks of lines that come: as the line before, or the one behind if that is a heading."""
    before, behind = lines.first - 1, lines.first
    if lines.axis == "column":
        looks = {
            at: [each for each in sheet.looks_of(at) if _is_of_body(each[2])]
            for at in (before, behind)
        }
        for column in range(lines.first, lines.last + 1):
            for top, bottom, look in looks[before] or looks[behind]:
                yield Run(column, top, bottom, None, look)
        return
    for column in sheet.dressed():
        pair = [sheet.look(Cell(column, row)) for row in (before, behind)]
        look = next((each for each in pair if _is_of_body(each)), PLAIN)
        if look != PLAIN:
            yield Run(column, lines.first, lines.last, None, look)


def _is_of_body(look: Look) -> bool:
    return look.role not in ("title", "heading")
