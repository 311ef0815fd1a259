"""A workbook: its sheets in order, found by name or number."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.exceptions import SheetError
from dreieck.core.formula import Shape
from dreieck.core.formula.over_sheets import read_over_sheets
from dreieck.core.formula.reference import Reference
from dreieck.core.formula.tree import Node
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content, Entry, read_entry, typed_text
from dreieck.core.sheet.feed import Feed
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import Answer, Proof, Sort, Stated, Sweep
from dreieck.core.values.locales import NEUTRAL

MAX_SHEET_NAME = 64
"""How many characters the name of a sheet can have."""


class Workbook:
    """Sheets in their order."""

    def __init__(self, name: str = "") -> None:
        self.name = name
        self.sheets: list[Sheet] = []
        self.names: dict[str, Named] = {}
        """Names by their text without case."""
        self.feeds: dict[str, Feed] = {}
        """Outside figures by their codes without case."""
        self.proofs: tuple[Proof, ...] = ()
        self.sweeps: tuple[Sweep, ...] = ()
        self.answers: tuple[Answer, ...] = ()
        self.seed = 0
        """What the numbers that are drawn by chance follow from."""
        self.locale = NEUTRAL
        """How numbers and dates are written: see ``values.locales``."""

    def sheet(self, name: str) -> Sheet:
        """The sheet of this name; case does not count. Raises SheetError."""
        for sheet in self.sheets:
            if sheet.name.casefold() == name.casefold():
                return sheet
        raise SheetError(f"There is no sheet “{name}” in this workbook.")

    def sheet_by_id(self, id: int) -> Sheet:
        """The sheet with this number. Raises SheetError."""
        for sheet in self.sheets:
            if sheet.id == id:
                return sheet
        raise SheetError("This sheet is no longer in the workbook.")

    def has_sheet(self, name: str) -> bool:
        """Whether there is a sheet of this name."""
        return any(sheet.name.casefold() == name.casefold() for sheet in self.sheets)

    def typed(self, content: Content | None, at: Cell) -> str:
        """The text that gives a content if it is typed into a cell of this workbook."""
        return typed_text(content, at, locale=self.locale)

    def called(self, name: str) -> str | None:
        """A sheet's own spelling of its name; None where there is none of this name."""
        return self.sheet(name).name if self.has_sheet(name) else None

    def content(self, sheet: str, cell: Cell) -> Content | None:
        """What a cell holds."""
        return self.sheet(sheet).content(cell)

    def stated(self, sort: Sort) -> tuple[Stated, ...]:
        """The proofs, the sweeps, or the answers to findings."""
        found: tuple[Stated, ...] = getattr(self, sort)
        return found

    def feed(self, code: str) -> Feed:
        """What is known of a feed; there may be no figure yet."""
        return self.feeds.get(code.casefold(), Feed(code))

    def copy(self, *changed: Sheet) -> Workbook:
        """A workbook to try changes of sheets, names and proofs on.

        It is good until this one changes.
        """
        other = Workbook(self.name)
        other.feeds = self.feeds.copy()
        other.proofs, other.sweeps, other.answers = self.proofs, self.sweeps, self.answers
        other.names, other.seed, other.locale = self.names.copy(), self.seed, self.locale
        other.sheets = [each.copy() if each in changed else each for each in self.sheets]
        return other

    def named(self, name: str) -> Shape | None:
        """What a name stands for."""
        found = self.names.get(name.casefold())
        return found.shape if found else None

    def read_entry(self, text: str, at: Cell) -> Entry:
        """Understand typed text, with sheets spelled as this workbook spells them."""
        entry = read_entry(text, at, self.locale)
        if not isinstance(entry.content, Shape):
            return entry
        shape = Shape.of(read_over_sheets(entry.content.tree, at, self.called))
        return replace(entry, content=shape.changed(self._spelled))

    def _spelled(self, reference: Reference) -> Node:
        called = self.called(reference.sheet) if reference.sheet else None
        return reference.on_sheet(called) if called else reference


def checked_sheet_name(name: str, taken: Iterator[str]) -> str:
    """The name for a sheet, trimmed. Raises SheetError where it cannot be one."""
    name = name.strip()
    if not name:
        raise SheetError("A sheet needs a name.")
    if len(name) > MAX_SHEET_NAME:
        raise SheetError(f"The name of a sheet can have {MAX_SHEET_NAME} characters.")
    if wrong := next((c for c in name if c in "!:[]" or not c.isprintable()), None):
        raise SheetError(f"“{wrong}” cannot stand in the name of a sheet.")
    if name.casefold() in (other.casefold() for other in taken):
        raise SheetError(f"There is a sheet “{name}” already. Give this one another name.")
    return name
