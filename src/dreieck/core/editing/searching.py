"""Finding text in what cells show or hold, formulas of one shape, and replacing what is found."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import Literal

from dreieck.core.calculate import Calculation, look_of
from dreieck.core.calculate.blocks import areas_by_shape
from dreieck.core.editing.entering import entered
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import EVERYWHERE, Area, Cell
from dreieck.core.sheet.content import Content, Unreadable, typed_text
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import Look, shown_text

MAX_HITS = 10_000
"""How many cells are found, and replaced, at once."""
MAX_TEXT = 1_000
_ROOM = 400


@dataclass(frozen=True, slots=True)
class Search:
    """What is looked for: a text in what cells show, or in their entries, as they are typed.

    ``whole`` says that it is all of that, ``case`` that capitals count.
    """

    text: str
    within: Literal["values", "formulas"] = "formulas"
    whole: bool = False
    case: bool = False

    @property
    def pattern(self) -> re.Pattern[str]:
        """What matches. Raises DreieckError for a text that cannot be looked for."""
        if not self.text or len(self.text) > MAX_TEXT:
            raise DreieckError(f"Say what is to be found, in at most {MAX_TEXT:,} characters.")
        plain = re.escape(self.text)
        flags = 0 if self.case else re.IGNORECASE
        return re.compile(rf"\A{plain}\Z" if self.whole else plain, flags)


@dataclass(frozen=True, slots=True)
class Hit:
    """A cell in which something was found, and the text in which it stands."""

    sheet: Sheet
    cell: Cell
    text: str


@dataclass(frozen=True, slots=True)
class Replacement:
    """A cell, its entry before and after; ``problem`` says why it is left as it is."""

    sheet: Sheet
    cell: Cell
    before: str
    after: str
    problem: str = ""


Places = Sequence[tuple[Sheet, Area]]
"""Where is looked: areas of sheets, in order."""


def everywhere(workbook: Workbook) -> Places:
    """All sheets."""
    return [(sheet, EVERYWHERE) for sheet in workbook.sheets]


def found(calculation: Calculation, places: Places, search: Search) -> Iterator[Hit]:
    """The cells in which a text stands, sheet by sheet and row by row, at most so many.

    Raises DreieckError for a text that cannot be looked for.
    """
    pattern = search.pattern
    count = 0
    for sheet, area in places:
        hits = [
            Hit(sheet, cell, text)
            for cell, content in sheet.filled(area)
            if pattern.search(text := _text(calculation, sheet, cell, content, search.within))
        ]
        for hit in sorted(hits, key=lambda hit: (hit.cell.row, hit.cell.column)):
            count += 1
            if count > MAX_HITS:
                return
            yield hit


def alike(workbook: Workbook, shape: Shape) -> list[tuple[Sheet, Area]]:
    """Where the formulas stand that are said like this one by position, spelling aside."""
    return [
        (sheet, area)
        for sheet in workbook.sheets
        for other, areas in areas_by_shape(sheet).items()
        if other.plain is shape.plain
        for area in areas
    ]


def _text(
    calculation: Calculation, sheet: Sheet, cell: Cell, content: Content, within: str
) -> str:
    look = sheet.look(cell)
    if within == "formulas" or isinstance(content, Unreadable):
        return typed_text(content, cell, look, calculation.workbook.locale)
    value, locale = calculation.value(sheet.name, cell), calculation.workbook.locale
    return shown_text(value, look_of(content, look), _ROOM, locale)


@dataclass
class Replaced:
    """What replacing comes to: cell by cell, and the edits."""

    cells: list[Replacement] = field(default_factory=list)
    edits: list[Edit] = field(default_factory=list)


def replaced(
    calculation: Calculation, places: Places, search: Search, replacement: str
) -> Replaced:
    """Replace a text in the entries of cells, as if they were typed anew.

    An entry that could not be read as a formula any more stays, with the reason; so does a
    formula where only what cells show is looked through. Raises DreieckError.
    """
    workbook, pattern = calculation.workbook, search.pattern
    made = Replaced()
    changed: dict[int, dict[Cell, tuple[Content | None, Look]]] = {}
    for hit in found(calculation, places, search):
        content, look = hit.sheet.content(hit.cell), hit.sheet.look(hit.cell)
        before = typed_text(content, hit.cell, look, workbook.locale)
        if search.within == "values" and isinstance(content, Shape):
            problem = "a result; look in formulas to change what gives it"
            made.cells.append(Replacement(hit.sheet, hit.cell, before, before, problem))
            continue
        after = pattern.sub(lambda _: replacement, before)
        if after == before:
            continue
        new = entered(workbook, hit.cell, after, look)
        problem = ""
        if isinstance(new.content, Unreadable):
            problem = str(new.entry.problem)
        else:
            changed.setdefault(hit.sheet.id, {})[hit.cell] = (new.content, new.look)
        made.cells.append(Replacement(hit.sheet, hit.cell, before, after, problem))
    made.edits.extend(SetCells.of(id, cells) for id, cells in changed.items())
    return made
