"""Charts: drawn from the selection, chosen, changed, placed and deleted."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.editing import charting
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import CROSSING, Area
from dreieck.core.sheet.chart import MAX_CHART_TITLE, Chart, Kind
from dreieck.core.sheet.edits import SetCharts
from dreieck.web.workbench.actions.context import Context, Steps, To, action
from dreieck.web.workbench.page_state import Number


class Which(BaseModel):
    """A chart by its number."""

    number: Number = 0


class Placed(Which, To):
    """A chart, and the cells that it is to stand over."""


class OfKind(BaseModel):
    """How a chart shows its numbers."""

    kind: Kind = "columns"


class Switch(BaseModel):
    """Whether the first cells name series, or the first series labels points."""

    switch: Literal["names", "labels"] = "names"


class Titled(BaseModel):
    """A title, and what it is for; an empty one is told by headings."""

    which: Literal["title", "label_title", "value_title"] = "title"
    says: str = Field("", max_length=MAX_CHART_TITLE)


@action()
def draw_chart(context: Context) -> str:
    """Draw a chart of the selection."""
    state, sheet = context.state, context.sheet
    if state.text is not None or state.target:
        raise DreieckError("Keep or drop what is written first, then draw a chart.")
    edit = charting.drawn(context.opened.calculation, sheet, state.places)
    context.change("chart", edit)
    _choose(context, edit.charts[-1])
    return "The chart follows its cells. Choosing a mark selects the cell that it comes from."


@action()
def choose_chart(context: Context, wish: Which) -> str:
    """Choose a chart, to look at it and to change it."""
    state = context.state
    state.chart = charting.chart_of(context.sheet, wish.number).number
    state.stop_trying()
    return ""


@action()
def next_chart(context: Context) -> str:
    """Choose the next chart of the sheet, and bring it into view."""
    charts = context.sheet.layout.charts
    if not charts:
        raise DreieckError("There is no chart here yet. Select numbers and draw one: Alt + P.")
    numbers = [chart.number for chart in charts]
    chosen = context.state.chart
    at = numbers.index(chosen) + 1 if chosen in numbers else 0
    _choose(context, charts[at % len(charts)])
    return ""


@action()
def chart_kind(context: Context, wish: OfKind) -> str:
    """Let the chosen chart show its numbers in another way."""
    calculation, sheet = context.opened.calculation, context.sheet
    return _keep(context, charting.of_kind(calculation, sheet, _chosen(context), wish.kind))


@action()
def turn_chart(context: Context) -> str:
    """Let rows be the series of the chosen chart instead of columns, or the other way round."""
    chart = _chosen(context)
    turned = replace(chart, series=CROSSING[chart.series], names=chart.labels, labels=chart.names)
    return _change(context, turned)


@action()
def switch_chart(context: Context, wish: Switch) -> str:
    """Let the first cells of the chosen chart be headings, or numbers like the others."""
    chart = _chosen(context)
    if wish.switch == "names":
        return _change(context, replace(chart, names=not chart.names))
    return _change(context, replace(chart, labels=not chart.labels))


@action()
def title_chart(context: Context, wish: Titled) -> str:
    """Give the chosen chart, or one of its axes, a title."""
    chart, says = _chosen(context), wish.says.strip()
    if wish.which == "title":
        return _change(context, replace(chart, title=says))
    if wish.which == "label_title":
        return _change(context, replace(chart, label_title=says))
    return _change(context, replace(chart, value_title=says))


@action()
def chart_cells(context: Context, wish: To) -> str:
    """Let the chosen chart show other cells; without a text those that are selected."""
    chart, opened = _chosen(context), context.opened
    if wish.to.strip():
        sources = charting.sources_typed(opened.workbook, wish.to)
    else:
        sources = charting.sources_of(context.sheet, context.state.places)
    edit = charting.reshown(opened.calculation, context.sheet, chart, sources)
    context.change("cells of a chart", edit)
    return f"The chart shows {charting.sources_text(sources)} now."


@action()
def place_chart(context: Context, wish: Placed) -> str:
    """Let a chart stand over other cells."""
    number = wish.number or context.state.chart
    chart = charting.chart_of(context.sheet, number)
    context.state.chart = number
    return _keep(context, charting.placed(context.sheet, chart, Area.parse(wish.to)))


@action()
def step_chart(context: Context, wish: Steps) -> str:
    """Let the chosen chart stand one cell further, or end there."""
    chart = _chosen(context)
    place = charting.stepped(chart, wish.columns, wish.rows, grows=wish.widen)
    return _keep(context, charting.placed(context.sheet, chart, place))


@action()
def delete_chart(context: Context) -> str:
    """Delete the chosen chart."""
    context.change("deleting a chart", charting.removed(context.sheet, _chosen(context)))
    context.state.chart = 0
    return "The chart is gone. Ctrl+Z brings it back."


def _chosen(context: Context) -> Chart:
    if not context.state.chart:
        raise DreieckError("Choose a chart first: with Alt + Q, or with the pointer.")
    return charting.chart_of(context.sheet, context.state.chart)


def _choose(context: Context, chart: Chart) -> None:
    state = context.state
    state.stop_trying()
    state.chart, state.step, state.reveal = chart.number, "", chart.place.last.text


def _change(context: Context, chart: Chart) -> str:
    return _keep(context, charting.changed(context.sheet, chart))


def _keep(context: Context, edit: SetCharts) -> str:
    if edit.charts != context.sheet.layout.charts:
        context.change("chart", edit)
    return ""
