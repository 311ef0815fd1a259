"""Plan a rehearsal of 100,000 landings and find what is in doubt, against computing them."""

from __future__ import annotations

from bench.sheets import workbook
from bench.timing import ratio
from dreieck.core.calculate import Calculation, block_at
from dreieck.core.checking.findings import block_findings
from dreieck.core.editing.fill import plan_fill
from dreieck.core.grid import Area, Cell

ASKED = 3.0
TITLE = "rehearsal of 100,000 landings with its findings / computing them"
ROWS = 100_000


def measure() -> float:
    """How many times longer the rehearsal with its findings takes."""
    numbers = [float(row % 97 + 1) for row in range(ROWS)]
    made = workbook(A=numbers, B=numbers, G=[1.5])
    start = Cell(3, 1)
    content = made.read_entry("=ROUND(A1*B1*$G$1,2)", start).content
    known = Calculation(made)

    def planned() -> tuple[Calculation, Area]:
        target = Area(3, 1, 3, ROWS)
        fill = plan_fill(made, 1, Area.of(start), target, {start: content})
        return known.with_edits([fill.edit()]), target

    def check() -> None:
        rehearsed, _ = planned()
        sheet = rehearsed.workbook.sheets[0]
        block = block_at(sheet, start)
        assert block is not None and block_findings(rehearsed, sheet, block) == ()

    ready = planned()[0].workbook

    def compute() -> None:
        Calculation(ready).cells("Loads", 3, 1, ROWS)

    return ratio(check, compute, rounds=3)
