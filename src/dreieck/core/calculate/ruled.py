"""Which cells take a tone because the condition of a rule holds there."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.layout import Rule
from dreieck.core.values import Place, Value
from dreieck.core.values.style import Tone


def tones(
    calculation: Calculation, sheet: str, rules: Sequence[Rule], areas: Iterable[Area]
) -> dict[Cell, Tone]:
    """The tones of the cells of some areas; of several rules the first that holds counts."""
    found: dict[Cell, Tone] = {}
    for area in areas:
        for rule in rules:
            common = rule.area.common(area)
            for cell in common.cells() if common else ():
                if cell not in found and holds(calculation, sheet, rule.shape, cell):
                    found[cell] = rule.tone
    return found


def holds(calculation: Calculation, sheet: str, shape: Shape, cell: Cell) -> bool:
    """Whether a condition holds in a cell: it is true, or a number other than 0."""
    value: Value = result_at(shape, Place(sheet, cell), calculation)
    return isinstance(value, bool | float) and bool(value)
