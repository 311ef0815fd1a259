"""Charts: drawn from a selection, changed, placed and taken away."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace

from dreieck.core.calculate import Calculation
from dreieck.core.charts.proposing import around, proposed
from dreieck.core.charts.strands import Strands, parts_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, mentions
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import AXES, LAST, MAX_COLUMN, Area, Cell
from dreieck.core.sheet.chart import Chart, Kind, Source, chart_numbered, free_number
from dreieck.core.sheet.edits import SetCharts
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.tables.lines import without_closing

MAX_CHARTS = 20
"""How many charts a sheet can have."""
MAX_SOURCES = 40
_WIDTH, _HEIGHT = 5, 11
"""How many columns and rows a new chart covers."""
_MAX_ACROSS, _MAX_DOWN = 60, 200


def drawn(calculation: Calculation, sheet: Sheet, areas: Sequence[Area]) -> SetCharts:
    """Draw a chart of what is selected; of one cell with all that hangs together with it.

    It stands beside what is filled, below the headings that stay in view. Raises DreieckError.
    """
    charts = sheet.layout.charts
    if len(charts) >= MAX_CHARTS:
        raise DreieckError(f"A sheet can have {MAX_CHARTS} charts. Delete one of them first.")
    sources = sources_of(sheet, areas)
    parts = parts_of(calculation.workbook, sheet, sources)
    kind, series, names, labels = proposed(calculation, parts)
    chart = Chart(
        free_number(charts), kind, sources, series, names, labels, _free_place(sheet, areas)
    )
    return SetCharts(sheet.id, (*charts, chart))


def sources_of(sheet: Sheet, areas: Sequence[Area]) -> tuple[Source, ...]:
    """The places of a sheet as sources of a chart on it. Raises DreieckError."""
    if len(areas) > MAX_SOURCES:
        raise DreieckError(f"A chart can show {MAX_SOURCES} places.")
    if len(areas) == 1 and areas[0].size == 1:
        areas = [_shown(sheet, around(sheet, areas[0].first))]
    if not any(sheet.count(area) for area in areas):
        raise DreieckError("There is nothing to draw here. Select numbers, with their headings.")
    return tuple(Source(None, area) for area in areas)


def _shown(sheet: Sheet, table: Area) -> Area:
    """What of a table a chart shows: totals would dwarf what they are made of."""
    for axis in AXES:
        body = without_closing(sheet, table, axis)
        if any(isinstance(each, float | Shape) for _, each in sheet.filled(body)):
            table = body
    return table


def sources_text(sources: Iterable[Source]) -> str:
    """Sources as ``sources_typed`` reads them."""
    return ", ".join(area_text(area, name) for name, area in sources)


def sources_typed(workbook: Workbook, text: str) -> tuple[Source, ...]:
    """The sources that a text names, such as ``A4:A9, Season!C4:C9``.

    Raises DreieckError, AddressError.
    """
    found = mentions("=" + text, Cell(1, 1))
    rest = "=" + text
    for mention in reversed(found):
        rest = mention.replaced(rest, "")
    areas = [(each.reference.sheet, each.reference.area(Cell(1, 1))) for each in found]
    if not areas or set(rest) - set("=,; ") or len(areas) > MAX_SOURCES:
        raise DreieckError("A chart shows cells, such as A4:B15, or A4:A15, C4:C15.")
    sheets = (sheet and workbook.sheet(sheet).name for sheet, _ in areas)
    return tuple(
        Source(sheet, area) for sheet, (_, area) in zip(sheets, areas, strict=True) if area
    )


def reshown(
    calculation: Calculation, sheet: Sheet, chart: Chart, sources: tuple[Source, ...]
) -> SetCharts:
    """Let a chart show other cells; which way its series run is told anew.

    Raises DreieckError.
    """
    parts = parts_of(calculation.workbook, sheet, sources)
    _, series, names, labels = proposed(calculation, parts)
    return changed(
        sheet, replace(chart, sources=sources, series=series, names=names, labels=labels)
    )


def of_kind(calculation: Calculation, sheet: Sheet, chart: Chart, kind: Kind) -> SetCharts:
    """Let a chart show its numbers in another way; points stand across by their first series."""
    if "points" in (chart.kind, kind) and chart.kind != kind:
        parts = parts_of(calculation.workbook, sheet, chart.sources)
        labels = len(Strands(parts, chart.series)) > 1
        if kind != "points":
            labels = proposed(calculation, parts).labels
        chart = replace(chart, labels=labels)
    return changed(sheet, replace(chart, kind=kind))


def changed(sheet: Sheet, chart: Chart) -> SetCharts:
    """Put a chart in place of the one with its number."""
    charts = sheet.layout.charts
    numbers = [each.number for each in charts]
    at = numbers.index(chart.number)
    return SetCharts(sheet.id, (*charts[:at], chart, *charts[at + 1 :]))


def placed(sheet: Sheet, chart: Chart, place: Area) -> SetCharts:
    """Let a chart stand over other cells. Raises DreieckError where they are too many."""
    if place.width > _MAX_ACROSS or place.height > _MAX_DOWN:
        raise DreieckError(
            f"A chart can stand over {_MAX_ACROSS} columns and {_MAX_DOWN} rows at the most."
        )
    return changed(sheet, replace(chart, place=place))


def stepped(chart: Chart, columns: int, rows: int, *, grows: bool) -> Area:
    """Where a chart stands that goes so many columns and rows further, or grows by them."""
    place = chart.place
    for axis, steps in zip(AXES, (columns, rows), strict=True):
        first, last = place.on(axis)
        if grows:
            place = place.spanning(axis, first, min(max(last + steps, first), LAST[axis]))
        else:
            moved = min(max(steps, 1 - first), LAST[axis] - last)
            place = place.spanning(axis, first + moved, last + moved)
    return place


def removed(sheet: Sheet, chart: Chart) -> SetCharts:
    """Take a chart away."""
    charts = sheet.layout.charts
    return SetCharts(sheet.id, tuple(each for each in charts if each.number != chart.number))


def chart_of(sheet: Sheet, number: int) -> Chart:
    """The chart with this number. Raises DreieckError where there is none by now."""
    chart = chart_numbered(sheet.layout.charts, number)
    if chart is None:
        raise DreieckError("This chart is no longer there.")
    return chart


def _free_place(sheet: Sheet, areas: Sequence[Area]) -> Area:
    """A place to the right of what is filled and of other charts beside it."""
    used = sheet.used()
    top = max(min(area.top for area in areas), sheet.layout.headings.rows + 1)
    left = min((used.right if used else 0) + 2, MAX_COLUMN - _WIDTH + 1)
    place = Area(left, top, left + _WIDTH - 1, top + _HEIGHT - 1)
    for chart in sorted(sheet.layout.charts, key=lambda each: each.place.top):
        if chart.place.common(place):
            below = chart.place.bottom + 2
            place = place._replace(top=below, bottom=below + _HEIGHT - 1)
    return place
