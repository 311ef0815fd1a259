"""The cells of a sheet part (18.3), read row by row straight into a sheet.

The library parses the part; its cells are not made, for they take more room than ours.
"""

from __future__ import annotations

import math
import re
from dataclasses import replace
from typing import Any

from openpyxl.utils.datetime import from_ISO8601, to_excel
from openpyxl.worksheet._reader import FORMULA_TAG, INLINE_STRING, VALUE_TAG, WorkSheetParser

from dreieck.core.analysis.fanning import fans
from dreieck.core.budget import spend
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, tree
from dreieck.core.grid import Area, Cell, column_number
from dreieck.core.sheet.content import Content, Unreadable
from dreieck.core.values import ERROR_CODES, Error, Value
from dreieck.core.values.look import PLAIN
from dreieck.files.arrived import StoredValue, StoredValues
from dreieck.files.building import SheetBuilder
from dreieck.files.exceptions import FileRefused
from dreieck.files.formulas import FormulaReader, OpenXmlDialect
from dreieck.files.formulas.arrays import alone, item
from dreieck.files.formulas.dialect import left_out, read_formula
from dreieck.files.open_xml.styles import Looks
from dreieck.files.open_xml.text import text_of, untold

_PLACE = re.compile(r"([A-Z]{1,3})([0-9]{1,7})")
_EARLIER = 1462.0
"""So many days later the other calendar of the format begins (18.17.4.1)."""
_CELL_STEPS = 2
_DAYS = ("date", "datetime")


class SheetParser(WorkSheetParser):  # type: ignore[misc]
    """Parses a sheet part; its cells go to a builder."""

    col_counter: int

    def __init__(
        self,
        source: Any,
        strings: list[str],
        builder: SheetBuilder,
        looks: Looks,
        dialect: OpenXmlDialect,
        *,
        is_1904: bool,
    ) -> None:
        super().__init__(source, strings)
        self.builder = builder
        self.looks = looks
        self.dialect = dialect
        self.formulas = FormulaReader(dialect)
        self.stored: StoredValues = {}
        self.arrays: set[tuple[int, int]] = set()
        self.is_1904 = is_1904
        self.extensions = 0
        self._shared: dict[str, Shape | Unreadable] = {}
        self._filled: list[tuple[Area, Shape | None]] = []
        self._columns: dict[str, int] = {}

    def parse_row(self, row: Any) -> tuple[int, list[Any]]:
        """Take the cells of a row."""
        number, _ = super().parse_row(_without_cells(row))
        self._filled = [each for each in self._filled if each[0].bottom >= number]
        for cell in row:
            spend(_CELL_STEPS)
            self._take(cell)
        if number % 512 == 0:
            self.builder.book.progress.watch()
        return number, []

    def parse_extensions(self, element: Any) -> None:
        """What belongs to no standard is counted."""
        self.extensions += len(element)

    def parse_sheet_protection(self, element: Any) -> None:
        """That a sheet is protected is told."""
        note = "the cells can be changed here"
        self.builder.book.leavings.add("protected sheet", self.builder.sheet.name, note)

    def _take(self, element: Any) -> None:
        column, row = self._place(element.get("r"))
        style = int(element.get("s") or 0)
        look, quoted = self.looks.at(style) if style else (PLAIN, False)
        if look.form == "general" and element.get("t") == "d":
            look = replace(look, form="date")
        value = self._value(element, shift=look.form in _DAYS)
        formula = element.find(FORMULA_TAG)
        content: Content | None
        if formula is None:
            content = self._constant(value, Cell(column, row), quoted=quoted)
        else:
            content = self._formula(formula, Cell(column, row), value)
            if value is not None and isinstance(content, Shape | Unreadable):
                self.stored.setdefault(column, []).append(StoredValue(row, value))
        if content is not None or look is not PLAIN:
            self.builder.put(column, row, content, look)

    def _place(self, text: str | None) -> tuple[int, int]:
        if text is None:
            self.col_counter += 1
            return self.col_counter, self.row_counter
        match = _PLACE.fullmatch(text)
        if not match or match[2] == "0" * len(match[2]):
            raise FileRefused(f"“{text[:40]}” in the file is not the address of a cell.")
        column = self._columns.get(match[1])
        if column is None:
            column = self._columns[match[1]] = column_number(match[1])
        self.col_counter = column
        return column, int(match[2])

    def _value(self, element: Any, *, shift: bool) -> Value:
        """What stands in a cell, or what its formula came to (18.18.11)."""
        kind = element.get("t", "n")
        if kind == "inlineStr":
            item = element.find(INLINE_STRING)
            return None if item is None else text_of(item)
        text = element.findtext(VALUE_TAG)
        if text is None or (kind != "str" and not text.strip()):
            return None
        match kind:
            case "s":
                return self._string(text)
            case "str":
                return untold(text)
            case "b":
                return text.strip() in ("1", "true")
            case "e":
                return Error(text if text in ERROR_CODES else "#VALUE!", "")
            case "d":
                return _moment(text)
            case _:
                number = _number(text)
                if isinstance(number, float) and shift and self.is_1904:
                    return number + _EARLIER
                return number

    def _string(self, text: str) -> str:
        try:
            return str(self.shared_strings[int(text)])
        except (IndexError, ValueError):
            raise FileRefused("A cell of the file stands for a text that is not there.") from None

    def _constant(self, value: Value, at: Cell, *, quoted: bool) -> Content | None:
        """What a cell holds that has no formula."""
        for area, shape in self._filled:
            if area.holds(at):
                return item(shape, area, at) if shape else None
        if isinstance(value, Error):
            return Shape.of(
                tree.Lost() if value.code == "#REF!" else tree.ErrorLiteral(value.code)
            )
        if isinstance(value, str) and value.startswith("=") and not quoted:
            # So formulas are kept that nobody could read.
            try:
                Shape.parse(value, at)
            except FormulaError:
                return Unreadable(value)
        return value

    def _formula(self, element: Any, at: Cell, value: Value) -> Content | None:
        """A formula (18.3.1.40); a table of trials is its values."""
        kind, text = element.get("t", "normal"), untold(element.text or "")
        if kind == "dataTable":
            note = "its values stay"
            self.builder.book.leavings.add("table of trials", self._said(at), note)
            return None if isinstance(value, Error) else value
        if kind == "array":
            return self._array(text, element.get("ref") or at.text, at)
        number = element.get("si")
        if kind == "shared" and not text:
            known = self._shared.get(number)
            if known is None:
                raise FileRefused(f"The formula of {at.text} shares one that is not in the file.")
            return known.landed(at) if isinstance(known, Shape) else known
        found = self._told(self.formulas.read(text, at), at)
        if kind == "shared":
            self._shared[number] = found
        return found

    def _array(self, text: str, reference: str, at: Cell) -> Content:
        """A formula that works with arrays; if it does not fan out, each cell takes its item."""
        area = Area.parse(reference)
        try:
            shape = read_formula(self.dialect, text, at)
        except FormulaError as problem:
            self.formulas.problem = str(problem)
            return self._told(Unreadable("=" + text), at)
        if area.size == 1:
            return alone(shape, self.builder.book.workbook.named)
        if fans(shape, self.builder.book.workbook.named):
            self._filled.append((area, None))
            return shape
        note = "each of its cells takes its own item here"
        self.builder.book.leavings.add("array formula over several cells", self._said(at), note)
        self.arrays.add((at.column, at.row))
        self._filled.append((area, shape))
        return item(shape, area, at)

    def _told(self, found: Shape | Unreadable, at: Cell) -> Shape | Unreadable:
        if isinstance(found, Unreadable):
            what, note = left_out(self.formulas.problem)
            self.builder.book.leavings.add(what, self._said(at), note)
        return found

    def _said(self, at: Cell) -> str:
        return f"{self.builder.sheet.name}!{at.text}"


def _without_cells(row: Any) -> Any:
    """A row with its attributes alone."""
    return row.makeelement(row.tag, row.attrib)


def _moment(text: str) -> float | str:
    """The number of a day or time in ISO 8601; what is none stays as it is written."""
    try:
        return float(to_excel(from_ISO8601(text[:40])))
    except (ValueError, TypeError, OverflowError):
        return text


def _number(text: str) -> float | str:
    try:
        number = float(text)
    except ValueError:
        return text
    return number if math.isfinite(number) else text
