"""Who reads a cell: directly, and over other cells.

The question is answered by blocks, not by cells.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.grid import Area
from dreieck.core.values import Place

MAX_AREAS = 400
"""How many areas of readers are followed; beyond that the count is told as a lower bound."""


@dataclass(frozen=True, slots=True)
class Dependents:
    """The formula areas that read a cell directly, and the counts of cells.

    ``further`` counts the cells that read it over others only; ``all_counted`` is false
    where there were too many to follow.
    """

    direct: tuple[tuple[str, Area], ...]
    direct_count: int
    further: int
    all_counted: bool


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
    count = _count(direct)
    itself = any(_holds(each, place) for each in seen) - any(
        _holds(each, place) for each in direct
    )
    return Dependents(tuple(direct), count, _count(seen) - count - itself, all_counted=not waiting)


def _reading(calculation: Calculation, sheet: str, area: Area) -> list[tuple[str, Area]]:
    """The parts of formula areas that read some of an area."""
    found = calculation.read_map().reading(sheet, area)
    return list(dict.fromkeys((name, reads) for name, _, reads in found))


def _count(areas: Iterable[tuple[str, Area]]) -> int:
    """How many cells the areas cover, each counted once."""
    by_sheet: dict[str, list[Area]] = {}
    for sheet, area in areas:
        by_sheet.setdefault(sheet, []).append(area)
    return sum(_size(each) for each in by_sheet.values())


def _size(areas: list[Area]) -> int:
    """How many cells areas of one sheet cover: between two edges all columns are alike."""
    edges = sorted({edge for area in areas for edge in (area.left, area.right + 1)})
    return sum(
        (right - left) * _length([area for area in areas if area.left <= left <= area.right])
        for left, right in pairwise(edges)
    )


def _length(areas: list[Area]) -> int:
    """How many rows the areas cover, each counted once."""
    covered, reached = 0, 0
    for area in sorted(areas, key=lambda each: each.top):
        covered += max(area.bottom - max(area.top - 1, reached), 0)
        reached = max(reached, area.bottom)
    return covered


def _holds(area: tuple[str, Area], place: Place) -> bool:
    return area[0] == place.sheet and area[1].holds(place.cell)
