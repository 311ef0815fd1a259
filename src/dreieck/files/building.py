"""A workbook built from a file, cell by cell, within bounds."""

from __future__ import annotations

import math
import re

from dreieck.core.editing.stating import MAX_STATED, on_sheets
from dreieck.core.exceptions import DreieckError, NameRefused
from dreieck.core.formula import Shape
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.content import MAX_ENTRY, Content, Unreadable
from dreieck.core.sheet.layout import Rule
from dreieck.core.sheet.names import Named, checked_name
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.stated import SORTS, STANDS, Sort, one_of
from dreieck.core.sheet.workbook import MAX_SHEET_NAME, Workbook, checked_sheet_name
from dreieck.core.values.look import PLAIN, Look
from dreieck.files.arrived import Leavings
from dreieck.files.exceptions import FileRefused
from dreieck.files.progress import Progress

MAX_CELLS = 3_000_000
"""How many filled cells a file can have."""
MAX_SHEETS = 250
"""How many sheets a file can have."""
MAX_NAMES = 5_000
"""How many names a file can have."""
MAX_RULES = 2_000
"""How many rules a sheet of a file can have."""
_CHUNK = 8_192
_NO_LETTERS = re.compile(r"[!:\[\]]|[^\S ]")


def bounded_rules(rules: list[Rule], leavings: Leavings, sheet: str) -> tuple[Rule, ...]:
    """The rules that a sheet can have of a file; what is more is told."""
    if len(rules) > MAX_RULES:
        leavings.add("colouring by condition", sheet, "there are too many", len(rules) - MAX_RULES)
    return tuple(rules[:MAX_RULES])


class SheetBuilder:
    """Fills a sheet: contents column by column from top to bottom, looks in runs."""

    def __init__(self, sheet: Sheet, book: WorkbookBuilder) -> None:
        self.sheet = sheet
        self.book = book
        self._columns: dict[int, tuple[list[int], list[Content]]] = {}
        self._looks: dict[int, tuple[int, int, Look]] = {}

    def put(self, column: int, row: int, content: Content | None, look: Look = PLAIN) -> None:
        """One more cell, below those of its column that came before."""
        if column > MAX_COLUMN or row > MAX_ROW:
            if content is not None:
                self.book.leavings.add("cell beyond the last row or column", self.sheet.name)
            return
        if content is not None:
            self.book.count(1)
            content = self._bounded(content, column, row)
            rows, contents = self._columns.setdefault(column, ([], []))
            rows.append(row)
            contents.append(content)
            if len(rows) >= _CHUNK:
                self._flush(column)
        if look is not PLAIN:
            self.dress(column, row, row, look)

    def put_run(self, column: int, top: int, bottom: int, content: Content | None) -> None:
        """One content for many cells below each other."""
        bottom = min(bottom, MAX_ROW)
        if content is None or top > bottom or column > MAX_COLUMN:
            return
        self.book.count(bottom - top + 1)
        content = self._bounded(content, column, top)
        self._flush(column)
        look = self.sheet.look(Cell(column, top))
        self.sheet.put_run(Run(column, top, bottom, content, look))

    def dress(self, column: int, top: int, bottom: int, look: Look) -> None:
        """How cells below each other look; each column comes from top to bottom."""
        before = self._looks.get(column)
        if before:
            if before[1] + 1 == top and before[2] == look:
                self._looks[column] = (before[0], bottom, look)
                return
            self.sheet.dress(column, *before)
        self._looks[column] = (top, bottom, look)

    def finish(self) -> None:
        """Put down what is still in hand."""
        for column in list(self._columns):
            self._flush(column)
        for column, run in self._looks.items():
            self.sheet.dress(column, *run)
        self._looks.clear()

    def _bounded(self, content: Content, column: int, row: int) -> Content:
        """What a cell can hold of it: no more characters than may be, and no endless number."""
        if isinstance(content, float) and not math.isfinite(content):
            return str(content)
        if isinstance(content, Unreadable) and len(content.text) > MAX_ENTRY:
            return self._cut(content.text, column, row)
        if isinstance(content, str) and len(content) > MAX_ENTRY:
            return self._cut(content, column, row)
        return content

    def _cut(self, text: str, column: int, row: int) -> str:
        place = f"{self.sheet.name}!{Cell(column, row).text}"
        note = f"a cell holds {MAX_ENTRY:,} characters; the rest was cut"
        self.book.leavings.add("text of too many characters", place, note)
        return text[:MAX_ENTRY]

    def _flush(self, column: int) -> None:
        rows, contents = self._columns.pop(column, ([], []))
        start = 0
        for index in range(1, len(rows) + 1):
            if index == len(rows) or rows[index] != rows[index - 1] + 1:
                made = Cells.of(contents[start:index])  # type: ignore[arg-type]
                self.sheet.put_cells(column, rows[start], made)
                start = index


class WorkbookBuilder:
    """Makes a workbook, its sheets, names, statements; what cannot be gets another name."""

    def __init__(self, progress: Progress) -> None:
        self.workbook = Workbook()
        self.leavings = Leavings()
        self.progress = progress
        self.renamed: dict[str, str] = {}
        """What sheets are called here, by what they are called in the file, without case."""
        self._cells = 0

    def count(self, cells: int) -> None:
        """So many more cells are filled. Raises FileRefused."""
        self._cells += cells
        self.progress.filled(cells)
        if self._cells > MAX_CELLS:
            raise FileRefused(
                f"The file has more than {MAX_CELLS:,} filled cells, which is what can be opened"
                " at once. Save a part of it, such as one sheet, and open that."
            )

    def add_sheet(self, name: str) -> SheetBuilder:
        """One more sheet. Raises FileRefused where there are too many."""
        if len(self.workbook.sheets) == MAX_SHEETS:
            raise FileRefused(f"The file has more than {MAX_SHEETS:,} sheets.")
        sheet = Sheet(len(self.workbook.sheets) + 1, self.named_sheet(name))
        self.workbook.sheets.append(sheet)
        return SheetBuilder(sheet, self)

    def named_sheet(self, name: str) -> str:
        """What a sheet of the file is called here."""
        known = self.renamed.get(name.casefold())
        if known is not None:
            return known
        taken = set(map(str.casefold, self.renamed.values()))
        plain = "".join(c for c in _NO_LETTERS.sub(" ", name) if c.isprintable()).strip()
        plain = plain[:MAX_SHEET_NAME].strip() or f"Sheet {len(self.renamed) + 1}"
        made, number = plain, 2
        while made.casefold() in taken:
            made = f"{plain[: MAX_SHEET_NAME - 5].strip()} {number}"
            number += 1
        checked_sheet_name(made, iter(()))
        if made != name:
            self.leavings.add("sheet name that cannot be", name[:60], "the sheet got another one")
        self.renamed[name.casefold()] = made
        return made

    def name(self, name: str, shape: Shape) -> None:
        """One more name for a formula. Raises FileRefused where there are too many."""
        if len(self.workbook.names) == MAX_NAMES:
            raise FileRefused(f"The file has more than {MAX_NAMES:,} names.")
        try:
            made = Named(checked_name(name), shape)
        except NameRefused as refusal:
            self.leavings.add("name that cannot be", name[:60], str(refusal))
            return
        if made.key in self.workbook.names:
            self.leavings.add("name of a single sheet", name[:60], "another one is called so")
            return
        self.workbook.names[made.key] = made

    def state(self, sort: Sort, text: str, number: int) -> None:
        """One more proof or sweep, when all sheets are there."""
        workbook, noun = self.workbook, one_of(sort)
        try:
            shape = on_sheets(Shape.parse(text, STANDS), workbook.sheets[0])
        except DreieckError as error:
            self.leavings.add(f"{noun} that cannot be read", text[:60], str(error))
            return
        before = workbook.stated(sort)
        numbers = {each.number for each in before}
        if number not in numbers and len(numbers) < MAX_STATED:
            setattr(workbook, sort, (*before, SORTS[sort](number, shape)))
        else:
            self.leavings.add(f"{noun} too many", text[:60])

    def finish(self) -> Workbook:
        """The workbook. Raises FileRefused where there is nothing in it."""
        if not self.workbook.sheets:
            raise FileRefused("There is no sheet in the file.")
        return self.workbook
