"""A chart: what it shows, how, and over which cells of its sheet it stands."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

from dreieck.core.grid import Area, Axis

Kind = Literal["columns", "bars", "stacked", "lines", "areas", "points", "shares"]
MAX_CHART_TITLE = 120
"""How many characters a title can have."""


class Source(NamedTuple):
    """Cells that a chart shows; ``sheet`` is None for the sheet on which it stands.

    They follow like a reference all of whose parts are locked.
    """

    sheet: str | None
    area: Area


@dataclass(frozen=True, slots=True)
class Chart:
    """A chart.

    ``number`` tells it from the others of its sheet; it covers the cells of ``place``. Each
    column, or row, of its sources is a series, as ``series`` says; the first cell of each
    ``names`` it, and the first series ``labels`` the points, or says where they are across.
    A title that is empty is told by headings.
    """

    number: int
    kind: Kind
    sources: tuple[Source, ...]
    series: Axis
    names: bool
    labels: bool
    place: Area
    title: str = ""
    label_title: str = ""
    value_title: str = ""


def chart_numbered(charts: tuple[Chart, ...], number: int) -> Chart | None:
    """The chart with this number, if there is one."""
    return next((chart for chart in charts if chart.number == number), None)


def free_number(charts: tuple[Chart, ...]) -> int:
    """A number that no chart has."""
    return max((chart.number for chart in charts), default=0) + 1
