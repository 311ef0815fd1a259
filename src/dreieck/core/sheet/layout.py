"""How a sheet is laid out: sizes of columns and rows, what is hidden, headings, rules, charts."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

from dreieck.core.formula import Shape
from dreieck.core.grid import LAST, Area, Axis, LineChange, LineMove
from dreieck.core.sheet.chart import Chart
from dreieck.core.values.style import Tone

MIN_SIZE, MAX_SIZE = 12, 2_000
"""How small and how large a column or row can be, in pixels."""
MAX_HEADINGS = 20
"""How many rows, or columns, can stay in view."""


@dataclass(frozen=True, slots=True)
class LineLook:
    """A column's width or a row's height in pixels, None for the usual; whether it is hidden."""

    size: int | None = None
    hidden: bool = False


USUAL = LineLook()


class LineRun(NamedTuple):
    """Columns or rows next to each other that look the same."""

    first: int
    last: int
    look: LineLook


@dataclass(frozen=True, slots=True)
class LineLooks:
    """How the columns, or the rows, of a sheet look.

    ``runs`` are those that do not look as usual, in order; runs that touch differ in look.
    """

    runs: tuple[LineRun, ...] = ()

    @classmethod
    def of(cls, runs: Iterable[tuple[int, int, LineLook]]) -> LineLooks:
        """The looks of some runs, which are in order and do not overlap."""
        joined: list[LineRun] = []
        for first, last, look in runs:
            if look == USUAL:
                continue
            before = joined[-1] if joined else None
            if before and before.last + 1 == first and before.look == look:
                joined[-1] = before._replace(last=last)
            else:
                joined.append(LineRun(first, last, look))
        return cls(tuple(joined))

    def at(self, number: int) -> LineLook:
        """How one column or row looks."""
        index = bisect_right(self.runs, number, key=lambda run: run.first) - 1
        return self.runs[index].look if index >= 0 and self.runs[index].last >= number else USUAL

    def between(self, first: int, last: int) -> Iterator[LineRun]:
        """All runs between two lines, the usual ones too."""
        for run in self.runs:
            if run.last < first:
                continue
            if run.first > last:
                break
            if run.first > first:
                yield LineRun(first, run.first - 1, USUAL)
            yield LineRun(max(run.first, first), min(run.last, last), run.look)
            first = run.last + 1
        if first <= last:
            yield LineRun(first, last, USUAL)

    def put(self, runs: Iterable[LineRun]) -> LineLooks:
        """The looks after some runs have been set."""
        found = self
        for run in runs:
            before = (each for each in found.between(1, run.first - 1))
            behind = (each for each in found.between(run.last + 1, _END))
            found = LineLooks.of((*before, run, *behind))
        return found

    def after(self, change: LineChange) -> LineLooks:
        """The looks when lines have come or gone; what comes within a run looks like it."""
        moved = ((change.span(run.first, run.last), run.look) for run in self.runs)
        found = LineLooks.of((*span, look) for span, look in moved if span)
        lines = change.lines
        if not change.comes or not found.at(lines.first).hidden:
            return found
        # What comes among hidden lines is there to be seen.
        between = found.between(lines.first, lines.last)
        return found.put(each._replace(look=replace(each.look, hidden=False)) for each in between)

    def moved(self, move: LineMove) -> LineLooks:
        """The looks when lines have moved: each goes along."""
        first, last = min(move.first, move.lines.first), max(move.before - 1, move.lines.last)
        found: list[LineRun] = []
        for low, high in (
            (move.lines.first, move.lines.last),
            (first, move.lines.first - 1),
            (move.lines.last + 1, last),
        ):
            steps = move.where(low) - low
            runs = self.between(low, high)
            found += [LineRun(run.first + steps, run.last + steps, run.look) for run in runs]
        return self.put(found)

    def next_shown(self, number: int, step: int) -> int:
        """The first line from ``number`` on that is not hidden, going by 1 or -1.

        0, or the number behind the last one of all axes, where there is none.
        """
        for run in self.runs if step > 0 else reversed(self.runs):
            if run.look.hidden and run.first <= number <= run.last:
                number = run.last + 1 if step > 0 else run.first - 1
        return number

    @property
    def hidden(self) -> list[tuple[int, int]]:
        """The first and the last line of each stretch that is hidden."""
        found: list[tuple[int, int]] = []
        for run in self.runs:
            if run.look.hidden:
                touches = found and found[-1][1] + 1 == run.first
                first = found.pop()[0] if touches else run.first
                found.append((first, run.last))
        return found


_END = max(LAST.values())


@dataclass(frozen=True, slots=True)
class Headings:
    """How many columns on the left and rows on top stay in view."""

    columns: int = 0
    rows: int = 0

    def on(self, axis: Axis) -> int:
        """How many columns, or rows."""
        return self.rows if axis == "row" else self.columns


@dataclass(frozen=True, slots=True)
class Rule:
    """A tone that the cells of an area take where a condition holds.

    The condition is a filled formula: ``shape`` is its shape in every cell of the area.
    """

    area: Area
    shape: Shape
    tone: Tone


@dataclass(frozen=True, slots=True)
class Layout:
    """All of a sheet that is not in its cells."""

    columns: LineLooks = LineLooks()
    rows: LineLooks = LineLooks()
    headings: Headings = Headings()
    rules: tuple[Rule, ...] = ()
    charts: tuple[Chart, ...] = ()

    @classmethod
    def wide(cls, widths: Mapping[int, int]) -> Layout:
        """The layout in which columns, in their order, have these widths in pixels."""
        return cls(LineLooks.of((at, at, LineLook(width)) for at, width in widths.items()))

    def on(self, axis: Axis) -> LineLooks:
        """How the columns, or the rows, look."""
        return self.rows if axis == "row" else self.columns

    def with_lines(self, axis: Axis, looks: LineLooks) -> Layout:
        """The layout with other columns, or rows."""
        return replace(self, rows=looks) if axis == "row" else replace(self, columns=looks)

    def after(self, change: LineChange) -> Layout:
        """The layout when lines have come or gone; rules and charts follow on their own."""
        axis = change.lines.axis
        found = self.with_lines(axis, self.on(axis).after(change))
        staying = self.headings.on(axis)
        span = change.span(1, staying) if staying else None
        end = min(span[1], MAX_HEADINGS) if span else 0
        return replace(found, headings=replace(self.headings, **{f"{axis}s": end}))


PLAIN_LAYOUT = Layout()
