"""How the result of a formula looks where its cell has no number format."""

from __future__ import annotations

from dataclasses import replace

from dreieck.core.formula import Shape, tree
from dreieck.core.functions import find
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.look import Look


def look_at(sheet: Sheet, cell: Cell) -> Look:
    """The look of a cell of a sheet, as ``look_of`` tells it."""
    return look_of(sheet.content(cell), sheet.look(cell))


def look_of(content: Content | None, look: Look) -> Look:
    """The look of a cell; a formula such as ``=TODAY()`` brings its number format along."""
    if look.form == "general" and isinstance(content, Shape):
        node = content.tree
        function = find(node.function) if isinstance(node, tree.Call) else None
        if function and function.gives:
            return replace(look, form=function.gives)
    return look
