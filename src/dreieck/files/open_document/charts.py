"""Charts, which are documents inside of documents (part 3, 11), read and written."""

from __future__ import annotations

from typing import Any

from lxml import etree

from dreieck.core.formula.reference import staying
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.chart import Kind
from dreieck.files.charts import Line, Stretch, Told
from dreieck.files.formulas import OpenFormulaDialect
from dreieck.files.open_document.tags import VERSION, add, element, tag

MEDIA_TYPE = "application/vnd.oasis.opendocument.chart"
_CLASSES: dict[Kind, str] = {
    "columns": "bar", "bars": "bar", "stacked": "bar", "lines": "line", "areas": "area",
    "points": "scatter", "shares": "circle",
}  # fmt: skip


def read_chart(data: bytes, place: Area, dialect: OpenFormulaDialect) -> Told | None:
    """The chart of a part; None where we have no such chart."""
    root = etree.fromstring(data, etree.XMLParser(resolve_entities=False))
    chart: Any = next(root.iter(tag("chart:chart")), None)
    plot = chart.find(tag("chart:plot-area")) if chart is not None else None
    if plot is None:
        return None
    kind = _kind(str(chart.get(tag("chart:class"))), _plot_style(root, plot))
    if kind is None:
        return None
    axes = {each.get(tag("chart:dimension")): each for each in plot.iterfind(tag("chart:axis"))}
    labels: Stretch | None = None
    for axis in axes.values():
        categories = axis.find(tag("chart:categories"))
        if categories is not None:
            labels = _stretch(categories.get(tag("table:cell-range-address")), dialect)
    lines: list[Line] = []
    for each in plot.iterfind(tag("chart:series")):
        numbers = _stretch(each.get(tag("chart:values-cell-range-address")), dialect)
        named = each.get(tag("chart:label-cell-address"))
        domain = each.find(tag("chart:domain"))
        own = labels
        if domain is not None:
            own = labels = _stretch(domain.get(tag("table:cell-range-address")), dialect)
        if numbers is None:
            return None
        lines.append(Line(_stretch(named, dialect), own, numbers))
    titles = (_title(chart), _title(axes.get("x")), _title(axes.get("y")))
    return Told(kind, lines, place, *titles)


def _plot_style(root: Any, plot: Any) -> dict[str, str]:
    name = plot.get(tag("chart:style-name"))
    for style in root.iter(tag("style:style")):
        if name and style.get(tag("style:name")) == name:
            for each in style:
                return {str(k).rpartition("}")[2]: str(v) for k, v in each.attrib.items()}
    return {}


def _kind(said: str, style: dict[str, str]) -> Kind | None:
    name = said.rpartition(":")[2]
    if name == "bar":
        if "true" in (style.get("stacked"), style.get("percentage")):
            return "stacked"
        return "bars" if style.get("vertical") == "true" else "columns"
    known: dict[str, Kind] = {
        "line": "lines", "area": "areas", "scatter": "points", "circle": "shares",
        "ring": "shares",
    }  # fmt: skip
    return known.get(name)


def _stretch(text: str | None, dialect: OpenFormulaDialect) -> Stretch | None:
    if not text:
        return None
    # Both corners may name the sheet.
    return Stretch.parse(dialect.our_reference(text))


def _title(of: Any) -> str:
    title = None if of is None else of.find(tag("chart:title"))
    if title is None:
        return ""
    return " ".join("".join(each.itertext()) for each in title.iterfind(tag("text:p"))).strip()


def chart_part(told: Told, dialect: OpenFormulaDialect) -> bytes:
    """A chart as the content part of its own document."""
    root = element("office:document-content", {"office:version": VERSION})
    styles = add(root, "office:automatic-styles")
    said: dict[str, str | None] = {"style:name": "plot", "style:family": "chart"}
    drawn: dict[str, str | None] = {
        "chart:vertical": "true" if told.kind == "bars" else None,
        "chart:stacked": "true" if told.kind == "stacked" else None,
        "chart:symbol-type": "automatic" if told.kind in ("points", "lines") else None,
    }
    add(add(styles, "style:style", said), "style:chart-properties", drawn)
    body = add(add(root, "office:body"), "office:chart")
    link: dict[str, str | None] = {
        "chart:class": f"chart:{_CLASSES[told.kind]}",
        "xlink:href": "..",
        "xlink:type": "simple",
        "svg:width": "12cm",
        "svg:height": "8cm",
    }
    chart = add(body, "chart:chart", link)
    _add_title(chart, told.title)
    add(chart, "chart:legend", {"chart:legend-position": "end"})
    plot = add(chart, "chart:plot-area", {"chart:style-name": "plot"})
    for name, title in (("x", told.label_title), ("y", told.value_title)):
        axis: dict[str, str | None] = {"chart:dimension": name, "chart:name": f"primary-{name}"}
        made = add(plot, "chart:axis", axis)
        _add_title(made, title)
        label = told.lines[0].labels if told.lines else None
        if name == "x" and label and told.kind != "points":
            add(made, "chart:categories", {"table:cell-range-address": _said(label, dialect)})
    for line in told.lines:
        of: dict[str, str | None] = {
            "chart:values-cell-range-address": _said(line.numbers, dialect),
            "chart:label-cell-address": line.name and _said(line.name, dialect),
            "chart:class": f"chart:{_CLASSES[told.kind]}",
        }
        series = add(plot, "chart:series", of)
        if line.labels and told.kind == "points":
            add(series, "chart:domain", {"table:cell-range-address": _said(line.labels, dialect)})
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8"))


def _add_title(of: Any, text: str) -> None:
    if text:
        add(add(of, "chart:title"), "text:p", {}, text)


def _said(stretch: Stretch, dialect: OpenFormulaDialect) -> str:
    """An area as an address outside of formulas: without brackets, with its sheet."""
    return dialect.reference(staying(stretch.area, stretch.sheet), Cell(1, 1))[1:-1]
