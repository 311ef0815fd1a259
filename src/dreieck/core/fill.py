"""Planning a fill: what would stand in every landing. Nothing is written here."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from heapq import merge
from operator import itemgetter

from dreieck.core.address import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.content import Content
from dreieck.core.edits import Cells, SetCells
from dreieck.core.exceptions import FillError
from dreieck.core.formula import Shape
from dreieck.core.look import PLAIN, Look
from dreieck.core.workbook import Workbook

MAX_FILL = 1_000_000
"""How many cells one fill can write."""


@dataclass(frozen=True)
class Fill:
    """A planned fill of ``target`` from the cells of ``source``, repeated as a pattern.

    ``contents`` is what the source cells hold. Look a landing up with ``content``.
    """

    workbook: Workbook
    sheet_id: int
    source: Area
    target: Area
    contents: dict[Cell, Content | None]

    def start_of(self, landing: Cell) -> Cell:
        """The source cell that a landing is filled from."""
        return Cell(
            self.source.left + (landing.column - self.source.left) % self.source.width,
            self.source.top + (landing.row - self.source.top) % self.source.height,
        )

    def content(self, landing: Cell) -> Content | None:
        """What the fill puts into a landing: the shape of its start, or the same value."""
        content = self.contents[self.start_of(landing)]
        return content.landed(landing) if isinstance(content, Shape) else content

    def overwritten(self) -> list[Cell]:
        """The landings outside the source that hold something else now, row by row."""
        sheet = self.workbook.sheet_by_id(self.sheet_id)
        others = [
            cell
            for cell, content in sheet.filled(self.target)
            if not self.source.holds(cell) and content != self.content(cell)
        ]
        return sorted(others, key=lambda cell: (cell.row, cell.column))

    def edit(self) -> SetCells:
        """The edit that lands the fill, the source cells included.

        A number format travels to landings that have none of their own.
        """
        looks = self.workbook.sheet_by_id(self.sheet_id).looks
        cells: Cells = {}
        for start, content in self.contents.items():
            own = looks.get(start, PLAIN)
            cells[start] = (content, own)
            travels = Look(own.form, own.decimals)
            landings = self._landings_of(start)
            if isinstance(content, Shape) and not self._is_whole(content):
                for landing in landings:
                    cells[landing] = (content.landed(landing), looks.get(landing, travels))
            else:
                for landing in landings:
                    cells[landing] = (content, looks.get(landing, travels))
            if self.target.holds(start):
                cells[start] = (content, own)
        return SetCells(self.sheet_id, cells)

    def _landings_of(self, start: Cell) -> Iterator[Cell]:
        """The landings that are filled from one source cell."""
        across, down = self.source.width, self.source.height
        left = self.target.left + (start.column - self.target.left) % across
        top = self.target.top + (start.row - self.target.top) % down
        for column in range(left, self.target.right + 1, across):
            for row in range(top, self.target.bottom + 1, down):
                yield Cell(column, row)

    def _is_whole(self, shape: Shape) -> bool:
        """Whether no reference of a shape falls off the sheet in any landing."""
        home = shape.home
        return home is not None and home.holds(self.target.first) and home.holds(self.target.last)

    def grid(self) -> RehearsedGrid:
        """The workbook as it would be with the fill landed."""
        return RehearsedGrid(self)


def plan_fill(
    workbook: Workbook,
    sheet_id: int,
    source: Area,
    target: Area,
    contents: dict[Cell, Content | None] | None = None,
) -> Fill:
    """Plan a fill of ``target`` with what the cells of ``source`` hold.

    ``contents`` replaces what source cells hold by something not kept yet. Raises
    FillError where the target leaves the sheet, is too large, or there is nothing to fill.
    """
    check_target(target)
    sheet = workbook.sheet_by_id(sheet_id)
    if source.size > MAX_FILL:
        raise FillError(f"A fill can start from {MAX_FILL:,} cells at most.")
    held: dict[Cell, Content | None] = {cell: sheet.content(cell) for cell in source.cells()}
    held.update(contents or {})
    if all(content is None for content in held.values()):
        raise FillError(f"{source.text} is empty: there is nothing to fill with.")
    return Fill(workbook, sheet_id, source, target, held)


def check_target(target: Area) -> None:
    """Raise FillError where an area leaves the sheet or is too large for one fill."""
    if not (target.first.on_sheet and target.last.on_sheet):
        raise FillError(
            "The fill would leave the sheet: columns go from A to ZZZ,"
            f" rows from 1 to {MAX_ROW:,}."
        )
    if target.size > MAX_FILL:
        raise FillError(
            f"{target.text} has {target.size:,} cells; one fill can write {MAX_FILL:,}."
            " Choose a smaller area."
        )


def stretched(source: Area, target: Area, columns: int, rows: int) -> Area:
    """A rehearsal's target, stretched by one key: its far edge moves so many cells.

    The target shrinks where the edge moves back towards the source, which it always
    holds; it never leaves the sheet.
    """
    left, top, right, bottom = target
    if columns:
        if (columns > 0 and left < source.left) or (columns < 0 and right <= source.right):
            left = min(max(left + columns, 1), source.left)
        else:
            right = max(min(right + columns, MAX_COLUMN), source.right)
    if rows:
        if (rows > 0 and top < source.top) or (rows < 0 and bottom <= source.bottom):
            top = min(max(top + rows, 1), source.top)
        else:
            bottom = max(min(bottom + rows, MAX_ROW), source.bottom)
    return Area(left, top, right, bottom)


def _down(area: Area) -> Iterator[Cell]:
    """Every cell, column by column."""
    for column in range(area.left, area.right + 1):
        for row in range(area.top, area.bottom + 1):
            yield Cell(column, row)


class RehearsedGrid:
    """A workbook seen with a planned fill in it."""

    def __init__(self, fill: Fill) -> None:
        self._fill = fill
        self._sheet = fill.workbook.sheet_by_id(fill.sheet_id)

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""
        return self._fill.workbook.has_sheet(name)

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""
        return self._fill.workbook.named(name)

    def content(self, sheet: str, cell: Cell) -> Content | None:
        """What a cell would hold."""
        if self._is_filled(sheet):
            if self._fill.target.holds(cell):
                return self._fill.content(cell)
            if self._fill.source.holds(cell):
                return self._fill.contents[cell]
        return self._fill.workbook.content(sheet, cell)

    def formulas(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Shape]]:
        """The cells of an area that would hold formulas."""
        if not self._is_filled(sheet):
            yield from self._fill.workbook.formulas(sheet, area)
            return
        for cell, content in self.filled(sheet, area):
            if isinstance(content, Shape):
                yield cell, content

    def filled(self, sheet: str, area: Area) -> Iterator[tuple[Cell, Content]]:
        """The cells of an area that would hold something."""
        fill = self._fill
        if not self._is_filled(sheet):
            yield from fill.workbook.filled(sheet, area)
            return
        kept = (
            (cell, content)
            for cell, content in self._sheet.filled(area)
            if not fill.target.holds(cell) and not fill.source.holds(cell)
        )
        yield from merge(kept, self._planned(area), key=itemgetter(0))

    def _planned(self, area: Area) -> Iterator[tuple[Cell, Content]]:
        """The starts and landings in an area, column by column."""
        fill = self._fill
        landings, starts = fill.target.common(area), fill.source.common(area)
        beside = [cell for cell in starts.cells() if not fill.target.holds(cell)] if starts else []
        for cell in merge(_down(landings) if landings else (), sorted(beside)):
            planned = self.content(self._sheet.name, cell)
            if planned is not None:
                yield cell, planned

    def _is_filled(self, sheet: str) -> bool:
        return sheet.casefold() == self._sheet.name.casefold()
