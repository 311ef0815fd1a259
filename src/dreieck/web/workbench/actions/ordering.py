"""Rows of the selection put in order by columns."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from dreieck.core.editing.ordering import Key, Ordered, ordered, rows_of
from dreieck.core.grid import Area, column_number
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.counting import many
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.actions.context import Context, action
from dreieck.web.workbench.actions.lines import change_lines

Way = Literal["up", "down"]
_COLUMN = Field("", pattern="[A-Za-z]{0,3}")


class Order(BaseModel):
    """The table whose rows are ordered, and by which columns; with ``headed`` its first row stays.

    Further columns count where those before them are alike.
    """

    table: str = ""
    headed: bool = False
    by1: str = _COLUMN
    way1: Way = "up"
    by2: str = _COLUMN
    way2: Way = "up"
    by3: str = _COLUMN
    way3: Way = "up"

    @property
    def keys(self) -> list[Key]:
        """The columns that are chosen. Raises AddressError."""
        pairs = ((self.by1, self.way1), (self.by2, self.way2), (self.by3, self.way3))
        return [Key(column_number(by), way == "down") for by, way in pairs if by]


def in_order(opened: OpenWorkbook, sheet: Sheet, wish: Order) -> tuple[Area, Ordered]:
    """The rows that are ordered, and what that leads to. Raises DreieckError."""
    rows = rows_of(sheet, Area.parse(wish.table), headed=wish.headed)
    return rows, ordered(opened.calculation, sheet, rows, wish.keys)


@action()
def order_rows(context: Context, wish: Order) -> str:
    """Put rows in order."""
    rows, made = in_order(context.opened, context.sheet, wish)
    if not made.moved:
        return "These rows are in that order already."
    change_lines(context, f"ordering {rows.text}", list(made.edits))
    context.state.select(rows)
    areas = [area for each in made.strays if not each.follows for area in each.areas]
    strays = sum(area.size for area in areas)
    warns = f" {many(strays, 'formula')} could not follow." if strays else ""
    return f"{many(made.moved, 'row')} changed places.{warns} Ctrl+Z takes it back."
