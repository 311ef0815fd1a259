"""How cells look; the result of a formula brings a look along where its cell has none."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from dreieck.core.formula import Shape, tree
from dreieck.core.functions import find
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import Look, shown_text

if TYPE_CHECKING:
    from dreieck.core.calculate.calculation import Calculation


def look_at(sheet: Sheet, cell: Cell) -> Look:
    """The look of a cell of a sheet, as ``look_of`` tells it."""
    return look_of(sheet.content(cell), sheet.look(cell))


def text_at(calculation: Calculation, sheet: Sheet, cell: Cell, room: int) -> str:
    """The value of a cell as it looks there, with ``room`` characters."""
    value = calculation.value(sheet.name, cell)
    return shown_text(value, look_at(sheet, cell), room, calculation.workbook.locale)


def look_of(content: Content | None, look: Look) -> Look:
    """The look of a cell; a formula such as ``=TODAY()`` brings its number format along."""
    if look.form == "general" and isinstance(content, Shape):
        node = content.tree
        function = find(node.function) if isinstance(node, tree.Call) else None
        if function and function.gives:
            return replace(look, form=function.gives)
    return look
