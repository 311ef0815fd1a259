"""Who reads a cell: directly, and over other cells.

The question is answered by blocks, not by cells.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

from dreieck.core.address import Area
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.calculate.reads import read_references, where_reads
from dreieck.core.values import Place
from dreieck.core.workbook import Workbook

MOST = 400
"""How many areas of readers are followed; beyond that the count is told as a lower bound."""


@dataclass(frozen=True, slots=True)
class Readers:
    """The formula areas that read a cell directly, and the counts of cells.

    ``further`` counts the cells that read it over others only; ``all_counted`` is false
    where there were too many to follow.
    """

    direct: tuple[tuple[str, Area], ...]
    direct_count: int
    further: int
    all_counted: bool


def readers(workbook: Workbook, place: Place) -> Readers:
    """Who reads a cell."""
    known = [(sheet.name, patch) for sheet in workbook.sheets for patch in patches(sheet)]
    direct = _reading(known, place.sheet, Area.of(place.cell))
    seen: dict[tuple[str, Area], None] = dict.fromkeys(direct)
    waiting = list(direct)
    while waiting and len(seen) < MOST:
        for found in _reading(known, *waiting.pop()):
            if not any(s == found[0] and _within(found[1], a) for s, a in seen):
                seen[found] = None
                waiting.append(found)
    count = _count(direct)
    itself = any(_holds(each, place) for each in seen) - any(
        _holds(each, place) for each in direct
    )
    return Readers(tuple(direct), count, _count(seen) - count - itself, all_counted=not waiting)


def _reading(known: list[tuple[str, Patch]], sheet: str, area: Area) -> list[tuple[str, Area]]:
    """The parts of formula areas that read some of an area."""
    found: dict[tuple[str, Area], None] = {}
    for name, patch in known:
        for reference in read_references(patch.shape):
            if (reference.sheet or name).casefold() != sheet.casefold():
                continue
            where = where_reads(reference, area)
            shared = where.common(patch.area) if where else None
            if shared:
                found[name, shared] = None
    return list(found)


def _count(areas: Iterable[tuple[str, Area]]) -> int:
    """How many cells the areas cover, each counted once: by strips between their edges."""
    by_sheet: dict[str, list[Area]] = {}
    for sheet, area in areas:
        by_sheet.setdefault(sheet, []).append(area)
    return sum(
        (right - left) * _length([a for a in each if a.left <= left <= a.right])
        for each in by_sheet.values()
        for left, right in pairwise(sorted({edge for a in each for edge in (a.left, a.right + 1)}))
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


def _within(inner: Area, outer: Area) -> bool:
    return outer.holds(inner.first) and outer.holds(inner.last)
