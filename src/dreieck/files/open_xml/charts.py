"""Charts of a drawing part (ISO/IEC 29500-1, 21.2), read and written by the library."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any
from zipfile import ZipFile

from openpyxl.chart import (
    AreaChart,
    BarChart,
    LineChart,
    PieChart,
    Reference,
    ScatterChart,
    Series,
)
from openpyxl.chart.chartspace import ChartSpace
from openpyxl.chart.data_source import AxDataSource, NumDataSource, NumRef, StrRef
from openpyxl.chart.marker import Marker
from openpyxl.chart.series import SeriesLabel, XYSeries
from openpyxl.drawing.spreadsheet_drawing import (
    AnchorMarker,
    SpreadsheetDrawing,
    TwoCellAnchor,
)
from openpyxl.packaging.relationship import get_dependents, get_rel, get_rels_path
from openpyxl.xml.functions import fromstring

from dreieck.core.formula.printer import sheet_text
from dreieck.core.formula.reference import staying
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.chart import Kind
from dreieck.files.charts import Line, Stretch, Told

_DEFAULT_SIZE = (6, 15)


def read_charts(archive: ZipFile, path: str) -> Iterator[Told | None]:
    """The charts of a drawing; None for one of which we have no kind."""
    drawing: Any = SpreadsheetDrawing.from_tree(fromstring(archive.read(path)))
    beside = get_rels_path(path)
    relations = get_dependents(archive, beside) if beside in archive.namelist() else []
    for each in drawing._chart_rels:
        try:
            space: Any = get_rel(archive, relations, each.id, ChartSpace)
        except (TypeError, ValueError, KeyError):
            yield None
            continue
        yield _chart(space.chart, each.anchor)


def _chart(said: Any, anchor: Any) -> Told | None:
    plot = said.plotArea
    charts = plot._charts
    kind = _kind(charts[0]) if len(charts) == 1 else None
    if kind is None:
        return None
    chart = charts[0]
    lines: list[Line] = []
    for each in chart.series:
        scattered = kind == "points"
        numbers = _stretch(getattr(each, "yVal" if scattered else "val", None))
        labels = _stretch(getattr(each, "xVal" if scattered else "cat", None))
        named = getattr(each, "tx", None)
        name = Stretch.parse(named.strRef.f) if named and named.strRef else None
        if numbers is None:
            return None
        lines.append(Line(name, labels, numbers))
    across, upward = _axes(plot)
    titles = (_text(said.title), _text(across), _text(upward))
    return Told(kind, lines, _place(anchor), *titles)


def _axes(plot: Any) -> tuple[Any, Any]:
    """The titles of the axis of the labels and of that of the numbers."""
    numbers = [axis for axis in plot._axes if axis.tagname == "valAx"]
    labels = [axis for axis in plot._axes if axis.tagname in ("catAx", "dateAx")]
    first, second = (labels + numbers + [None, None])[:2]
    return getattr(first, "title", None), getattr(second, "title", None)


def _kind(chart: Any) -> Kind | None:
    match chart.tagname:
        case "barChart":
            if chart.grouping in ("stacked", "percentStacked"):
                return "stacked"
            return "bars" if chart.barDir == "bar" else "columns"
        case "lineChart":
            return "lines"
        case "areaChart":
            return "areas"
        case "scatterChart":
            return "points"
        case "pieChart" | "doughnutChart":
            return "shares"
        case _:
            return None


def _stretch(source: Any) -> Stretch | None:
    for name in ("numRef", "strRef"):
        reference = getattr(source, name, None)
        if reference is not None and reference.f:
            return Stretch.parse(reference.f)
    return None


def _text(title: Any) -> str:
    """The words of a title."""
    rich = getattr(getattr(title, "tx", None), "rich", None)
    paragraphs = getattr(rich, "p", None) or ()
    said = ["".join(run.t or "" for run in each.r or ()) for each in paragraphs]
    return " ".join(each for each in said if each).strip()


def _place(anchor: Any) -> Area:
    """The cells over which a chart stands."""
    start = getattr(anchor, "_from", None)
    left, top = (start.col + 1, start.row + 1) if start else (1, 1)
    end = getattr(anchor, "to", None)
    width, height = _DEFAULT_SIZE
    right, bottom = (end.col, end.row) if end else (left + width - 1, top + height - 1)
    # An edge a little way into a cell counts as covering it.
    if end and end.colOff:
        right += 1
    if end and end.rowOff:
        bottom += 1
    left, top = min(left, MAX_COLUMN), min(top, MAX_ROW)
    last = Cell(min(max(right, left), MAX_COLUMN), min(max(bottom, top), MAX_ROW))
    return Area.spanned(Cell(left, top), last)


def made_chart(told: Told) -> Any:
    """A chart for the library to write."""
    chart: Any
    match told.kind:
        case "columns" | "bars" | "stacked":
            chart = BarChart()
            chart.type = "bar" if told.kind == "bars" else "col"
            if told.kind == "stacked":
                chart.grouping, chart.overlap = "stacked", 100
        case "lines":
            chart = LineChart()
        case "areas":
            chart = AreaChart()
        case "points":
            chart = ScatterChart()
            chart.style = 13
        case _:
            chart = PieChart()
    for line in told.lines:
        chart.series.append(_series(line, is_scattered=told.kind == "points"))
    chart.title = told.title or None
    if told.kind != "shares":
        chart.x_axis.title = told.label_title or None
        chart.y_axis.title = told.value_title or None
        chart.x_axis.delete = chart.y_axis.delete = False
    chart.anchor = TwoCellAnchor(
        _from=AnchorMarker(col=told.place.left - 1, row=told.place.top - 1),
        to=AnchorMarker(col=told.place.right, row=told.place.bottom),
    )
    return chart


def _series(line: Line, *, is_scattered: bool) -> Any:
    numbers = _said(line.numbers)
    series: Any = Series(Reference(range_string="'S'!$A$1"), title=None)
    series.tx = SeriesLabel(strRef=StrRef(_said(line.name))) if line.name else None
    labels = line.labels and _said(line.labels)
    if is_scattered:
        series = XYSeries(
            tx=series.tx,
            xVal=_labels(labels, as_numbers=True),
            yVal=NumDataSource(numRef=NumRef(f=numbers)),
        )
        series.marker = Marker("circle")
        series.graphicalProperties.line.noFill = True
        return series
    series.val = NumDataSource(numRef=NumRef(f=numbers))
    series.cat = _labels(labels, as_numbers=False)
    return series


def _labels(text: str | None, *, as_numbers: bool) -> Any:
    if text is None:
        return None
    if as_numbers:
        return AxDataSource(numRef=NumRef(f=text))
    return AxDataSource(strRef=StrRef(f=text))


def _said(stretch: Stretch) -> str:
    text = staying(stretch.area, stretch.sheet).text(Cell(1, 1))
    return f"{sheet_text(stretch.sheet)}!{text}"
