"""Writing a workbook as parts (ISO/IEC 29500-1, 18); the library writes all but the cells."""

from __future__ import annotations

import io
from typing import Any
from zipfile import ZIP_DEFLATED, ZipFile

from lxml import etree
from openpyxl.drawing.spreadsheet_drawing import SpreadsheetDrawing
from openpyxl.workbook import Workbook as FileBook
from openpyxl.worksheet._writer import WorksheetWriter
from openpyxl.writer.excel import ExcelWriter

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell, column_letters
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error, Value
from dreieck.files.appearance import FONT, USUAL_POINTS
from dreieck.files.arrived import Leavings
from dreieck.files.charts import told
from dreieck.files.formulas import FormulaWriter, OpenXmlDialect
from dreieck.files.open_xml.charts import made_chart
from dreieck.files.open_xml.layout import column_attributes, row_attributes
from dreieck.files.open_xml.names import written_name
from dreieck.files.open_xml.rules import written_rule
from dreieck.files.open_xml.styles import Styles
from dreieck.files.open_xml.text import told as told_text
from dreieck.files.progress import Progress
from dreieck.files.rows import Held, rows_of

_STANDARD_ERRORS = ("#DIV/0!", "#N/A", "#NAME?", "#NULL!", "#NUM!", "#REF!", "#VALUE!")
_LAST_COLUMN = 16_384
_MAX_NAME = 31
_SPACE = "{http://www.w3.org/XML/1998/namespace}space"


def write(calculation: Calculation, progress: Progress, leavings: Leavings) -> bytes:
    """A workbook as a file; what it cannot hold is added to ``leavings``."""
    workbook = calculation.workbook
    book = FileBook()
    font: Any = book._fonts[0]
    font.name, font.sz, font.scheme = FONT, USUAL_POINTS, None
    book.remove(book.worksheets[0])
    for sheet in workbook.sheets:
        made = book.create_sheet()
        # The library takes fewer names than the format knows.
        made._WorkbookChild__title = sheet.name
        if len(sheet.name) > _MAX_NAME:
            leavings.add(
                f"sheet name with more than {_MAX_NAME} characters", sheet.name,
                "some programs cut it",
            )  # fmt: skip
    dialect = OpenXmlDialect()
    for named in workbook.names.values():
        book.defined_names.add(written_name(named, dialect))
    stream = io.BytesIO()
    with ZipFile(stream, "w", ZIP_DEFLATED) as archive:
        _Writing(book, archive, calculation, progress, leavings).save()
    return stream.getvalue()


class _Writing(ExcelWriter):  # type: ignore[misc]
    """Writes sheets from ours instead of the library's own cells."""

    def __init__(
        self,
        book: FileBook,
        archive: ZipFile,
        calculation: Calculation,
        progress: Progress,
        leavings: Leavings,
    ) -> None:
        super().__init__(book, archive)
        self.calculation = calculation
        self.progress = progress
        self.leavings = leavings
        self.styles = Styles(book)
        self.formulas = FormulaWriter(OpenXmlDialect(), calculation.workbook.named)

    def write_worksheet(self, ws: Any) -> None:
        """Write one sheet."""
        number = self.workbook.worksheets.index(ws)
        sheet = self.calculation.workbook.sheets[number]
        self.progress.at(number / len(self.workbook.worksheets), f"writing {sheet.name}")
        headings = sheet.layout.headings
        if headings.columns or headings.rows:
            ws.freeze_panes = Cell(headings.columns + 1, headings.rows + 1).text
        for rule in sheet.layout.rules:
            area, made = written_rule(rule, self.formulas)
            ws.conditional_formatting.add(area, made)
        for chart in sheet.layout.charts:
            said = told(self.calculation, sheet, chart)
            if said is None:
                self.leavings.add("chart of several places below each other", sheet.name)
            else:
                ws.add_chart(made_chart(said))
        ws._drawing = SpreadsheetDrawing()
        ws._drawing.charts = ws._charts
        ws._drawing.images = []
        writer = _SheetWriter(ws, sheet, self)
        writer.write()
        ws._rels = writer._rels
        self._archive.write(writer.out, ws.path[1:])
        self.manifest.append(ws)
        writer.cleanup()


class _SheetWriter(WorksheetWriter):  # type: ignore[misc]
    """Writes the part of a sheet."""

    def __init__(self, ws: Any, sheet: Sheet, writing: _Writing) -> None:
        super().__init__(ws)
        self.sheet = sheet
        self.writing = writing

    def write_dimensions(self) -> None:
        """Which cells are used."""
        used = self.writing.calculation.used(self.sheet.name)
        area = f"{used.first.text}:{used.last.text}" if used else "A1"
        self.xf.send(etree.Element("dimension", ref=area))

    def write_cols(self) -> None:
        """How columns look."""
        runs = [run for run in self.sheet.layout.columns.runs if run.first <= _LAST_COLUMN]
        if runs:
            columns = etree.Element("cols")
            for run in runs:
                shown = run._replace(last=min(run.last, _LAST_COLUMN))
                etree.SubElement(columns, "col", column_attributes(shown))
            self.xf.send(columns)

    def write_rows(self) -> None:
        """The cells, row by row."""
        part = self.xf.send(True)
        with part.element("sheetData"):
            looks = self.sheet.layout.rows
            for row, cells in rows_of(self.writing.calculation, self.sheet):
                attributes = {"r": str(row)} | row_attributes(looks.at(row))
                element = etree.Element("row", attributes)
                for held in cells:
                    self._append(element, held, row)
                part.write(element)
                if row % 512 == 0:
                    self.writing.progress.watch()
        self.xf.send(None)

    def _append(self, element: Any, held: Held, row: int) -> None:
        column, content, look, value = held
        if column > _LAST_COLUMN:
            self.writing.leavings.add("cell beyond column XFD", self.sheet.name)
            return
        # A text that is not quoted is a formula that nobody could read.
        begins = isinstance(content, str) and content.startswith("=")
        quoted = False if isinstance(content, Unreadable) else begins or None
        attributes = {"r": f"{column_letters(column)}{row}"}
        style = self.writing.styles.number(look, quoted=quoted)
        if style:
            attributes["s"] = str(style)
        cell = etree.SubElement(element, "c", attributes)
        if isinstance(content, Shape):
            formula = etree.SubElement(cell, "f")
            text, is_array = self.writing.formulas.written(content, Cell(column, row))
            formula.text = told_text(text)
            fan = self.writing.calculation.fan(self.sheet.name, Cell(column, row))
            if is_array or fan:
                formula.set("t", "array")
                formula.set("ref", fan.text if fan else attributes["r"])
            _tell_result(cell, value)
        elif content is None and value is not None:
            _tell_result(cell, value)
        else:
            _tell(cell, content)


def _tell(cell: Any, content: Content | None) -> None:
    """A content that is no formula."""
    if content is None:
        return
    if isinstance(content, Unreadable | str):
        cell.set("t", "inlineStr")
        text = etree.SubElement(etree.SubElement(cell, "is"), "t")
        text.text = told_text(content if isinstance(content, str) else content.text)
        text.set(_SPACE, "preserve")
        return
    if isinstance(content, bool):
        cell.set("t", "b")
        content = int(content)
    etree.SubElement(cell, "v").text = repr(content)


def _tell_result(cell: Any, value: Value) -> None:
    """What a formula comes to."""
    if value is None:
        return
    text = repr(value)
    match value:
        case bool():
            cell.set("t", "b")
            text = str(int(value))
        case str():
            cell.set("t", "str")
            text = told_text(value)
        case Error():
            cell.set("t", "e")
            text = value.code if value.code in _STANDARD_ERRORS else "#VALUE!"
    etree.SubElement(cell, "v").text = text
