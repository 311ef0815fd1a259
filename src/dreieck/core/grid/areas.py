"""Several areas at once: joined, walked through, told by marks."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from dreieck.core.grid.address import AXES, CROSSING, Axis, Cell
from dreieck.core.grid.area import Area

Mask = NDArray[np.bool_]
"""Marks by column and row."""
_MAX_AREAS = 2_000


def areas_of(part: Area, mask: Mask) -> tuple[Area, ...]:
    """The marked cells of a part, in as few rectangles as columns side by side make."""
    found: list[Area] = []
    for offset in np.flatnonzero(mask.any(axis=1)).tolist():
        edges = np.flatnonzero(np.diff(np.concatenate(([0], mask[offset].astype(np.int8), [0]))))
        for first, end in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
            column = part.left + offset
            found.append(Area(column, part.top + first, column, part.top + end - 1))
        if len(found) >= _MAX_AREAS:
            break
    # In one column they are in order, and none touches another.
    return tuple(found) if len(mask) == 1 else joined(found)


def joined(areas: Iterable[Area]) -> tuple[Area, ...]:
    """The same cells in fewer areas: those side by side, or one above the other, are one."""
    found = list(areas)
    for axis in AXES:
        found = _joined_along(axis, found)
    return tuple(sorted(found, key=lambda each: (each.top, each.left)))


def _joined_along(axis: Axis, areas: list[Area]) -> list[Area]:
    """Areas that follow each other on an axis, and are the same on the other one, as one."""
    other = CROSSING[axis]
    found: list[Area] = []
    for area in sorted(areas, key=lambda each: (each.on(other), each.on(axis))):
        first, last = area.on(axis)
        before = found[-1] if found else None
        if before and before.on(other) == area.on(other) and before.on(axis)[1] + 1 == first:
            found[-1] = before.spanning(axis, before.on(axis)[0], last)
        else:
            found.append(area)
    return found


def mask_of(area: Area, areas: Iterable[Area]) -> NDArray[np.bool_]:
    """The cells of an area that lie in some of others; a mask by column and row."""
    mask = np.zeros((area.width, area.height), bool)
    for each in areas:
        if common := area.common(each):
            left, top = common.left - area.left, common.top - area.top
            mask[left : left + common.width, top : top + common.height] = True
    return mask


def cells_of(areas: tuple[Area, ...]) -> Iterator[Cell]:
    """The cells of areas, one after the other."""
    for area in areas:
        yield from area.cells()


def covered(areas: Iterable[tuple[str, Area]]) -> int:
    """How many cells areas of sheets cover, each counted once."""
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
    rows, reached = 0, 0
    for area in sorted(areas, key=lambda each: each.top):
        rows += max(area.bottom - max(area.top - 1, reached), 0)
        reached = max(reached, area.bottom)
    return rows
