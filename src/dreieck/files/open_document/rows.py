"""The rows of a table (part 3, 9.1), read straight into a sheet."""

from __future__ import annotations

import re
from bisect import bisect_right
from dataclasses import replace
from operator import itemgetter
from typing import Any

from dreieck.core.analysis.fanning import fans
from dreieck.core.budget import spend
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.sheet.layout import MAX_SIZE, MIN_SIZE, LineLook, LineLooks
from dreieck.core.values import Error, Value
from dreieck.core.values.look import PLAIN, Look
from dreieck.files.appearance import spanning
from dreieck.files.arrived import StoredValue, StoredValues
from dreieck.files.building import SheetBuilder
from dreieck.files.exceptions import FileRefused
from dreieck.files.formulas import FormulaReader, OpenFormulaDialect
from dreieck.files.formulas.arrays import alone, item
from dreieck.files.formulas.dialect import left_out, read_formula
from dreieck.files.open_document.rules import RuleReader
from dreieck.files.open_document.styles import Looks, points
from dreieck.files.open_document.tags import tag
from dreieck.files.open_document.values import value_of

_PARAGRAPH = tag("text:p")
_CELL, _COVERED = tag("table:table-cell"), tag("table:covered-table-cell")
_FORMS = {"date": "date", "time": "time", "percentage": "percent"}
PREFIX = re.compile(r"(?:[\w.-]+:)?=")
"""What stands in front of a formula: which language it is in (part 3, 19.642)."""
_KEPT = "kept:="
_CELL_STEPS = 2
_USED_WIDTH = 1_024
"""Columns beyond this that only look otherwise are the rest of a sheet."""


class RowReader:
    """Takes the columns and rows of one table, in their order."""

    def __init__(self, builder: SheetBuilder, looks: Looks, dialect: OpenFormulaDialect) -> None:
        self.builder = builder
        self.looks = looks
        self.dialect = dialect
        self.formulas = FormulaReader(dialect)
        self.stored: StoredValues = {}
        self.arrays: set[tuple[int, int]] = set()
        self.rules = RuleReader(builder.sheet, looks, dialect, builder.book.leavings)
        self.charts: list[tuple[Any, int, int]] = []
        """Frames in cells, with column and row."""
        self.row = 0
        self._columns: list[tuple[int, int, LineLook]] = []
        self._rows: list[tuple[int, int, LineLook]] = []
        self._styles: list[tuple[int, int, str]] = []
        self.column = 0
        self._filled: list[tuple[Area, Shape | None]] = []
        self._merged: list[tuple[Area, Look]] = []

    def take_column(self, element: Any) -> None:
        """One column, or several alike."""
        first = self.column + 1
        self.column += _repeated(element, "table:number-columns-repeated")
        last = min(self.column, MAX_COLUMN)
        style = element.get(tag("table:default-cell-style-name"))
        if style:
            self._styles.append((first, last, style))
        look = self._line(element, "column-width")
        # The rest of the columns of a sheet says nothing.
        if first <= last and (look.hidden or last - first < _USED_WIDTH):
            self._columns.append((first, last, look))

    def take_row(self, element: Any) -> None:
        """One row, or several alike."""
        top = self.row + 1
        count = _repeated(element, "table:number-rows-repeated")
        self.row += count
        bottom = min(self.row, MAX_ROW)
        look = self._line(element, "row-height")
        if look != LineLook() and top <= bottom and (look.hidden or count < MAX_ROW // 2):
            self._rows.append((top, bottom, look))
        self._merged = [each for each in self._merged if each[0].bottom >= top]
        self._filled = [each for each in self._filled if each[0].bottom >= top]
        style = element.get(tag("table:default-cell-style-name")) or ""
        column = 0
        for cell in element:
            spend(_CELL_STEPS)
            if cell.tag not in (_CELL, _COVERED):
                continue
            width = _repeated(cell, "table:number-columns-repeated")
            self._take(cell, column + 1, width, top, bottom, style)
            column += width
        if self.row % 256 < count:
            self.builder.book.progress.watch()

    def finish(self) -> None:
        """Lay the sheet out when all rows are in."""
        self.builder.finish()
        sheet = self.builder.sheet
        layout = sheet.layout.with_lines("column", LineLooks.of(self._columns))
        layout = layout.with_lines("row", LineLooks.of(self._rows))
        sheet.layout = type(layout)(
            layout.columns, layout.rows, layout.headings, self.rules.made()
        )

    def _line(self, element: Any, what: str) -> LineLook:
        said = self.looks.sizes.get(element.get(tag("table:style-name")) or "", {})
        hidden = element.get(tag("table:visibility")) in ("collapse", "filter")
        size = None
        if what == "column-width" or said.get("use-optimal-row-height") != "true":
            length = points(said.get(what))
            size = round(length / 0.75) if length else None
        return LineLook(None if size is None else min(max(size, MIN_SIZE), MAX_SIZE), hidden)

    def _take(
        self, cell: Any, column: int, width: int, top: int, bottom: int, row_style: str
    ) -> None:
        """One cell, or many alike."""
        style = cell.get(tag("table:style-name")) or row_style or self._style_of(column)
        look = self.looks.at(style)
        is_bare = not len(cell) and cell.get(tag("office:value-type")) is None
        content: Content | None = None
        if not is_bare or cell.get(tag("table:formula")):
            if len(cell) and (len(cell) > 1 or len(cell[0]) or cell[0].tag != _PARAGRAPH):
                self._look_inside(cell, column, top)
            content = self._content(cell, Cell(min(column, MAX_COLUMN), min(top, MAX_ROW)))
        form = _FORMS.get(cell.get(tag("office:value-type")) or "")
        if form and look.form == "general":
            look = replace(look, form=form)
        look = self._spanned(cell, column, top, look)
        if content is None and (look is PLAIN or self._is_rest(width, bottom - top + 1)):
            self._rule(style, column, width, top, bottom)
            return
        if width > MAX_COLUMN:
            raise FileRefused(
                "A row of the file repeats a cell more often than there are columns."
            )
        for number in range(column, min(column + width - 1, MAX_COLUMN) + 1):
            here = content
            if isinstance(content, Shape) and number > column:
                here = content.landed(Cell(number, top))
            if top == bottom:
                self.builder.put(number, top, here, look)
            else:
                self.builder.put_run(number, top, bottom, here)
                if look is not PLAIN:
                    self.builder.dress(number, top, bottom, look)
        self._rule(style, column, width, top, bottom)

    def _rule(self, style: str, column: int, width: int, top: int, bottom: int) -> None:
        maps = self.looks.maps(style) if style else ()
        if maps and column <= MAX_COLUMN:
            right = min(column + width - 1, MAX_COLUMN)
            self.rules.add(maps, Area(column, top, right, bottom))

    def _is_rest(self, width: int, height: int) -> bool:
        """Whether empty cells are the rest of a sheet that looks as a whole."""
        return width > _USED_WIDTH or height > MAX_ROW // 4

    def _style_of(self, column: int) -> str:
        at = bisect_right(self._styles, column, key=itemgetter(0)) - 1
        return self._styles[at][2] if at >= 0 and column <= self._styles[at][1] else ""

    def _look_inside(self, cell: Any, column: int, row: int) -> None:
        """What stands in a cell beside its text."""
        leavings, place = self.builder.book.leavings, self._said(column, row)
        for each in cell.iter():
            spend(_CELL_STEPS)
            name = str(each.tag)
            if name == tag("office:annotation"):
                leavings.add("comment", place)
            elif name == tag("text:a"):
                leavings.add("link", place, "its text stays")
            elif name == tag("draw:frame"):
                self.charts.append((each, column, row))

    def _content(self, cell: Any, at: Cell) -> Content | None:
        value = value_of(cell)
        formula = cell.get(tag("table:formula"))
        if formula is None:
            for area, shape in self._filled:
                if area.holds(at):
                    return item(shape, area, at) if shape else None
            return _constant(value)
        if value is not None:
            self.stored.setdefault(at.column, []).append(StoredValue(at.row, value))
        if formula.startswith(_KEPT):
            return Unreadable("=" + formula.removeprefix(_KEPT))
        text = PREFIX.sub("", formula, count=1)
        columns = cell.get(tag("table:number-matrix-columns-spanned"))
        rows = cell.get(tag("table:number-matrix-rows-spanned"))
        if columns or rows:
            return self._array(text, at, int(columns or 1), int(rows or 1))
        found = self.formulas.read(text, at)
        if isinstance(found, Unreadable):
            what, note = left_out(self.formulas.problem)
            self._told(what, at, note)
        return found

    def _array(self, text: str, at: Cell, columns: int, rows: int) -> Content:
        """A formula that works with arrays; if it does not fan out, each cell takes its item."""
        try:
            shape = read_formula(self.dialect, text, at)
        except FormulaError as problem:
            what, note = left_out(str(problem))
            self._told(what, at, note)
            return Unreadable("=" + text)
        area = Area(at.column, at.row, at.column + columns - 1, at.row + rows - 1)
        if area.size == 1:
            return alone(shape, self.builder.book.workbook.named)
        if fans(shape, self.builder.book.workbook.named):
            self._filled.append((area, None))
            return shape
        note = "each of its cells takes its own item here"
        self._told("array formula over several cells", at, note)
        self.arrays.add((at.column, at.row))
        self._filled.append((area, shape))
        return item(shape, area, at)

    def _spanned(self, cell: Any, column: int, row: int, look: Look) -> Look:
        """The look of a cell that lies over its neighbours, or under one."""
        if cell.tag == _COVERED:
            found = (each for area, each in self._merged if area.holds(Cell(column, row)))
            return next(found, look)
        columns = int(cell.get(tag("table:number-columns-spanned")) or 1)
        rows = int(cell.get(tag("table:number-rows-spanned")) or 1)
        if columns * rows == 1:
            return look
        look = spanning(look)
        if rows == 1 and look.style.across == "spanning":
            self._merged.append((Area(column, row, column + columns - 1, row), look))
        else:
            note = "its first cell holds what it shows"
            self.builder.book.leavings.add("merged area", self._said(column, row), note)
        return look

    def _told(self, what: str, at: Cell, note: str) -> None:
        self.builder.book.leavings.add(what, self._said(at.column, at.row), note)

    def _said(self, column: int, row: int) -> str:
        return f"{self.builder.sheet.name}!{Cell(column, row).text}"


def _constant(value: Value) -> Content | None:
    return Shape.parse("=" + value.code, Cell(1, 1)) if isinstance(value, Error) else value


def _repeated(element: Any, name: str) -> int:
    """How often a column, row or cell stands there."""
    text = element.get(tag(name)) or "1"
    if not text.isdecimal() or not 1 <= int(text[:12]) < 10**9:
        raise FileRefused(f"The file says that something repeats “{text[:20]}” times.")
    return int(text)
