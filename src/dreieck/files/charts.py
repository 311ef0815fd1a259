"""Charts as files tell them, series by series, and ours, which are told by areas."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from dreieck.core.calculate import Calculation
from dreieck.core.charts.charted import MAX_SERIES, title_of
from dreieck.core.charts.strands import Strand, Strands, parts_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import CROSSING, Area, Axis
from dreieck.core.sheet.chart import MAX_CHART_TITLE, Chart, Kind, Source
from dreieck.core.sheet.sheet import Sheet


class Stretch(NamedTuple):
    """Cells in a line on a sheet."""

    sheet: str
    area: Area

    @classmethod
    def parse(cls, text: str) -> Stretch | None:
        """The cells that a reference in a chart reads; None where they are in no line."""
        sheet, address = split_sheet(text.strip().replace("$", ""))
        try:
            area = Area.parse(address)
        except DreieckError:
            return None
        return cls(sheet, area) if sheet and 1 in (area.width, area.height) else None


class Line(NamedTuple):
    """One series: the cell that names it, what labels its points, and its numbers."""

    name: Stretch | None
    labels: Stretch | None
    numbers: Stretch


class Told(NamedTuple):
    """A chart as a file tells it; an empty title is none."""

    kind: Kind
    lines: Sequence[Line]
    place: Area
    title: str = ""
    label_title: str = ""
    value_title: str = ""


def told(calculation: Calculation, home: Sheet, chart: Chart) -> Told | None:
    """A chart, series by series; None where that cannot be."""
    try:
        strands = Strands(parts_of(calculation.workbook, home, chart.sources), chart.series)
        title = title_of(calculation, home, chart)
    except (DreieckError, IndexError):
        return None
    if any(len(each.parts) != 1 for each in strands[:1]):
        return None
    labels = strands[0] if chart.labels and len(strands) > 1 else None
    lines = strands[1 if labels else 0 :][:MAX_SERIES]
    first = 1 if chart.names and max(map(len, lines), default=0) > 1 else 0
    return Told(
        chart.kind,
        [
            Line(
                _cut(line, 0, 1) if first else None,
                _cut(labels, first) if labels else None,
                _cut(line, first),
            )
            for line in lines
        ],
        chart.place,
        *(_plain(text) for text in (title, chart.label_title, chart.value_title)),
    )


def _plain(text: str) -> str:
    """A title in one line, with nothing that cannot be told."""
    return " ".join("".join(c if c.isprintable() else " " for c in text).split())


def _cut(strand: Strand, first: int, end: int | None = None) -> Stretch:
    sheet, area = strand.parts[0]
    length = area.size if end is None else end
    start = area.first.step(strand.axis, first)
    return Stretch(sheet.name, Area.spanned(start, area.first.step(strand.axis, length - 1)))


def charted(told: Told, home: str, number: int) -> Chart | None:
    """The chart of a sheet that shows these series; None where we have no such chart."""
    axis = _axis(told.lines)
    if axis is None:
        return None
    along = CROSSING[axis]
    names = all(line.name and _in_front(line.name, line.numbers, along) for line in told.lines)
    labels = {line.labels for line in told.lines}
    label = labels.pop() if len(labels) == 1 else None
    lines = [line.numbers for line in told.lines]
    spans = {stretch.area.on(along) for stretch in lines}
    if len(spans) != 1 or labels or (not names and any(line.name for line in told.lines)):
        return None
    if label and (label.area.on(along) not in spans or label.area.length(axis) != 1):
        return None
    stretches = [label, *lines] if label else lines
    if names:
        first, last = spans.pop()
        if first == 1:
            return None
        stretches = [
            each._replace(area=each.area.spanning(along, first - 1, last)) for each in stretches
        ]
    sources = tuple(
        Source(None if each.sheet == home else each.sheet, each.area)
        for each in _joined(stretches, axis)
    )
    titles = (text[:MAX_CHART_TITLE] for text in (told.title, told.label_title, told.value_title))
    return Chart(number, told.kind, sources, axis, names, label is not None, told.place, *titles)


def without_told_title(calculation: Calculation, home: Sheet, chart: Chart) -> Chart:
    """The chart without a title that is what it is called anyway."""
    plain = Chart(**{name: getattr(chart, name) for name in chart.__slots__} | {"title": ""})
    try:
        same = _plain(title_of(calculation, home, plain))[:MAX_CHART_TITLE] == chart.title
    except (DreieckError, IndexError):
        same = False
    return plain if same else chart


def _axis(lines: Sequence[Line]) -> Axis | None:
    """Whether each series is a column or a row; None where they are mixed, or none is there."""
    areas = [line.numbers.area for line in lines]
    if not areas:
        return None
    if all(area.width == 1 for area in areas):
        one = areas[0].height == 1 and lines[0].name
        if not one or (lines[0].name and lines[0].name.area.left == areas[0].left):
            return "column"
    return "row" if all(area.height == 1 for area in areas) else None


def _in_front(name: Stretch, numbers: Stretch, along: Axis) -> bool:
    """Whether a name stands right in front of its numbers."""
    area = numbers.area
    return (
        name.sheet == numbers.sheet
        and name.area.size == 1
        and name.area.on(CROSSING[along]) == area.on(CROSSING[along])
        and name.area.on(along)[1] + 1 == area.on(along)[0]
    )


def _joined(stretches: Iterable[Stretch], axis: Axis) -> list[Stretch]:
    """Those that stand side by side as one."""
    found: list[Stretch] = []
    for each in stretches:
        before = found[-1] if found else None
        if (
            before
            and before.sheet == each.sheet
            and before.area.on(CROSSING[axis]) == each.area.on(CROSSING[axis])
            and before.area.on(axis)[1] + 1 == each.area.on(axis)[0]
        ):
            found[-1] = before._replace(area=before.area.around(each.area))
        else:
            found.append(each)
    return found
