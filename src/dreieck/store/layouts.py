"""Layouts of sheets as JSON, and back."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import asdict
from typing import Any

from dreieck.core.grid import Area
from dreieck.core.sheet.chart import Chart, Source
from dreieck.core.sheet.layout import Headings, Layout, LineLook, LineLooks, Rule
from dreieck.store.shapes import NumberOf, ShapeOf


def layout_text(layout: Layout, number_of: NumberOf) -> str:
    """A layout as the text of a column."""
    return json.dumps(layout_said(layout, number_of), separators=(",", ":"))


def layout_said(layout: Layout, number_of: NumberOf) -> dict[str, Any]:
    """A layout as JSON; what is as usual is left out."""
    headings = layout.headings
    said = {
        "columns": _lines_said(layout.columns),
        "rows": _lines_said(layout.rows),
        "headings": None if headings == Headings() else [headings.columns, headings.rows],
        "rules": rules_said(layout.rules, number_of),
        "charts": charts_said(layout.charts),
    }
    return {key: value for key, value in said.items() if value}


def layout_of(said: dict[str, Any], shape_of: ShapeOf) -> Layout:
    """The layout that ``layout_said`` said."""
    return Layout(
        _lines_of(said.get("columns", ())),
        _lines_of(said.get("rows", ())),
        Headings(*said.get("headings", ())),
        rules_of(said.get("rules", ()), shape_of),
        charts_of(said.get("charts", ())),
    )


def rules_said(rules: Iterable[Rule], number_of: NumberOf) -> list[list[Any]]:
    """Rules as JSON: area, number of the shape, tone."""
    return [
        [list(area), number_of(shape, shape.home.first if shape.home else area.first), tone]
        for area, shape, tone in ((rule.area, rule.shape, rule.tone) for rule in rules)
    ]


def rules_of(said: Iterable[list[Any]], shape_of: ShapeOf) -> tuple[Rule, ...]:
    """The rules that ``rules_said`` said."""
    return tuple(Rule(Area(*area), shape_of(number), tone) for area, number, tone in said)


def charts_said(charts: Iterable[Chart]) -> list[dict[str, Any]]:
    """Charts as JSON."""
    return [
        asdict(chart)
        | {"sources": [[sheet, *area] for sheet, area in chart.sources], "place": [*chart.place]}
        for chart in charts
    ]


def charts_of(said: Iterable[dict[str, Any]]) -> tuple[Chart, ...]:
    """The charts that ``charts_said`` said."""
    return tuple(
        Chart(
            **each
            | {
                "sources": tuple(Source(sheet, Area(*area)) for sheet, *area in each["sources"]),
                "place": Area(*each["place"]),
            }
        )
        for each in said
    )


def _lines_said(looks: LineLooks) -> list[list[Any]]:
    return [[run.first, run.last, run.look.size, run.look.hidden] for run in looks.runs]


def _lines_of(said: Iterable[list[Any]]) -> LineLooks:
    return LineLooks.of(
        (first, last, LineLook(size, hidden)) for first, last, size, hidden in said
    )
