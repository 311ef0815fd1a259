"""Tables for the figures about files: half numbers, half filled formulas."""

from __future__ import annotations

import random

from dreieck.core.calculate import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN
from dreieck.files import FORMATS, Progress, Wish, write

COLUMNS = 10
ROWS = 10_000
FORMULA = "$A{row}*B{row}+1"


def numbers(rows: int) -> list[list[float]]:
    """Rows of five numbers."""
    chance = random.Random(1)
    return [[round(chance.random() * 100, 3) for _ in range(5)] for _ in range(rows)]


def table(rows: int = ROWS) -> Calculation:
    """A sheet with so many rows of ten cells, worked out."""
    workbook = Workbook("Figures")
    sheet = Sheet(1, "Loads")
    workbook.sheets.append(sheet)
    for column, values in enumerate(zip(*numbers(rows), strict=True), 1):
        sheet.put_cells(column, 1, Cells.of(values))
    shape = Shape.parse("=$A1*B1+1", Cell(6, 1))
    for column in range(6, COLUMNS + 1):
        sheet.put_run(Run(column, 1, rows, shape, PLAIN))
    calculation = Calculation(workbook)
    for column in range(6, COLUMNS + 1):
        calculation.cells(sheet.name, column, 1, rows)
    return calculation


def written(name: str, rows: int = ROWS) -> bytes:
    """The table in a format."""
    return write(table(rows), FORMATS[name], Wish(), Progress()).data
