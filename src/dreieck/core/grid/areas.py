"""Several areas at once: joined, walked through, told by marks."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from dreieck.core.grid.address import Cell
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
    return joined(found)


def joined(areas: list[Area]) -> tuple[Area, ...]:
    """The same cells in fewer areas: columns side by side that cover the same rows are one."""
    found: list[Area] = []
    for area in sorted(areas, key=lambda each: (each.top, each.bottom, each.left)):
        last = found[-1] if found else None
        if last and (last.top, last.bottom, last.right + 1) == (area.top, area.bottom, area.left):
            found[-1] = last._replace(right=area.right)
        else:
            found.append(area)
    return tuple(sorted(found, key=lambda each: (each.top, each.left)))


def cells_of(areas: tuple[Area, ...]) -> Iterator[Cell]:
    """The cells of areas, one after the other."""
    for area in areas:
        yield from area.cells()
