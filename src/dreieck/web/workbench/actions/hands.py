"""Who acts on the workbench: an open workbook, and a page's state and wish."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import Edit
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.ambiguous import Other
from dreieck.store import Library, OpenWorkbook
from dreieck.web.workbench.situation import Situation
from dreieck.web.workbench.state import Wish


@dataclass(frozen=True)
class Hands:
    """An open workbook, and what a page says of itself and wants."""

    opened: OpenWorkbook
    wish: Wish
    library: Library
    offers: list[tuple[str, Other]] = field(default_factory=list)
    """Other readings of what was entered, with its cell, which the notice offers."""

    @property
    def sheet(self) -> Sheet:
        """The sheet that the page shows. Raises SheetError."""
        return self.opened.workbook.sheet_by_id(self.wish.sheet)

    @property
    def home(self) -> Sheet:
        """The sheet that is written or rehearsed on. Raises SheetError."""
        return self.opened.workbook.sheet_by_id(self.wish.home or self.wish.sheet)

    @property
    def writing_cell(self) -> Cell:
        """The cell that is written into."""
        return Cell.parse(self.wish.writing or self.wish.anchor)

    def situation(self) -> Situation:
        """The page's state, looked up."""
        return Situation(self.opened, self.wish)

    def change(self, label: str, *edits: Edit) -> None:
        """Make edits as one action, for the revision that the page shows."""
        self.opened.change(label, list(edits), self.wish.revision)

    def show_sheet(self, sheet: Sheet, area: Area | None = None) -> None:
        """Show a sheet, and select an area of it unless something is being written."""
        wish = self.wish
        if sheet.id != wish.sheet:
            if wish.text is not None or wish.target:
                wish.home = wish.home or wish.sheet
            wish.sheet, wish.left, wish.top = sheet.id, 1, 1
            if wish.home == sheet.id:
                wish.home = 0
            area = area or Area(1, 1, 1, 1)
        if area and not wish.target:
            wish.select(area)


Action = Callable[[Hands], str]
"""Changes the workbook or the page's state, and returns what is told to the user.

Raises DreieckError or StoreError where it refuses.
"""

ACTIONS: dict[str, Action] = {}


def action(function: Action) -> Action:
    """Make a function an action; its name with hyphens is the action's."""
    ACTIONS[function.__name__.replace("_", "-")] = function
    return function
