"""What a chart shows: its series with the cell of each mark, its labels, titles and axes."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from dreieck.core.calculate import Calculation, look_at
from dreieck.core.charts.scale import decimals_of, ticks
from dreieck.core.charts.strands import Strand, Strands, parts_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import UNFINISHED, Place, Value
from dreieck.core.values.formats import format_named
from dreieck.core.values.look import PLAIN, Look, shown_text
from dreieck.core.words.headings import heading_above

MAX_SERIES = 24
MAX_MARKS = 2_400
"""More marks than these are not told apart on a screen."""
_FROM_ZERO = ("columns", "bars", "stacked", "areas")
_ROOM = 24


class Mark(NamedTuple):
    """A number in a chart: the text that shows it, and the cell that it comes from.

    ``value`` is None where the cell holds no number; ``across`` is where a point stands.
    """

    value: float | None
    text: str
    place: Place
    across: float | None = None


class Series(NamedTuple):
    """Numbers that belong together."""

    name: str
    marks: tuple[Mark, ...]


class Tick(NamedTuple):
    """A round number on an axis."""

    value: float
    text: str


@dataclass(frozen=True, slots=True)
class Charted:
    """What a chart shows.

    ``upward`` are the ticks of the numbers, ``across`` those of points. Where there is a
    ``problem`` nothing can be shown; a ``note`` tells what is left out. It is not ``whole``
    where some values had to wait.
    """

    title: str = ""
    label_title: str = ""
    value_title: str = ""
    labels: tuple[str, ...] = ()
    series: tuple[Series, ...] = ()
    upward: tuple[Tick, ...] = ()
    across: tuple[Tick, ...] = ()
    note: str = ""
    problem: str = ""
    whole: bool = True


def charted(calculation: Calculation, home: Sheet, chart: Chart) -> Charted:
    """What a chart on the sheet ``home`` shows."""
    try:
        parts = parts_of(calculation.workbook, home, chart.sources)
        lines = Strands(parts, chart.series)
    except DreieckError as error:
        return Charted(title=chart.title, problem=str(error))
    if not lines:
        return Charted(title=chart.title, problem="The cells that it showed have been deleted.")
    return _Reader(calculation, chart, lines).read()


def title_of(calculation: Calculation, home: Sheet, chart: Chart) -> str:
    """The title of a chart that can be shown, without reading its numbers. Raises DreieckError."""
    lines = Strands(parts_of(calculation.workbook, home, chart.sources), chart.series)
    return _Reader(calculation, chart, lines).title()


class _Reader:
    """Reads the strands of a chart."""

    def __init__(self, calculation: Calculation, chart: Chart, lines: Strands) -> None:
        self.calculation = calculation
        self.chart = chart
        self.locale = calculation.workbook.locale
        self.labels = lines[0] if chart.labels and len(lines) > 1 else None
        begin = 1 if self.labels else 0
        most = 1 if chart.kind == "shares" else MAX_SERIES
        self.lines = lines[begin : begin + most]
        self.left_out = len(lines) - begin - len(self.lines)
        self.whole = True
        count = max((len(line) for line in self.lines), default=0)
        self.first = 1 if chart.names and count > 1 else 0
        step = math.ceil((count - self.first) * len(self.lines) / MAX_MARKS) or 1
        self.indexes = range(self.first, count, step)

    def read(self) -> Charted:
        chart = self.chart
        labels = tuple(self.label(index) for index in self.indexes)
        series = tuple(self.series(line, number) for number, line in enumerate(self.lines, 1))
        first = self.lines[0].place(self.first)
        numbers = [mark.value for each in series for mark in each.marks if mark.value is not None]
        if not numbers:
            problem = "There is no number in the cells that it shows."
            return Charted(title=self.title(), problem=problem, whole=self.whole)
        if chart.kind == "shares":
            series = tuple(_as_shares(each, self.locale) for each in series)
        reached = [*_stacked(series)] if chart.kind == "stacked" else numbers
        upward = self.ticks(reached, first, from_zero=chart.kind in _FROM_ZERO)
        across: tuple[Tick, ...] = ()
        if chart.kind == "points":
            marks = (mark for each in series for mark in each.marks)
            stand = [mark.across for mark in marks if mark.across is not None]
            across = self.ticks(stand, self.labels and self.labels.place(self.first))
        return Charted(
            title=self.title(),
            label_title=chart.label_title or self.heading(self.labels),
            value_title=chart.value_title or (series[0].name if len(series) == 1 else ""),
            labels=labels,
            series=series,
            upward=upward,
            across=across,
            note=self.note(),
            whole=self.whole,
        )

    def title(self) -> str:
        """The title: what stands above the cells, else the name of the only series."""
        if self.chart.title:
            return self.chart.title
        first = (self.labels or self.lines[0]).place(0)
        above = heading_above(
            self.calculation.workbook.sheet(first.sheet), first.cell, titles=True
        )
        return above or (self.name(self.lines[0], 1) if len(self.lines) == 1 else first.sheet)

    def heading(self, line: Strand | None) -> str:
        """What the first cell of a strand says, where that names it."""
        return self.shown(line.place(0))[1] if line and self.first else ""

    def name(self, line: Strand, number: int) -> str:
        return self.heading(line) or f"series {number}"

    def series(self, line: Strand, number: int) -> Series:
        marks = tuple(self.mark(line, index) for index in self.indexes)
        return Series(self.name(line, number), marks)

    def mark(self, line: Strand, index: int) -> Mark:
        place = line.place(index)
        value, text = self.shown(place)
        across: float | None = None
        if self.chart.kind == "points":
            counted = float(index + 1 - self.first)
            across = _number(self.shown(self.labels.place(index))[0] if self.labels else counted)
        number = _number(value)
        if self.chart.kind == "points" and across is None:
            number = None
        return Mark(number, text, place, across)

    def label(self, index: int) -> str:
        if self.labels:
            return self.shown(self.labels.place(index))[1]
        return str(index + 1 - self.first)

    def shown(self, place: Place) -> tuple[Value, str]:
        """A value, and the text that shows it."""
        value = self.calculation.value(*place)
        if value is UNFINISHED:
            self.whole = False
            return None, "…"
        return value, shown_text(value, self.look(place), _ROOM, self.locale)

    def look(self, place: Place) -> Look:
        sheet = self.calculation.workbook.sheet(place.sheet)
        return look_at(sheet, place.cell)

    def ticks(
        self, numbers: Sequence[float], first: Place | None, *, from_zero: bool = False
    ) -> tuple[Tick, ...]:
        """Round numbers, shown as the first cell shows its number, only not finer than needed."""
        look = self.look(first) if first else PLAIN
        found = ticks(numbers, from_zero=from_zero)
        if format_named(look.form).takes_decimals:
            finer = 2 if look.form == "percent" else 0
            look = replace(look, decimals=max(decimals_of(found) - finer, 0))
        if look.form == "scientific":
            look = replace(look, decimals=None)
        shown = (shown_text(float(each), look, _ROOM, self.locale) for each in found)
        return tuple(Tick(float(each), text) for each, text in zip(found, shown, strict=True))

    def note(self) -> str:
        said: list[str] = []
        if self.left_out:
            shown = "the first" if len(self.lines) == 1 else f"the first {len(self.lines)}"
            said.append(f"Of {len(self.lines) + self.left_out} series {shown} can be shown.")
        if self.indexes.step > 1:
            said.append(f"Every {self.indexes.step}th of the marks is drawn.")
        return " ".join(said)


def _number(value: object) -> float | None:
    if isinstance(value, bool) or not isinstance(value, int | float):
        return None
    return float(value) if math.isfinite(value) else None


def _as_shares(series: Series, locale: str) -> Series:
    """A series whose texts tell the share of each number; what is below 0 has none."""
    total = sum(mark.value for mark in series.marks if mark.value and mark.value > 0)

    def shared(mark: Mark) -> Mark:
        if not mark.value or mark.value < 0 or not total:
            return mark._replace(value=None)
        share = shown_text(mark.value / total, Look("percent", 1), locale=locale)
        return mark._replace(text=f"{mark.text}, {share}")

    return series._replace(marks=tuple(map(shared, series.marks)))


def _stacked(series: Iterable[Series]) -> Iterator[float]:
    """How far stacks reach up, and down."""
    for marks in zip(*(each.marks for each in series), strict=True):
        values = [mark.value for mark in marks if mark.value is not None]
        yield sum(value for value in values if value > 0)
        yield sum(value for value in values if value < 0)
