"""Reading a workbook of parts (ISO/IEC 29500-1, 18) into ours."""

from __future__ import annotations

import io
import re
import warnings
from typing import Any
from zipfile import ZipFile

from lxml import etree
from openpyxl.packaging.relationship import RelationshipList, get_dependents, get_rels_path
from openpyxl.reader.excel import ExcelReader
from openpyxl.styles.stylesheet import apply_stylesheet
from openpyxl.utils.datetime import CALENDAR_MAC_1904
from openpyxl.worksheet.table import Table as FileTable
from openpyxl.xml.constants import ARC_STYLE, ARC_THEME, SHARED_STRINGS, SHEET_MAIN_NS
from openpyxl.xml.functions import fromstring

from dreieck.core.budget import spend
from dreieck.core.calculate import Calculation
from dreieck.core.grid import Area
from dreieck.core.sheet.chart import Chart
from dreieck.core.sheet.layout import MAX_HEADINGS, Headings
from dreieck.core.values.look import PLAIN
from dreieck.files.appearance import spanning
from dreieck.files.arrived import Arrived
from dreieck.files.building import MAX_SHEETS, SheetBuilder, WorkbookBuilder
from dreieck.files.charts import charted, without_told_title
from dreieck.files.exceptions import FileRefused
from dreieck.files.formulas import OpenXmlDialect, Table
from dreieck.files.open_xml.cells import SheetParser
from dreieck.files.open_xml.charts import read_charts
from dreieck.files.open_xml.layout import columns_of, rows_of
from dreieck.files.open_xml.names import read_names
from dreieck.files.open_xml.rules import read_rules
from dreieck.files.open_xml.styles import Looks
from dreieck.files.open_xml.text import text_of
from dreieck.files.progress import Progress
from dreieck.files.zipped import opened, part

MAX_FORMAT = 2_000
"""How many characters a number format can have; most programs take 255."""
_LONG_FORMAT = re.compile(
    rb"""formatCode\s*=\s*(?:"[^"]{%d}|'[^']{%d})""" % (MAX_FORMAT, MAX_FORMAT)
)
_WIDEST = 1_000
_MERGED = 20
"""So many steps it takes to look at a merged area."""
WHAT = "Office Open XML spreadsheet"
_ITEM = f"{{{SHEET_MAIN_NS}}}si"
_KEPT_OUT = (
    ("xl/media/", "picture", ""),
    ("xl/vbaProject", "macro program", "it is never run"),
    ("xl/pivotTables/pivotTable", "pivot table", "its cells stay as values"),
    ("xl/comments", "sheet with comments", ""),
    ("xl/threadedComments/", "sheet with conversations", ""),
    ("xl/externalLinks/externalLink", "link to another file", "it is never followed"),
    ("xl/embeddings/", "embedded file", ""),
    ("xl/slicers/", "filter panel", ""),
    ("xl/ctrlProps/", "form control", ""),
    ("xl/activeX/activeX", "program inside a sheet", "it is never run"),
    ("xl/connections", "connection to other data", "it is never followed"),
    ("xl/queryTables/", "request for other data", "it is never followed"),
    ("customXml/item", "part of data without a sheet", ""),
)
_DRAWING = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/drawing"
_TABLE = "http://schemas.openxmlformats.org/officeDocument/2006/relationships/table"


def read(data: bytes, progress: Progress) -> Arrived:
    """Read a file. Raises FileRefused."""
    with warnings.catch_warnings():
        # What the library passes over is told from the parts themselves.
        warnings.simplefilter("ignore")
        return _Reading(opened(data, WHAT), data, progress).read()


class _Reading(ExcelReader):  # type: ignore[misc]
    """Reads the parts in their order; the library does all but the cells."""

    def __init__(self, archive: ZipFile, data: bytes, progress: Progress) -> None:
        if "[Content_Types].xml" not in archive.namelist():
            raise FileRefused(f"The file is no {WHAT}: it does not say what its parts are.")
        super().__init__(io.BytesIO(data), keep_links=False)
        self.progress = progress
        self.builder = WorkbookBuilder(progress)
        self.tables: list[Table] = []

    def read(self) -> Arrived:
        """The workbook."""
        self.read_manifest()
        self.shared_strings = self._strings()
        self.read_workbook()
        if ARC_THEME in self.valid_files:
            self.wb.loaded_theme = self.archive.read(ARC_THEME)
        self._check_formats()
        apply_stylesheet(self.archive, self.wb)
        self._leave_out()
        sheets = self._sheets()
        arrived = Arrived(self.builder.workbook)
        builders = [self.builder.add_sheet(sheet.name) for sheet, _ in sheets]
        for builder, (sheet, path) in zip(builders, sheets, strict=True):
            self._read_tables(builder, path)
            if sheet.state != "visible":
                self.builder.leavings.add("hidden sheet", builder.sheet.name, "it is shown here")
        looks = Looks(self.wb)
        for number, (builder, (_, path)) in enumerate(zip(builders, sheets, strict=True)):
            self.progress.at(0.1 + 0.8 * number / len(sheets), f"reading {builder.sheet.name}")
            parser = self._read_sheet(builder, path, looks)
            arrived.stored[builder.sheet.name] = parser.stored
            arrived.array_formulas[builder.sheet.name] = parser.arrays
        read_names(self.parser.defined_names.definedName, self.builder, self._dialect(""))
        self.progress.at(0.9, "reading charts")
        calculation = Calculation(self.builder.workbook)
        for builder, (_, path) in zip(builders, sheets, strict=True):
            self._read_charts(builder, path, calculation)
        self.builder.finish()
        arrived.left_out = self.builder.leavings.listed()
        return arrived

    def _check_formats(self) -> None:
        """See that no number format is so long that the library never ends. Raises FileRefused."""
        styles = part(self.archive, ARC_STYLE, WHAT) if ARC_STYLE in self.valid_files else b""
        if _LONG_FORMAT.search(styles):
            raise FileRefused(
                f"A number format of the file has more than {MAX_FORMAT:,} characters, which no"
                " program reads. It was left alone."
            )

    def _strings(self) -> list[str]:
        """The texts that cells share (18.4)."""
        kind = self.package.find(SHARED_STRINGS)
        if kind is None or kind.PartName[1:] not in self.valid_files:
            return []
        found: list[str] = []
        with self.archive.open(kind.PartName[1:]) as source:
            for _, element in etree.iterparse(source, tag=_ITEM, resolve_entities=False):
                found.append(text_of(element))
                element.clear()
        return found

    def _sheets(self) -> list[tuple[Any, str]]:
        """The sheets that hold cells, and where their parts are."""
        found: list[tuple[Any, str]] = []
        for sheet, relation in self.parser.find_sheets():
            if "worksheet" not in relation.Type:
                self.builder.leavings.add("sheet without cells", sheet.name)
            elif relation.target in self.valid_files:
                found.append((sheet, relation.target))
            if len(found) > MAX_SHEETS:
                raise FileRefused(f"The file has more than {MAX_SHEETS:,} sheets.")
        return found

    def _leave_out(self) -> None:
        leavings = self.builder.leavings
        for begin, what, note in _KEPT_OUT:
            parts = [n for n in self.valid_files if n.startswith(begin) and "/_rels/" not in n]
            if parts:
                leavings.add(what, note=note, count=len(parts))
        if self.wb.epoch == CALENDAR_MAC_1904:
            leavings.add("calendar that begins in 1904", note="dates were moved to ours")

    def _relations(self, path: str) -> RelationshipList:
        beside = get_rels_path(path)
        if beside not in self.valid_files:
            return RelationshipList()
        return get_dependents(self.archive, beside)

    def _read_tables(self, builder: SheetBuilder, path: str) -> None:
        for relation in self._relations(path).find(_TABLE):
            if relation.target not in self.valid_files:
                continue
            table: Any = FileTable.from_tree(fromstring(self.archive.read(relation.target)))
            name = builder.sheet.name
            note = "its cells are kept, its name in formulas became ranges"
            self.builder.leavings.add("table with a name", f"{name}: {table.displayName}", note)
            columns = tuple(each.name for each in table.tableColumns)
            headings, totals = table.headerRowCount, table.totalsRowCount or 0
            area = Area.parse(table.ref)
            made = Table(
                table.displayName, name, area, columns, 1 if headings is None else headings, totals
            )
            self.tables.append(made)

    def _dialect(self, home: str) -> OpenXmlDialect:
        called = self.builder.workbook.called
        return OpenXmlDialect(self._sheet_named, self.tables, home, called)

    def _sheet_named(self, name: str) -> str:
        return self.builder.renamed.get(name.casefold(), name)

    def _read_sheet(self, builder: SheetBuilder, path: str, looks: Looks) -> SheetParser:
        dialect = self._dialect(builder.sheet.name)
        with self.archive.open(path) as source:
            parser = SheetParser(
                source, self.shared_strings, builder, looks, dialect,
                is_1904=self.wb.epoch == CALENDAR_MAC_1904,
            )  # fmt: skip
            for _ in parser.parse():
                pass
        builder.finish()
        sheet, leavings = builder.sheet, self.builder.leavings
        layout = sheet.layout.with_lines("column", columns_of(parser.column_dimensions))
        layout = layout.with_lines("row", rows_of(parser.row_dimensions))
        rules = read_rules(parser.formatting, self.wb, looks, dialect, leavings, sheet.name)
        headings = _headings(getattr(parser, "views", None))
        sheet.layout = type(layout)(layout.columns, layout.rows, headings, rules)
        said = (
            ("data_validations", "dataValidation", "rule for what may be entered", ""),
            ("hyperlinks", "hyperlink", "link", "its text stays"),
        )
        for kind, items, what, note in said:
            count = len(getattr(getattr(parser, kind, None), items, None) or ())
            if count:
                leavings.add(what, sheet.name, note, count)
        self._merge(builder, getattr(parser, "merged_cells", None))
        self._pass_over(sheet.name, parser, looks)
        if getattr(parser, "auto_filter", None) is not None:
            leavings.add("filter", sheet.name, "all rows are there; hidden ones stay hidden")
        if parser.extensions:
            note = "it belongs to no standard"
            leavings.add("extension of a sheet", sheet.name, note, parser.extensions)
        return parser

    def _pass_over(self, sheet: str, parser: SheetParser, looks: Looks) -> None:
        """What columns and rows are told to be besides their sizes."""
        for lines in (parser.column_dimensions, parser.row_dimensions):
            for said in lines.values():
                style = said.get("style") or said.get("s")
                if style and looks.at(int(style))[0] != PLAIN:
                    note = "its cells have their own"
                    self.builder.leavings.add("look of a whole column or row", sheet, note)
                if int(said.get("outlineLevel") or 0):
                    self.builder.leavings.add("column or row in an outline", sheet)

    def _merge(self, builder: SheetBuilder, merged: Any) -> None:
        """A text in the middle of a merged row stands over the cells that follow."""
        sheet = builder.sheet
        for each in getattr(merged, "mergeCell", None) or ():
            area = Area.parse(str(each.ref))
            spend(_MERGED + min(area.width, _WIDEST))
            look = spanning(sheet.look(area.first))
            if area.height == 1 and area.width <= _WIDEST and look.style.across == "spanning":
                for column in range(area.left, area.right + 1):
                    sheet.dress(column, area.top, area.top, look)
                continue
            note = "its first cell holds what it shows"
            self.builder.leavings.add("merged area", f"{sheet.name}!{area.text}", note)

    def _read_charts(self, builder: SheetBuilder, path: str, calculation: Calculation) -> None:
        sheet = builder.sheet
        found: list[Chart] = []
        for relation in self._relations(path).find(_DRAWING):
            if relation.target not in self.valid_files:
                continue
            for told in read_charts(self.archive, relation.target):
                chart = told and charted(told, sheet.name, len(found) + 1)
                if chart:
                    found.append(without_told_title(calculation, sheet, chart))
                else:
                    self.builder.leavings.add("chart of a kind that is not here", sheet.name)
        if found:
            layout = sheet.layout
            sheet.layout = type(layout)(
                layout.columns, layout.rows, layout.headings, layout.rules, tuple(found)
            )


def _headings(views: Any) -> Headings:
    """How many rows and columns stay in view (18.3.1.66)."""
    for view in getattr(views, "sheetView", None) or ():
        pane = view.pane
        if pane is not None and pane.state in ("frozen", "frozenSplit"):
            columns, rows = int(pane.xSplit or 0), int(pane.ySplit or 0)
            return Headings(min(columns, MAX_HEADINGS), min(rows, MAX_HEADINGS))
    return Headings()
