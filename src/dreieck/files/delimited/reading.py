"""Reading a table of text into a sheet, column by column in stretches."""

from __future__ import annotations

import csv
import io
import re
from collections import Counter
from itertools import islice, zip_longest
from typing import NamedTuple

import numpy as np

from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.content import MAX_ENTRY
from dreieck.core.sheet.layout import Headings, Layout
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import PLAIN, Look
from dreieck.files.arrived import Arrived, Leavings, LeftOut
from dreieck.files.building import MAX_CELLS, WorkbookBuilder
from dreieck.files.delimited.guessing import decoded_start, reader, rows
from dreieck.files.delimited.numbers import Meanings
from dreieck.files.exceptions import FileRefused
from dreieck.files.progress import Progress
from dreieck.files.settings import Settings

_STRETCH = 16_384
_PLAIN = frozenset("0123456789.-+eE")
_NOT_PLAIN = re.compile(r"(?:^|\n)[-+]?(?:0\d|\.|\n|$|[eE])|[eE](?![-+]?\d{1,2}(?:\n|$))")
_HEADING = Look(role="heading")
_SHOWN = 12
_MAX_WIDTH = 2_000


class Preview(NamedTuple):
    """The first rows of a table as they will be read: texts, and whether each is a number."""

    rows: list[list[tuple[str, bool]]]
    notes: list[str]


def preview(data: bytes, settings: Settings) -> Preview:
    """What the first rows of a table say. Raises FileRefused."""
    text = decoded_start(data, settings.checked().encoding)
    meanings = Meanings(settings)
    found: list[list[tuple[str, bool]]] = []
    notes: Counter[str] = Counter()
    for number, line in enumerate(rows(text, settings.separator, settings.quote), 1):
        row: list[tuple[str, bool]] = []
        for cell in line[:50]:
            said = meanings.of(cell, Cell(1, 1))
            if said.note and not (settings.header and number == 1):
                notes[said.note] += 1
            is_number = isinstance(said.content, float) and not (settings.header and number == 1)
            row.append((cell[:60], is_number))
        if len(found) < _SHOWN:
            found.append(row)
    told = [LeftOut(what, count, note=_NOTES[what]).says for what, count in notes.items()]
    return Preview(found, told)


def read(data: bytes, name: str, settings: Settings, progress: Progress) -> Arrived:
    """Read a table into a workbook with one sheet called ``name``. Raises FileRefused."""
    builder = WorkbookBuilder(progress)
    sheet = builder.add_sheet(name).sheet
    table = _Table(sheet, settings.checked(), builder.leavings)
    source = io.BytesIO(data)
    lines = io.TextIOWrapper(source, encoding=settings.encoding, errors="replace", newline="")
    rows = reader(lines, settings.separator, settings.quote)
    top = 1
    try:
        while stretch := list(islice(rows, _STRETCH)):
            progress.at(source.tell() / max(len(data), 1))
            table.take(stretch, top)
            top += len(stretch)
            if top - 1 > MAX_ROW:
                raise FileRefused(
                    f"The table has more than {MAX_ROW:,} rows, the most of a sheet."
                )
    except csv.Error as error:
        raise FileRefused(
            f"Line {rows.line_num} of the table cannot be read: {error}."
            " Is a quotation mark missing?"
        ) from None
    if top == 1:
        raise FileRefused("The file is empty.")
    if settings.header:
        sheet.layout = Layout(headings=Headings(rows=1))
    return Arrived(builder.finish(), builder.leavings.listed())


class _Table:
    """Takes rows, many at a time."""

    def __init__(self, sheet: Sheet, settings: Settings, leavings: Leavings) -> None:
        self.sheet = sheet
        self.settings = settings
        self.leavings = leavings
        self.meanings = Meanings(settings)
        self.cells = 0

    def take(self, rows: list[list[str]], top: int) -> None:
        """Put rows below those that were taken before."""
        if top == 1:
            rows[0] = [each.removeprefix("\ufeff") for each in rows[0][:1]] + rows[0][1:]
            if self.settings.header:
                self._headings(rows[0])
                rows, top = rows[1:], 2
        width = max(map(len, rows), default=0)
        if width > min(_MAX_WIDTH, MAX_COLUMN):
            raise FileRefused(
                f"A row of the table has {width:,} cells; it can have {_MAX_WIDTH:,}. Perhaps"
                " another separator is meant."
            )
        self.cells += sum(map(len, rows))
        if self.cells > MAX_CELLS:
            raise FileRefused(f"The table has more than {MAX_CELLS:,} cells.")
        for column, texts in enumerate(zip_longest(*rows, fillvalue=""), 1):
            self._column(column, top, texts)

    def _headings(self, texts: list[str]) -> None:
        for column, text in enumerate(texts, 1):
            self.sheet.put(Cell(column, 1), text[:MAX_ENTRY] or None, _HEADING)

    def _column(self, column: int, top: int, texts: tuple[str, ...]) -> None:
        numbers = self._numbers(texts)
        if numbers is not None:
            self.sheet.put_cells(column, top, numbers)
            return
        contents = []
        run: tuple[int, Look] | None = None
        for row, text in enumerate(texts, top):
            said = self.meanings.of(text, Cell(column, row))
            content = said.content
            if said.note:
                place = f"{self.sheet.name}!{Cell(column, row).text}"
                self.leavings.add(said.note, place, _NOTES[said.note])
            if isinstance(content, str) and len(content) > MAX_ENTRY:
                place = f"{self.sheet.name}!{Cell(column, row).text}"
                self.leavings.add("text of too many characters", place, "the rest was cut")
                content = content[:MAX_ENTRY]
            contents.append(content)
            if run is None or (run[1] is not said.look and run[1] != said.look):
                self._dress(column, run, row - 1)
                run = (row, said.look)
        self._dress(column, run, top + len(texts) - 1)
        self.sheet.put_cells(column, top, Cells.of(contents))  # type: ignore[arg-type]

    def _dress(self, column: int, run: tuple[int, Look] | None, bottom: int) -> None:
        if run and run[1] is not PLAIN:
            self.sheet.dress(column, run[0], bottom, run[1])

    def _numbers(self, texts: tuple[str, ...]) -> Cells | None:
        """A column of plain numbers at once; None where it holds something else."""
        if self.settings.decimal == ",":
            return None
        joined = "\n".join(texts)
        if not _PLAIN.issuperset(set(joined) - {"\n"}) or _NOT_PLAIN.search(joined):
            return None
        try:
            numbers = np.array(list(map(float, texts)), np.float64)
        except ValueError:
            return None
        return Cells.numbers(numbers) if np.isfinite(numbers).all() else None


_NOTES = {
    "code with a 0 in front": "kept as text",
    "date with two digits of a year": "they mean 1950 to 2049",
    "text with the sign of a formula in front": "kept as text, so nothing of it is worked out",
    "formula": "taken as such, as you wished",
}
