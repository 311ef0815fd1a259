"""Which formulas read which areas, and what a change touches."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from typing import NamedTuple, Protocol

import numpy as np
from numpy.typing import NDArray

from dreieck.core.analysis.reads import crossing_references, reach, where_reads
from dreieck.core.budget import spend
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import EVERYWHERE, Area
from dreieck.core.sheet.workbook import Workbook

_READING_STEPS = 5
_NOTHING = np.empty((0, 4), np.int64)
_PIECEMEAL = 64
"""So many changes are followed one by one; then whole columns and rectangles count as changed."""


class Knows(Protocol):
    """Who knows what shapes read, by names too."""

    workbook: Workbook

    def references(self, shape: Shape) -> Iterator[Reference]:
        """What a formula reads."""

    def reads_anywhere(self, shape: Shape) -> bool:
        """Whether a formula may read more than that."""


class Reading(NamedTuple):
    """Cells of a patch that read some of an area."""

    sheet: str
    patch: Patch
    area: Area


class _Piece(NamedTuple):
    """What the patches of one sheet read of another, or of itself: areas, and by what."""

    bounds: NDArray[np.int64]
    entries: list[tuple[str, Patch, tuple[Reference, ...]]]


class _Home(NamedTuple):
    """What the patches of one sheet read, by the sheet that they read in small letters."""

    name: str
    patches: tuple[Patch, ...]
    pieces: dict[str, _Piece]
    anywhere: list[Reading]


class ReadMap:
    """For every reference of every patch, or two that cross, the area that it reads by them.

    What is known from a map ``before`` is taken over for the sheets whose formulas it tells of;
    all names have to be the same.
    """

    def __init__(self, knows: Knows, before: ReadMap | None = None) -> None:
        known = {home.name: home for home in before._homes} if before else {}
        self._homes: list[_Home] = []
        for sheet in knows.workbook.sheets:
            found, home = patches(sheet), known.get(sheet.name)
            if home is None or home.patches != found:
                home = _home(knows, sheet.name, found)
            self._homes.append(home)
        self.anywhere = [reading for home in self._homes for reading in home.anywhere]
        self._read: dict[str, _Piece] = {}

    def is_of(self, workbook: Workbook) -> bool:
        """Whether the formulas of a workbook are still those that the map tells of."""
        return [patches(sheet) for sheet in workbook.sheets] == [h.patches for h in self._homes]

    def reading(self, sheet: str, area: Area) -> Iterator[Reading]:
        """The formulas that read some of an area."""
        bounds, entries = self._piece(sheet.casefold())
        left, top, right, bottom = bounds.T
        meets = (left <= area.right) & (right >= area.left)
        meets &= (top <= area.bottom) & (bottom >= area.top)
        for index in np.flatnonzero(meets).tolist():
            name, patch, references = entries[index]
            where = _common((patch.area, *(where_reads(each, area) for each in references)))
            if where:
                yield Reading(name, patch, where)

    def _piece(self, sheet: str) -> _Piece:
        """All that is read of a sheet."""
        if sheet not in self._read:
            pieces = [home.pieces[sheet] for home in self._homes if sheet in home.pieces]
            bounds = np.concatenate([_NOTHING, *(piece.bounds for piece in pieces)])
            entries = [entry for piece in pieces for entry in piece.entries]
            self._read[sheet] = _Piece(bounds, entries)
        return self._read[sheet]


def _home(knows: Knows, name: str, found: tuple[Patch, ...]) -> _Home:
    """What some patches read, which are those of the sheet ``name``."""
    entries: dict[str, list[tuple[str, Patch, tuple[Reference, ...]]]] = {}
    areas: dict[str, list[Area]] = {}
    anywhere: list[Reading] = []
    for patch in found:
        spend(_READING_STEPS)
        if knows.reads_anywhere(patch.shape):
            anywhere.append(Reading(name, patch, patch.area))
        single = ((each,) for each in dict.fromkeys(knows.references(patch.shape)))
        for references in (*single, *crossing_references(patch.shape)):
            reads = {(each.sheet or name).casefold() for each in references}
            area = _common(reach(each, patch.area) for each in references)
            if area and len(reads) == 1:
                read = reads.pop()
                entries.setdefault(read, []).append((name, patch, references))
                areas.setdefault(read, []).append(area)
    pieces = {
        read: _Piece(np.array(each, np.int64), entries[read]) for read, each in areas.items()
    }
    return _Home(name, found, pieces, anywhere)


def _common(areas: Iterable[Area | None]) -> Area | None:
    """What all areas share; None where one of them is missing."""
    found: Area | None = EVERYWHERE
    for area in areas:
        if found is None or area is None:
            return None
        found = found.common(area)
    return found


def touched_areas(
    read_map: ReadMap, sheet: str, areas: Sequence[Area]
) -> Iterator[tuple[str, Area]]:
    """The formulas that have to be worked out again after a change of areas of a sheet."""
    seen: dict[tuple[str, Patch], list[Area]] = {}
    waiting = [(sheet, area) for area in _few(areas)]
    for reading in read_map.anywhere:
        yield reading.sheet, reading.area
        seen[reading.sheet, reading.patch] = [reading.area]
        waiting.append((reading.sheet, reading.area))
    while waiting:
        changed_on, changed = waiting.pop()
        for name, patch, reads in read_map.reading(changed_on, changed):
            spend(_READING_STEPS)
            known = seen.setdefault((name, patch), [])
            if any(reads.within(each) for each in known):
                continue
            inside = name == changed_on and changed.within(patch.area)
            where = _onward(changed, reads, patch.area) if inside else reads
            if len(known) >= _PIECEMEAL:
                where = patch.area
            known.append(where)
            yield name, where
            waiting.append((name, where))


def _onward(changed: Area, where: Area, whole: Area) -> Area:
    """Where a change inside a rectangle that reads itself goes on: to its end that way."""
    return Area(
        whole.left if where.left < changed.left else where.left,
        whole.top if where.top < changed.top else where.top,
        whole.right if where.right > changed.right else where.right,
        whole.bottom if where.bottom > changed.bottom else where.bottom,
    )


def _few(areas: Sequence[Area]) -> Sequence[Area]:
    """The same areas, or where there are many, the parts of the columns that they lie in."""
    if len(areas) <= _PIECEMEAL:
        return areas
    columns: dict[tuple[int, int], Area] = {}
    for area in areas:
        key = (area.left, area.right)
        columns[key] = columns[key].around(area) if key in columns else area
    return list(columns.values())
