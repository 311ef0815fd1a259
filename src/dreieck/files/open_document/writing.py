"""Writing a workbook as a document (part 2 and 3)."""

from __future__ import annotations

import io
from itertools import pairwise
from typing import Any

from lxml import etree
from odfdo import Document

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import staying
from dreieck.core.grid import MAX_COLUMN, Area, Axis, Cell
from dreieck.core.sheet.content import Unreadable
from dreieck.core.sheet.layout import LineLook
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import SORTS, one_of
from dreieck.core.values.look import PLAIN
from dreieck.files.arrived import Leavings
from dreieck.files.charts import told
from dreieck.files.formulas import FormulaWriter, OpenFormulaDialect
from dreieck.files.open_document.charts import MEDIA_TYPE, chart_part
from dreieck.files.open_document.rules import told_rules
from dreieck.files.open_document.styles import Map, Styles
from dreieck.files.open_document.tags import (
    NAMESPACES,
    STATED,
    VERSION,
    Said,
    add,
    attributes,
    element,
    tag,
)
from dreieck.files.open_document.values import tellable, value_attributes
from dreieck.files.progress import Progress
from dreieck.files.rows import Held, rows_of

_WIDTH = 16_384
_NOT_NEEDED = ("Configurations2/", "Thumbnails/", "manifest.rdf")
Rules = list[tuple[Area, str, Map]]


def write(calculation: Calculation, progress: Progress, leavings: Leavings) -> bytes:
    """A workbook as a package; what it cannot hold is added to ``leavings``."""
    writing = _Writing(calculation, progress, leavings)
    document = Document("spreadsheet")
    package = document.container
    assert package is not None
    for name in list(document.get_parts()):
        if name.startswith(_NOT_NEEDED):
            document.del_part(name)
    content = writing.content()
    package.set_part("content.xml", content)
    package.set_part("styles.xml", writing.styles_part())
    package.set_part("settings.xml", writing.settings(package.get_part("settings.xml") or ""))
    for sort in SORTS:
        for each in calculation.workbook.stated(sort):
            name = f"{STATED}{one_of(sort)} {each.number}"
            document.meta.set_user_defined_metadata(name, tellable(each.text))
    package.set_part("meta.xml", document.meta.serialize())
    manifest = document.manifest
    for path in list(manifest.get_paths()):
        if path.startswith(_NOT_NEEDED):
            manifest.del_full_path(path)
    for number, part in enumerate(writing.charts, 1):
        package.set_part(f"Object {number}/content.xml", part)
        manifest.add_full_path(f"Object {number}/", MEDIA_TYPE)
        manifest.add_full_path(f"Object {number}/content.xml", "text/xml")
    package.set_part("META-INF/manifest.xml", manifest.serialize())
    stream = io.BytesIO()
    package.save(stream)
    return stream.getvalue()


def _serialized(root: Any) -> bytes:
    return bytes(etree.tostring(root, xml_declaration=True, encoding="UTF-8"))


class _Writing:
    """Writes the parts."""

    def __init__(self, calculation: Calculation, progress: Progress, leavings: Leavings) -> None:
        self.calculation = calculation
        self.workbook = calculation.workbook
        self.progress = progress
        self.leavings = leavings
        self.styles = Styles()
        self.dialect = OpenFormulaDialect()
        self.formulas = FormulaWriter(self.dialect, self.workbook.named)
        self.charts: list[bytes] = []

    def content(self) -> bytes:
        """The content part; styles are known when all cells are written, and stand in front."""
        body = io.BytesIO()
        with (
            etree.xmlfile(body, encoding="utf-8") as file,
            file.element(tag("office:body"), nsmap=NAMESPACES),
            file.element(tag("office:spreadsheet")),
        ):
            for number, sheet in enumerate(self.workbook.sheets):
                share = number / len(self.workbook.sheets)
                self.progress.at(share, f"writing {sheet.name}")
                self._sheet(file, sheet)
            if self.workbook.names:
                names = element("table:named-expressions")
                for named in self.workbook.names.values():
                    self._name(names, named)
                file.write(names)
        root = element("office:document-content", {"office:version": VERSION})
        root.append(self.styles.automatic)
        head, _, tail = _serialized(root).rpartition(b"</office:document-content>")
        return head + body.getvalue() + b"</office:document-content>" + tail

    def styles_part(self) -> bytes:
        """The common styles."""
        root = element("office:document-styles", {"office:version": VERSION})
        root.append(self.styles.common)
        return _serialized(root)

    def settings(self, empty: str | bytes) -> bytes:
        """The settings of an empty document, with the headings that stay in view."""
        part: Any = etree.fromstring(empty.encode() if isinstance(empty, str) else empty)
        for each in part.iter(tag("config:config-item-map-named")):
            if each.get(tag("config:name")) == "Tables":
                each[:] = [self._view(sheet) for sheet in self.workbook.sheets]
        return _serialized(part)

    def _view(self, sheet: Sheet) -> Any:
        entry = element("config:config-item-map-entry", {"config:name": sheet.name})
        headings = sheet.layout.headings
        for name, count in (("Horizontal", headings.columns), ("Vertical", headings.rows)):
            for what, kind, value in (
                ("SplitMode", "short", 2 if count else 0),
                ("SplitPosition", "int", count),
            ):
                said: Said = {"config:name": f"{name}{what}", "config:type": kind}
                add(entry, "config:config-item", said, str(value))
        return entry

    def _sheet(self, file: Any, sheet: Sheet) -> None:
        rules = told_rules(sheet, self.styles, self.formulas)
        with file.element(tag("table:table"), attributes({"table:name": tellable(sheet.name)})):
            self._columns(file, sheet)
            self._rows(file, sheet, rules)

    def _columns(self, file: Any, sheet: Sheet) -> None:
        headings = sheet.layout.headings.columns
        end = max(_WIDTH, min(sheet.end("column"), MAX_COLUMN))
        runs = list(sheet.layout.columns.between(1, end))
        front = [r._replace(last=min(r.last, headings)) for r in runs if r.first <= headings]
        behind = [r._replace(first=max(r.first, headings + 1)) for r in runs if r.last > headings]
        if front:
            with file.element(tag("table:table-header-columns")):
                for run in front:
                    file.write(self._line("column", run.look, run.last - run.first + 1))
        for run in behind:
            file.write(self._line("column", run.look, run.last - run.first + 1))

    def _line(self, axis: Axis, look: LineLook, count: int) -> Any:
        said: Said = {
            "table:style-name": self.styles.line(axis, look.size) if look.size else None,
            "table:visibility": "collapse" if look.hidden else None,
            f"table:number-{axis}s-repeated": str(count) if count > 1 else None,
        }
        return element(f"table:table-{axis}", said)

    def _rows(self, file: Any, sheet: Sheet, rules: Rules) -> None:
        """The rows in order; those that say nothing are told by their number."""
        headings = sheet.layout.headings.rows
        held = self._with_charts(sheet)
        if not headings:
            self._write_rows(file, sheet, rules, held, 1, None)
            return
        before = {row: cells for row, cells in held if row <= headings} if headings else {}
        with file.element(tag("table:table-header-rows")):
            self._write_rows(file, sheet, rules, before.items(), 1, headings)
        rest = ((row, cells) for row, cells in self._with_charts(sheet) if row > headings)
        self._write_rows(file, sheet, rules, rest, headings + 1, None)

    def _with_charts(self, sheet: Sheet) -> Any:
        """The rows of a sheet; where a chart begins there is one, too."""
        starts = sorted({chart.place.top for chart in sheet.layout.charts})
        for row, cells in rows_of(self.calculation, sheet):
            while starts and starts[0] < row:
                yield starts.pop(0), []
            if starts and starts[0] == row:
                starts.pop(0)
            yield row, cells
        for row in starts:
            yield row, []

    def _write_rows(
        self, file: Any, sheet: Sheet, rules: Rules, held: Any, first: int, last: int | None
    ) -> None:
        at = first
        edges = sorted({edge for area, *_ in rules for edge in (area.top, area.bottom + 1)})
        for row, cells in held:
            self._gap(file, sheet, rules, edges, at, row - 1)
            look = sheet.layout.rows.at(row)
            made = self._line("row", look, 1)
            self._cells(made, sheet, row, cells, [each for each in rules if _on(each[0], row)])
            file.write(made)
            at = row + 1
            if row % 256 == 0:
                self.progress.watch()
        end = last or max([at - 1, *(area.bottom for area, *_ in rules)])
        self._gap(file, sheet, rules, edges, at, end)
        if at == first and not last:
            file.write(element("table:table-row"))

    def _gap(
        self, file: Any, sheet: Sheet, rules: Rules, edges: list[int], first: int, last: int
    ) -> None:
        """Rows that hold nothing, in stretches in which the same rules hold."""
        if first > last:
            return
        cuts = [first, *(edge for edge in edges if first < edge <= last), last + 1]
        for top, end in pairwise(cuts):
            for run in sheet.layout.rows.between(top, end - 1):
                made = self._line("row", run.look, run.last - run.first + 1)
                here = [each for each in rules if _on(each[0], run.first)]
                self._cells(made, sheet, run.first, [], here)
                file.write(made)

    def _cells(
        self, row_element: Any, sheet: Sheet, row: int, cells: list[Held], rules: Rules
    ) -> None:
        """The cells of a row, and what stands between them."""
        by_column = {held.column: held for held in cells}
        charts = [chart for chart in sheet.layout.charts if chart.place.top == row]
        anchors = {chart.place.left for chart in charts}
        edges = {edge for area, *_ in rules for edge in (area.left, area.right + 1)}
        edges |= {edge for n in {*by_column, *anchors} for edge in (n, n + 1)} | {1}
        covered = 0
        for column, after in pairwise(sorted(edges)):
            found = by_column.get(column)
            maps = tuple((name, m) for area, name, m in rules if area.left <= column <= area.right)
            look = found.look if found else PLAIN
            said: dict[str, str | None] = {"table:style-name": self.styles.cell(look, maps)}
            if after - column > 1:
                said["table:number-columns-repeated"] = str(after - column)
            if covered >= column:
                add(row_element, "table:covered-table-cell", said)
                continue
            cell = add(row_element, "table:table-cell", said)
            if found:
                self._fill(cell, sheet, row, found)
                width = self._span(by_column, column)
                if width > 1:
                    covered = column + width - 1
                    cell.set(tag("table:number-columns-spanned"), str(width))
                    cell.set(tag("table:number-rows-spanned"), "1")
            if column in anchors:
                for chart in charts:
                    if chart.place.left == column:
                        self._chart(cell, sheet, chart)
        if not len(row_element):
            add(row_element, "table:table-cell", {"table:number-columns-repeated": str(_WIDTH)})

    def _span(self, by_column: dict[int, Held], column: int) -> int:
        """Over how many cells a title stands."""
        found = by_column[column]
        if found.look.style.across != "spanning" or found.content is None:
            return 1
        width = 1
        while (
            (after := by_column.get(column + width))
            and after.look.style.across == "spanning"
            and after.content is None
        ):
            width += 1
        return width

    def _fill(self, cell: Any, sheet: Sheet, row: int, held: Held) -> None:
        """What a cell holds, and what its formula comes to."""
        content, value = held.content, held.value
        match content:
            case Shape():
                text, is_array = self.formulas.written(content, Cell(held.column, row))
                fan = self.calculation.fan(sheet.name, Cell(held.column, row))
                if is_array or fan:
                    width, height = (fan.width, fan.height) if fan else (1, 1)
                    cell.set(tag("table:number-matrix-columns-spanned"), str(width))
                    cell.set(tag("table:number-matrix-rows-spanned"), str(height))
                cell.set(tag("table:formula"), "of:=" + self._told(text, sheet))
            case Unreadable():
                cell.set(tag("table:formula"), "kept:" + self._told(content.text, sheet))
                value = content.text
            case None:
                pass
            case _:
                value = content
        if isinstance(value, str):
            value = self._told(value, sheet)
        for name, said in attributes(value_attributes(value, held.look.form)).items():
            cell.set(name, said)
        if isinstance(value, str):
            for line in value.split("\n"):
                _add_words(add(cell, "text:p"), line)

    def _told(self, text: str, sheet: Sheet) -> str:
        plain = tellable(text)
        if plain != text:
            note = "such characters are replaced"
            self.leavings.add("text with characters that cannot be told", sheet.name, note)
        return plain

    def _chart(self, cell: Any, sheet: Sheet, chart: Any) -> None:
        said = told(self.calculation, sheet, chart)
        if said is None:
            self.leavings.add("chart of several places below each other", sheet.name)
            return
        self.charts.append(chart_part(said, self.dialect))
        behind = Cell(said.place.right + 1, said.place.bottom + 1)
        frame: Said = {
            "draw:z-index": str(sheet.layout.charts.index(chart)),
            "table:end-cell-address": _place(sheet, Area.of(behind), self.dialect),
            "table:end-x": "0cm",
            "table:end-y": "0cm",
            "svg:width": "12cm",
            "svg:height": "8cm",
        }
        link: Said = {
            "xlink:href": f"./Object {len(self.charts)}",
            "xlink:type": "simple",
            "xlink:show": "embed",
            "xlink:actuate": "onLoad",
        }
        add(add(cell, "draw:frame", frame), "draw:object", link)

    def _name(self, names: Any, named: Named) -> None:
        first = self.workbook.sheets[0]
        said: dict[str, str | None] = {
            "table:name": named.name,
            "table:base-cell-address": _place(first, Area.of(named.base), self.dialect),
        }
        if named.place:
            sheet, area = named.place
            at = staying(area, sheet)
            if named.shape is Shape.of(at):
                said["table:cell-range-address"] = self.dialect.reference(at, Cell(1, 1))[1:-1]
                add(names, "table:named-range", said)
                return
        said["table:expression"] = "of:=" + self.formulas.text(named.shape, named.base)
        add(names, "table:named-expression", said)


def _on(area: Area, row: int) -> bool:
    return area.top <= row <= area.bottom


def _place(sheet: Sheet, area: Area, dialect: OpenFormulaDialect) -> str:
    return dialect.reference(staying(area, sheet.name), Cell(1, 1))[1:-1]


def _add_words(paragraph: Any, line: str) -> None:
    """The words of a line; blanks in a row and tabs are told by elements (part 3, 6.1.2)."""
    last: Any = None

    def say(text: str) -> None:
        if last is None:
            paragraph.text = (paragraph.text or "") + text
        else:
            last.tail = (last.tail or "") + text

    index = 0
    while index < len(line):
        if line[index] == "\t":
            last = add(paragraph, "text:tab")
            index += 1
            continue
        end = index
        while end < len(line) and line[end] == " ":
            end += 1
        if end - index > 1 or (end > index and (index == 0 or end == len(line))):
            last = add(paragraph, "text:s", {"text:c": str(end - index)})
            index = end
            continue
        end = index + 1
        while end < len(line) and line[end] not in " \t":
            end += 1
        say(line[index:end].replace("\r", " "))
        index = end
