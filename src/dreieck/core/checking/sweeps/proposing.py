"""A sweep for an input: over which values it could run, and what is worth seeing."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from dreieck.core.analysis.totalling import totals_above
from dreieck.core.calculate import Calculation
from dreieck.core.calculate.read_map import touched_areas
from dreieck.core.calculate.runs import Runs
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.grid import Area
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Place
from dreieck.core.values.decimals import joined_text

_SEEN = 3
_TRIED = 12
_LOOKED_AT = 400
_CLOSE = 1e-9


@dataclass(frozen=True, slots=True)
class Range:
    """Values to run over, as one would type them."""

    low: str
    high: str
    step: str


def values_for(calculation: Calculation, place: Place) -> Range:
    """The values over which an input could run: around the one that it holds."""
    value = calculation.value(place.sheet, place.cell)
    look = calculation.workbook.sheet(place.sheet).look(place.cell)
    if not isinstance(value, float) or value == 0:
        return Range("0", "10", "1")
    if look.form == "percent":
        step = 0.01 if abs(value) < 0.05 else 0.05
        high = max(3 * value, 5 * step)
        return Range("0%", f"{joined_text(round(high * 100))}%", f"{joined_text(step * 100)}%")
    step = float(f"{abs(value) / 10:.1g}")
    low = round(value / 2 / step) * step
    return Range(*(joined_text(float(f"{each:.12g}")) for each in (low, low + 10 * step, step)))


def results_for(calculation: Calculation, place: Place) -> list[str]:
    """Cells that answer to an input and are worth seeing: results, then totals, then ends."""
    area = Area.of(place.cell)
    touched = list(touched_areas(calculation.read_map(), place.sheet, [area]))
    found = dict.fromkeys(_marked(calculation, touched))
    found |= dict.fromkeys(_totals(calculation, touched))
    reads = calculation.read_map().reading
    for sheet, each in sorted(touched, key=lambda end: end[1].size):
        read = any(not other.area.within(each) for other in reads(sheet, each))
        if each.size == 1 and not read:
            found.setdefault(Place(sheet, each.first))
    answering = _answering(calculation, place, list(found)[:_TRIED])
    if not answering and touched:
        sheet, each = touched[-1]
        return [area_text(each, sheet)]
    return [place_text(each) for each in answering[:_SEEN]]


def _answering(calculation: Calculation, place: Place, found: list[Place]) -> list[Place]:
    """Those cells that hold numbers, and others where the input holds another value."""
    value = calculation.value(place.sheet, place.cell)
    other = value * 1.1 + 0.1 if isinstance(value, float) else 1.0
    results = Runs(calculation, [place], found).of([Cells.numbers(np.array([other]))])
    return [
        each
        for each, cells in zip(found, results, strict=True)
        if isinstance(before := calculation.value(each.sheet, each.cell), float)
        and isinstance(after := cells.value(0), float)
        and abs(after - before) > _CLOSE * max(abs(after), abs(before))
    ]


def _totals(calculation: Calculation, touched: list[tuple[str, Area]]) -> list[Place]:
    """The totals among some cells, the last ones first."""
    found = []
    for name, area in touched:
        for cell, shape in calculation.workbook.sheet(name).formulas(area):
            if totals_above(shape, cell):
                found.append(Place(name, cell))
            if len(found) >= _LOOKED_AT:
                break
    return sorted(found, key=lambda each: (-each.cell.column, -each.cell.row))


def _marked(calculation: Calculation, touched: list[tuple[str, Area]]) -> Iterator[Place]:
    """The cells among some that are marked as results, and hold numbers."""
    for name, area in touched:
        sheet = calculation.workbook.sheet(name)
        for cell, look in sheet.looked(area):
            if look.role == "result" and area.holds(cell):
                kind = calculation.cells(name, cell.column, cell.row, cell.row).kinds[0]
                if kind == Kind.NUMBER:
                    yield Place(name, cell)
