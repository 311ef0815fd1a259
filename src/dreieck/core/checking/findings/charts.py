"""The rule about numbers that go on next to what a chart shows."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.calculate import Calculation
from dreieck.core.charts.charted import MAX_SERIES, title_of
from dreieck.core.charts.strands import Strand, Strands, parts_of
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.ranges import goes_on
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.editing.charting import changed, sources_text
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import CROSSING, LAST, Area
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import listed

_MOST = 1_000
_RULE = "chart-misses"


@sheet_rule(_RULE)
def chart_findings(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """The findings about charts, on whatever sheet they stand, that show cells of a sheet."""
    for home in calculation.sheets():
        for chart in home.layout.charts:
            found = missed_by(calculation, home, chart)
            if found and found.sheet == sheet.name:
                yield found


def missed_by(calculation: Calculation, home: Sheet, chart: Chart) -> Finding | None:
    """What a chart on the sheet ``home`` leaves out at the ends of its series."""
    try:
        parts = parts_of(calculation.workbook, home, chart.sources)
        lines = Strands(parts, chart.series)
    except DreieckError:
        return None
    axis = CROSSING[chart.series]
    spans = {part.area.on(axis) for part in parts}
    whole = any(area.length(axis) == LAST[axis] for _, area in chart.sources)
    if len(spans) != 1 or whole or not lines.single:
        return None
    low, high = next(iter(spans))
    begin = 1 if chart.labels and len(lines) > 1 else 0
    shown = lines[begin : begin + MAX_SERIES]
    behind = _going_on(calculation, shown, 1)
    before = 0 if chart.names else _going_on(calculation, shown, -1)
    if not before and not behind:
        return None
    sources = tuple(
        each._replace(area=each.area.spanning(axis, low - before, high + behind))
        for each in chart.sources
    )
    missed: list[Area] = []
    for part in parts:
        missed += [part.area.spanning(axis, high + 1, high + behind)] * bool(behind)
        missed += [part.area.spanning(axis, low - before, low - 1)] * bool(before)
    now, after = sources_text(chart.sources), sources_text(sources)
    edit = changed(home, replace(chart, sources=sources))
    return Finding(
        "doubt",
        parts[0].sheet.name,
        tuple(missed),
        f"The chart “{title_of(calculation, home, chart)}” shows {now}, but not"
        f" {listed(missed)}, where numbers go on.",
        "Numbers next to those in a chart usually belong to it: a row added later is easily"
        " missed.",
        mends=(Mend(f"let the chart show {after}", now, after, (edit,)),),
        rule=_RULE,
    )


def _going_on(calculation: Calculation, lines: list[Strand], step: int) -> int:
    """How many cells further every series goes on with numbers of its sort."""
    count = 0
    while count < _MOST and all(_goes_on(calculation, line, (count + 1) * step) for line in lines):
        count += 1
    return count


def _goes_on(calculation: Calculation, line: Strand, steps: int) -> bool:
    sheet, area = line.parts[0]
    inside = area.last if steps > 0 else area.first
    cell = inside.step(line.axis, steps)
    return cell.on_sheet and goes_on(calculation, sheet, inside, cell, area)
