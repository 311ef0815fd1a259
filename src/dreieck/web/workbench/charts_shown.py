"""Charts as the grid draws them: where each one lies, and what it shows."""

from __future__ import annotations

from pydantic import BaseModel

from dreieck.core.budget import current
from dreieck.core.calculate import Calculation
from dreieck.core.charts.charted import Charted, Mark, Tick, charted
from dreieck.core.formula.printer import place_text
from dreieck.core.grid import Area
from dreieck.core.sheet.chart import Chart, Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.web.workbench.once import once
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.window import Box, Window, box_of


class MarkShown(BaseModel):
    """A number in a chart, what shows it, and the cell that choosing it selects."""

    value: float | None
    across: float | None
    text: str
    place: str


class SeriesShown(BaseModel):
    """Numbers that belong together."""

    name: str
    marks: list[MarkShown]


class ChartDrawn(BaseModel):
    """What a chart shows; ``ticks`` are numbers on its axes with their texts."""

    kind: Kind
    title: str
    label_title: str
    value_title: str
    labels: list[str]
    series: list[SeriesShown]
    upward: list[tuple[float, str]]
    across: list[tuple[float, str]]
    problem: str


class ChartShown(BaseModel):
    """A chart in view; ``drawn`` is None where the page has it just so, or it has to wait."""

    number: int
    place: Area
    box: Box
    drawn: ChartDrawn | None


def charts_in_view(situation: Situation, in_view: Window) -> list[ChartShown]:
    """The charts of the shown sheet that are in view."""
    sheet, state = situation.sheet, situation.state
    found: list[ChartShown] = []
    for chart in sheet.layout.charts:
        box = box_of(state, sheet.layout, in_view, chart.place)
        if box:
            hurried = current().hurried
            drawn = None if hurried else _drawn_once(situation, chart)
            found.append(ChartShown(number=chart.number, place=chart.place, box=box, drawn=drawn))
    return found


def what_is_charted(situation: Situation, chart: Chart) -> Charted:
    """What a chart shows; as long as nothing is tried or rehearsed, looked up once."""

    def look_up() -> Charted:
        return charted(situation.calculation, situation.sheet, chart)

    if situation.calculation is not situation.opened.calculation:
        return look_up()
    key = ("chart", situation.sheet.id, chart)
    return once(situation.opened, key, look_up, keep=lambda found: found.whole)


def _drawn_once(situation: Situation, chart: Chart) -> ChartDrawn:
    """What the page draws of a chart, made once as long as nothing is tried or rehearsed."""
    shown = what_is_charted(situation, chart)
    if situation.calculation is not situation.opened.calculation or not shown.whole:
        return _drawn(chart, shown)
    key = ("drawn", situation.sheet.id, chart)
    return once(situation.opened, key, lambda: _drawn(chart, shown))


def drawn_chart(calculation: Calculation, sheet: Sheet, chart: Chart) -> ChartDrawn:
    """What a page draws of a chart that is not in a grid."""
    return _drawn(chart, charted(calculation, sheet, chart))


def _drawn(chart: Chart, shown: Charted) -> ChartDrawn:
    return ChartDrawn(
        kind=chart.kind,
        title=shown.title,
        label_title=shown.label_title,
        value_title=shown.value_title,
        labels=list(shown.labels),
        series=[
            SeriesShown(name=each.name, marks=[_mark(mark) for mark in each.marks])
            for each in shown.series
        ],
        upward=_ticks(shown.upward),
        across=_ticks(shown.across),
        problem=shown.problem,
    )


def _mark(mark: Mark) -> MarkShown:
    return MarkShown(
        value=mark.value, across=mark.across, text=mark.text, place=place_text(mark.place)
    )


def _ticks(ticks: tuple[Tick, ...]) -> list[tuple[float, str]]:
    return [(tick.value, tick.text) for tick in ticks]
