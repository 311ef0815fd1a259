"""Large made-up sheets for the figures."""

from __future__ import annotations

import numpy as np

from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN


def workbook(**columns: object) -> Workbook:
    """A workbook with one sheet, *Loads*, whose columns hold lists of numbers or texts."""
    made = Workbook("Figures")
    sheet = Sheet(1, "Loads")
    made.sheets.append(sheet)
    for letter, values in columns.items():
        number = Area.parse(letter + "1").left
        if isinstance(values, np.ndarray):
            sheet.put_cells(number, 1, Cells.numbers(values))
        else:
            sheet.put_cells(number, 1, Cells.of(values))  # type: ignore[arg-type]  # a list
    return made


def fill(made: Workbook, start: str, target: str, formula: str) -> None:
    """Type a formula and fill it."""
    cell = Cell.parse(start)
    sheet = made.sheets[0]
    sheet.put(cell, made.read_entry(formula, cell).content, PLAIN)
    plan_fill(made, 1, Area.of(cell), Area.parse(target)).edit().apply(made)
