"""The chosen chart in the panel: what it shows, as a table too, and what can be changed."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice
from typing import get_args

from dreieck.core.charts.charted import Charted
from dreieck.core.checking.findings import missed_by
from dreieck.core.editing.charting import sources_text
from dreieck.core.formula.printer import place_text
from dreieck.core.sheet.chart import Chart, Kind, chart_numbered
from dreieck.core.words.counting import addresses
from dreieck.web.workbench.charts_shown import what_is_charted
from dreieck.web.workbench.findings_shown import Found, shown
from dreieck.web.workbench.situation import Situation

KINDS: tuple[Kind, ...] = get_args(Kind)
_LISTED = 60


@dataclass(frozen=True)
class ChartCard:
    """The chosen chart; ``rows`` are its labels with what each series shows there.

    ``other`` is the selection, if the chart could show that instead.
    """

    chart: Chart
    shown: Charted
    kinds: tuple[Kind, ...]
    cells: str
    other: str
    rows: list[tuple[str, list[tuple[str, str]]]]
    more: int
    findings: list[Found]


def chart_card(situation: Situation) -> ChartCard | None:
    """The chosen chart, unless something is written or rehearsed."""
    sheet, state = situation.sheet, situation.state
    chart = chart_numbered(sheet.layout.charts, state.chart)
    if not chart or situation.writing or situation.rehearsing:
        return None
    found = what_is_charted(situation, chart)
    cells, other = sources_text(chart.sources), addresses(state.places)
    missed = missed_by(situation.calculation, sheet, chart)
    return ChartCard(
        chart,
        found,
        KINDS,
        cells,
        other if other != cells and situation.selection.size > 1 else "",
        list(islice(_rows(found), _LISTED)),
        max(len(found.labels) - _LISTED, 0),
        [shown(missed)] if missed else [],
    )


def _rows(found: Charted) -> list[tuple[str, list[tuple[str, str]]]]:
    """Each label with the text and the place of every mark that belongs to it."""
    return [
        (label, [(each.marks[at].text, place_text(each.marks[at].place)) for each in found.series])
        for at, label in enumerate(found.labels)
    ]
