"""Replacing what is found."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.editing.searching import Places, Search, everywhere, replaced
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import EVERYWHERE, Area
from dreieck.core.words.counting import many
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.actions.context import Context, action


class Sought(BaseModel):
    """What is looked for, where, and what is to stand there instead."""

    sought: str = ""
    within: Literal["values", "formulas"] = "formulas"
    whole: bool = False
    case: bool = False
    where: Literal["sheet", "selection", "all"] = "sheet"
    selected: str = Field("", max_length=4_000)
    replacement: str = Field("", max_length=1_000)

    @property
    def search(self) -> Search:
        """The same as the core says it."""
        return Search(self.sought, self.within, self.whole, self.case)

    def places(self, opened: OpenWorkbook, sheet_id: int) -> Places:
        """Where is looked. Raises DreieckError."""
        if self.where == "all":
            return everywhere(opened.workbook)
        sheet = opened.workbook.sheet_by_id(sheet_id)
        if self.where == "sheet":
            return [(sheet, EVERYWHERE)]
        return [(sheet, Area.parse(each)) for each in self.selected.split(",") if each]


@action()
def replace_all(context: Context, wish: Sought) -> str:
    """Replace all that is found, as one action."""
    places = wish.places(context.opened, context.state.sheet)
    made = replaced(context.opened.calculation, places, wish.search, wish.replacement)
    left = sum(1 for each in made.cells if each.problem)
    if not made.edits:
        why = f"{many(left, 'place')} would not do" if left else "it is not found"
        raise DreieckError(f"Nothing is replaced: {why}.")
    context.change(f"replacing “{wish.sought[:30]}”", *made.edits)
    said = f"Replaced in {many(len(made.cells) - left, 'cell')}. Ctrl+Z takes it back."
    return f"{said} In {many(left, 'cell')} it would not do, so it stays." if left else said
