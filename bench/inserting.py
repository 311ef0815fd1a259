"""Insert a row above 300,000 filled rows with formulas, kept and shown, against recalculating."""

from __future__ import annotations

import numpy as np

from bench.kept import kept, land
from bench.timing import ratio
from dreieck.core.calculate import Calculation
from dreieck.core.editing.inserting import inserted
from dreieck.core.grid import Lines
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import ColumnRun
from dreieck.core.values.look import PLAIN

ASKED = 3.0
TITLE = "insert a row above 300,000 filled rows, kept and shown / recalculate"
ROWS = 300_000
FORMULAS = {2: "=ROUND(A1*1.2,2)", 3: "=IF(B1>50,B1,A1)", 4: "=SUM(A1:C1)"}


def measure() -> float:
    """How many times longer the row takes."""
    with kept() as opened:
        sheet = opened.workbook.sheets[0]
        numbers = Cells.numbers(np.random.default_rng(1).random(ROWS) * 100)
        opened.furnish([SetCells(sheet.id, (ColumnRun(1, 1, ROWS, numbers, PLAIN),))])
        for column, formula in FORMULAS.items():
            land(opened, column, formula, ROWS)

        def insert() -> None:
            edits = inserted(opened.workbook, sheet, Lines("row", 5, 1))
            opened.change("insert", edits, opened.revision)
            for column in FORMULAS:
                opened.calculation.cells(sheet.name, column, 1, 40)

        def recalculate() -> None:
            anew = Calculation(opened.workbook)
            for column in FORMULAS:
                anew.cells(sheet.name, column, 1, ROWS)

        return ratio(insert, recalculate)
