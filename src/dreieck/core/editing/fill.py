"""Planning a fill: what would stand in every landing. Nothing is written here."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from itertools import product
from operator import itemgetter
from typing import Literal

from dreieck.core.budget import spend
from dreieck.core.editing.series import counts_on_alone, series_of
from dreieck.core.editing.target import MAX_FILL, check_target
from dreieck.core.exceptions import FillError
from dreieck.core.formula import Shape
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import SetCells, joined_runs
from dreieck.core.sheet.series import Counted, Series
from dreieck.core.sheet.sheet import ColumnRun, Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN, Look

PlainValues = Literal["", "copy", "count"]
"""Whether plain values repeat or count on; empty for what is usual for them."""
_MAX_STARTS = 10_000


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
    looks_travel: bool = True
    lines: dict[int, Series] = field(default_factory=dict)
    """For the rows or columns of the source whose plain values count on: how they do."""

    @property
    def axis(self) -> Axis:
        """The axis on which values count on: from row to row, or from column to column."""
        return fill_axis(self.source, self.target)

    def start_of(self, landing: Cell) -> Cell:
        """The source cell that a landing is filled from."""
        return Cell(
            self.source.left + (landing.column - self.source.left) % self.source.width,
            self.source.top + (landing.row - self.source.top) % self.source.height,
        )

    def content(self, landing: Cell) -> Content | None:
        """What the fill puts into a landing: the shape of its start, or a value."""
        start = self.start_of(landing)
        content = self.contents[start]
        line = self._line(start)
        if line:
            return line.value(landing.on(self.axis) - self.source.first.on(self.axis))
        return content.landed(landing) if isinstance(content, Shape) else content

    def _line(self, start: Cell) -> Series | None:
        """How the row or column of a start counts on, if it does."""
        return self.lines.get(start.on(CROSSING[self.axis]))

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
        sheet = self.workbook.sheet_by_id(self.sheet_id)
        runs: list[Run | ColumnRun] = list(self._counted(sheet))
        counted = {run.column for run in runs}
        runs += [
            run
            for start, content in self.contents.items()
            for column, top, bottom in self._stretches(start)
            if column not in counted
            for part in sheet.runs(Area(column, top, column, bottom))
            for run in self._landed(part, start, content, sheet.look(start))
        ]
        for start, content in self.contents.items():
            if not self.target.holds(start):
                runs.append(Run(start.column, start.row, start.row, content, sheet.look(start)))
        runs.sort(key=itemgetter(0, 1))
        return SetCells(self.sheet_id, tuple(joined_runs(runs, _alike)))

    def _counted(self, sheet: Sheet) -> Iterator[ColumnRun]:
        """The landings in columns that count on downwards and whose starts look alike."""
        for number, line in self.lines.items() if self.axis == "row" else ():
            looks = {
                sheet.look(cell) for cell in self.source.spanning("column", number, number).cells()
            }
            if len(looks) > 1:
                continue
            top, bottom = self.target.top, self.target.bottom
            left = self.target.left + (number - self.target.left) % self.source.width
            for column in range(left, self.target.right + 1, self.source.width):
                for first, last, held in sheet.looks_between(column, top, bottom):
                    look = self._travelled(held, *looks)
                    content = Counted(line, first - self.source.top)
                    yield ColumnRun(column, first, last, content, look)

    def _travelled(self, held: Look, own: Look) -> Look:
        """How a landing looks that looked so, filled from a cell that has a look of its own."""
        travels = replace(own, role="plain") if self.looks_travel else PLAIN
        return held if held != PLAIN else travels

    def _landed(self, part: Run, start: Cell, content: Content | None, own: Look) -> Iterator[Run]:
        """What stands in a run of landings that look alike."""
        look = self._travelled(part.look, own)
        if self._line(start) or (isinstance(content, Shape) and not content.fits(part.area)):
            for cell in part.area.cells():
                yield Run(cell.column, cell.row, cell.row, self.content(cell), look)
        else:
            yield part._replace(content=content, look=look)

    def _stretches(self, start: Cell) -> Iterator[tuple[int, int, int]]:
        """The landings that are filled from one source cell: columns, first and last rows."""
        across, down = self.source.width, self.source.height
        left = self.target.left + (start.column - self.target.left) % across
        top = self.target.top + (start.row - self.target.top) % down
        for column in range(left, self.target.right + 1, across):
            if down == 1:
                yield column, self.target.top, self.target.bottom
            else:
                for row in range(top, self.target.bottom + 1, down):
                    yield column, row, row


def _alike(one: Run | ColumnRun, other: Run | ColumnRun) -> bool:
    return one.content is other.content and one.look == other.look


def plan_fill(
    workbook: Workbook,
    sheet_id: int,
    source: Area,
    target: Area,
    contents: dict[Cell, Content | None] | None = None,
    *,
    values: PlainValues = "",
    looks_travel: bool = True,
) -> Fill:
    """Plan a fill of ``target`` with what the cells of ``source`` hold.

    Plain values are copied or count on, as ``values`` tells, or else as is usual for them;
    number formats go along if ``looks_travel``.

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
    fill = Fill(workbook, sheet_id, source, target, held, looks_travel)
    fill.lines.update(_lines(fill, values))
    return fill


def fill_axis(source: Area, target: Area) -> Axis:
    """The axis on which a fill goes: down or up its rows, rather than along its columns."""
    goes_down = target.height > source.height or target.width <= source.width
    return "row" if goes_down else "column"


def can_count_on(fill: Fill) -> bool:
    """Whether some plain values of the source could count on."""
    return bool(_lines(fill, "count"))


def _lines(fill: Fill, values: PlainValues) -> dict[int, Series]:
    """How each row or column of the source counts on, where it does."""
    source, sheet = fill.source, fill.workbook.sheet_by_id(fill.sheet_id)
    lines: dict[int, Series] = {}
    if values == "copy" or source.size > _MAX_STARTS:
        return lines
    across = CROSSING[fill.axis]
    for line in source.lines(across):
        starts = [fill.contents[cell] for cell in line.cells()]
        if values == "count" or counts_on_alone(starts):
            series = series_of(starts, sheet.look(line.first))
            if series:
                lines[line.first.on(across)] = series
    return lines


_MAX_LINES_AWAY = 5
"""How many lines away neighbouring data may stand."""


def alongside(sheet: Sheet, source: Area, axis: Axis) -> Area:
    """The source, stretched on an axis as far as the neighbouring data goes.

    The data to its left counts, or else to its right; for a fill to the right that above it,
    or else below; over a few lines without data the next ones count. It is the source itself
    where no data goes on.
    """
    first, last = source.on(axis)
    before, behind = source.on(CROSSING[axis])
    for away, step in product(range(1, _MAX_LINES_AWAY + 1), (-1, 1)):
        beside = before - away if step < 0 else behind + away
        cell = source.spanning(CROSSING[axis], beside, beside).last
        while cell.on_sheet and sheet.content(cell) is not None:
            spend(1)
            cell = cell.step(axis, 1)
        end = cell.on(axis) - 1
        if end > last:
            return source.spanning(axis, first, end)
    return source
