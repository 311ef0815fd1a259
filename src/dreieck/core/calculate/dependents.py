"""Who reads a cell: directly, and over other cells.

The question is answered by blocks, not by cells.
"""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import Area
from dreieck.core.grid.areas import covered
from dreieck.core.values import Place

MAX_AREAS = 400
"""How many areas of readers are followed; beyond that the count is told as a lower bound."""


@dataclass(frozen=True, slots=True)
class Dependents:
    """The formula areas that read a cell directly, and the counts of cells.

    ``further`` counts the cells that read it over others only; ``all_counted`` is false
    where there were too many to follow. ``perhaps`` are formulas that find their place while
    they are worked out, and may read it too.
    """

    direct: tuple[tuple[str, Area], ...]
    direct_count: int
    further: int
    all_counted: bool
    perhaps: tuple[tuple[str, Area], ...]


def dependents(calculation: Calculation, place: Place) -> Dependents:
    """Who reads a cell, also by names."""
    direct = _reading(calculation, place.sheet, Area.of(place.cell))
    seen: dict[tuple[str, Area], None] = dict.fromkeys(direct)
    waiting = list(direct)
    while waiting and len(seen) < MAX_AREAS:
        for found in _reading(calculation, *waiting.pop()):
            if not any(s == found[0] and found[1].within(a) for s, a in seen):
                seen[found] = None
                waiting.append(found)
    count = covered(direct)
    itself = any(_holds(each, place) for each in seen) - any(
        _holds(each, place) for each in direct
    )
    further = covered(seen) - count - itself
    perhaps = tuple((each.sheet, each.area) for each in calculation.read_map().anywhere)
    return Dependents(tuple(direct), count, further, not waiting, perhaps)


def _reading(calculation: Calculation, sheet: str, area: Area) -> list[tuple[str, Area]]:
    """The parts of formula areas that read some of an area."""
    found = calculation.read_map().reading(sheet, area)
    return list(dict.fromkeys((name, reads) for name, _, reads in found))


def _holds(area: tuple[str, Area], place: Place) -> bool:
    return area[0] == place.sheet and area[1].holds(place.cell)
