"""Numbers typed inside formulas, found once for a sheet."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.typed_numbers import PLAIN_NUMBERS, numbers_inside
from dreieck.core.calculate.blocks import patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.grid import Area
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import number_text
from dreieck.core.words.counting import listed


@sheet_rule("number-inside")
def number_findings(_: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """The same number typed inside several formulas."""
    areas: dict[float, list[Area]] = {}
    for patch in patches(sheet):
        for number in dict.fromkeys(numbers_inside(patch.shape)):
            areas.setdefault(number, []).append(patch.area)
    for number, where in areas.items():
        cells = joined(where)
        count = sum(area.size for area in cells)
        if number not in PLAIN_NUMBERS and count > 1:
            text = number_text(number)
            yield Finding(
                "note",
                sheet.name,
                cells,
                f"{text} is typed inside {count:,} formulas: {listed(cells)}.",
                "Whoever changes it has to find all of them. A cell of its own holds it once.",
            )
