"""Where in a range each value stands, so that a thousand lookups cost one pass over the list."""

from __future__ import annotations

from collections.abc import Hashable, Iterable
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Value

MIN_INDEXED_CELLS = 32
"""Ranges with fewer cells are searched as they are."""
MAX_INDEXES = 256
"""How many indexes are remembered."""

Positions = NDArray[np.intp]
"""Places in a range, counted from 0 column by column."""
NOWHERE: Positions = np.zeros(0, np.intp)


def key_of(value: Value) -> Hashable:
    """What equal values have in common: case does not count, kinds do. None for the others."""
    if isinstance(value, str):
        return value.casefold()
    if isinstance(value, bool):
        return ("logical", value)
    return value if isinstance(value, float) else None


class Index:
    """The places of each value of an area; ``columns`` are its cells with the first of each."""

    def __init__(self, area: Area, columns: Iterable[tuple[Cell, Cells]]) -> None:
        self._groups: dict[Hashable, list[Positions]] = {}
        self._numbers: list[tuple[NDArray[np.float64], Positions]] = []
        for first, cells in columns:
            offset = (first.column - area.left) * area.height + first.row - area.top
            for kind in (Kind.NUMBER, Kind.TEXT, Kind.LOGICAL):
                self._sort_in(cells, kind, offset)

    def places(self, key: Hashable) -> Positions:
        """Where a value stands, in order."""
        groups = self._groups.get(key, [])
        if len(groups) > 1:
            groups = self._groups[key] = [np.sort(np.concatenate(groups))]
        return groups[0] if groups else NOWHERE

    def beyond(self, operator: str, limit: float) -> Positions:
        """Where numbers stand that are ``<``, ``<=``, ``>`` or ``>=`` a limit, in order."""
        found = [NOWHERE]
        for numbers, places in self._numbers:
            side: Literal["left", "right"] = "left" if operator in ("<", ">=") else "right"
            cut = int(np.searchsorted(numbers, limit, side))
            found.append(places[:cut] if operator[0] == "<" else places[cut:])
        return np.sort(np.concatenate(found))

    def _sort_in(self, cells: Cells, kind: int, offset: int) -> None:
        places = np.flatnonzero(cells.kinds == kind)
        if not len(places):
            return
        held = cells.payload[places]
        # Small whole numbers are sorted in one pass.
        small = kind != Kind.NUMBER and len(cells.pool.objects) < 65_536
        order = np.argsort(held.astype(np.uint16) if small else held, kind="stable")
        places, held = places[order] + offset, held[order]
        if kind == Kind.NUMBER:
            self._numbers.append((held, places))
        cuts = np.concatenate(([0], np.flatnonzero(held[1:] != held[:-1]) + 1))
        ends = [*cuts[1:].tolist(), len(held)]
        for start, end, first in zip(cuts.tolist(), ends, held[cuts].tolist(), strict=True):
            value: Value = first
            if kind != Kind.NUMBER:
                value = bool(first) if kind == Kind.LOGICAL else cells.pool.objects[int(first)]
            self._groups.setdefault(key_of(value), []).append(places[start:end])
