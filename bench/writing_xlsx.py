"""Write Office Open XML of 100,000 cells, against the library's own writing."""

from __future__ import annotations

import io

import openpyxl

from bench.tables import COLUMNS, FORMULA, ROWS, numbers, table
from bench.timing import ratio
from dreieck.files import FORMATS, Progress, Wish, write

ASKED = 2.0
TITLE = "write Office Open XML of 100,000 cells / the library's own writing"


def measure() -> float:
    """How many times longer it takes."""
    calculation, rows = table(), numbers(ROWS)

    def own() -> None:
        book = openpyxl.Workbook()
        for number, row in enumerate(rows, 1):
            formulas = ["=" + FORMULA.format(row=number)] * (COLUMNS - 5)
            book.worksheets[0].append([*row, *formulas])
        book.save(io.BytesIO())

    return ratio(lambda: write(calculation, FORMATS["xlsx"], Wish(), Progress()), own, rounds=3)
