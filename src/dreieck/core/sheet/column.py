"""One column of a sheet."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.sheet.cells import Cells, Kind, Pool, decoded, encoded, is_kind, pooled
from dreieck.core.sheet.storage import Dense, Loose, Storage

_SPREAD = 32
"""How many rows of an array one filled cell may cost."""
_WORKED_OUT = (Kind.FORMULA, Kind.UNREADABLE)
_FEW = 1024
"""Arrays of so few rows are not worth a thought."""


_SERIALS = count()


class Column:
    """Cells by row. ``formula_version`` changes when a formula comes or goes.

    No two columns have one ``serial``, not even after one of them is gone.
    """

    def __init__(self) -> None:
        self.pool = Pool()
        self.serial = next(_SERIALS)
        self.formula_version = 0
        self._storage: Storage = Dense.empty(1, 0)
        self._extent: tuple[int, int] | None = None
        self._extent_is_known = True
        self._is_numeric: bool | None = None
        """Whether all rows of the extent hold numbers; None where nobody looked since a change."""

    @classmethod
    def holding(cls, top: int, cells: Cells) -> Column:
        """A column of cells below each other, whose arrays it takes over."""
        column = cls()
        if np.count_nonzero(cells.kinds) * _SPREAD < len(cells):
            column.write(top, cells)
        else:
            column._storage = Dense(top, cells.kinds, pooled(cells, column.pool))
            column._extent_is_known = False
            column.formula_version += 1
        return column

    def copy(self) -> Column:
        """A column with the same cells, that changes on its own."""
        other = Column()
        other.pool = self.pool.copy()
        other.formula_version = self.formula_version
        other._storage = self._storage.copy()
        other._extent, other._extent_is_known = self._extent, self._extent_is_known
        return other

    def kind(self, row: int) -> int:
        """The kind of a cell."""
        return self._storage.held(row)[0]

    def get(self, row: int) -> Any:
        """What a cell holds."""
        return decoded(*self._storage.held(row), self.pool)

    def put(self, top: int, bottom: int, content: Any) -> None:
        """Put one content into rows that follow each other."""
        kind, payload = encoded(content, self.pool)
        if kind != Kind.NUMBER:
            self._is_numeric = False
        elif not self._is_numeric or not self._covers(top, bottom):
            self._is_numeric = None
        if kind != Kind.EMPTY:
            self._make_room(top, bottom)
        if kind in _WORKED_OUT or self._works_out(top, bottom):
            self.formula_version += 1
        self._storage.put(top, bottom, (kind, payload))
        self._note_extent(top, bottom, filled=kind != Kind.EMPTY)

    def write(self, top: int, cells: Cells) -> None:
        """Put cells below each other, the first one into row ``top``."""
        bottom = top + len(cells) - 1
        payload = pooled(cells, self.pool)
        self._make_room(top, bottom)
        self.formula_version += 1
        self._storage.write(top, cells.kinds, payload)
        if self._is_numeric:
            self._is_numeric = None
        if len(cells) and cells.kinds[0] and cells.kinds[-1]:
            self._note_extent(top, bottom, filled=True)
        else:
            self._extent_is_known = False

    def slide(self, top: int, steps: int) -> None:
        """Move the cells from row ``top`` on by so many rows, up below 0; there must be room."""
        extent = self.extent()
        if extent is None or extent[1] < top:
            return
        first, last = max(top, extent[0]), extent[1]
        if isinstance(self._storage, Loose):
            cells = self._storage.cells.items()
            self._storage = Loose({r + steps if r >= top else r: held for r, held in cells})
            self._extent_is_known = False
        else:
            # Copied, for the rows that are written may be among those that are read.
            found = self.cells(first, last)
            moving = Cells(found.kinds.copy(), found.payload.copy(), self.pool)
            if steps > 0:
                self.put(first, min(first + steps - 1, last), None)
            else:
                self.put(max(last + steps + 1, first), last, None)
            self.write(first + steps, moving)
        self.formula_version += 1
        self._is_numeric = None

    def cells(self, top: int, bottom: int) -> Cells:
        """The cells of some rows; do not write into its arrays."""
        numeric = self._all_numbers(top, bottom) if bottom - top >= _FEW else None
        kinds, payload = self._storage.slice(top, bottom)
        return Cells(kinds, payload, self.pool, all_numbers=numeric)

    def rows(self, top: int, bottom: int, *kinds: int) -> list[int]:
        """The rows that hold something, or something of these kinds, in order."""
        return self._storage.rows(top, bottom, kinds)

    def count(self, top: int, bottom: int, *kinds: int) -> int:
        """How many rows hold something, or something of these kinds."""
        return self._storage.count(top, bottom, kinds)

    def extent(self) -> tuple[int, int] | None:
        """The first and the last row that hold something."""
        if not self._extent_is_known:
            self._extent, self._extent_is_known = self._storage.extent(), True
        return self._extent

    def runs(self, top: int, bottom: int) -> Iterator[tuple[int, int, Any]]:
        """Rows that hold the same, as first row, last row and content; empty ones too."""
        cells = self.cells(top, bottom)
        changes = (cells.kinds[1:] != cells.kinds[:-1]) | (cells.payload[1:] != cells.payload[:-1])
        starts = [0, *(np.flatnonzero(changes) + 1).tolist()]
        values = cells.taken(np.array(starts)).values()
        ends = [*starts[1:], len(cells)]
        for start, end, content in zip(starts, ends, values, strict=True):
            yield top + start, top + end - 1, content

    def __len__(self) -> int:
        return len(self._storage)

    def mark(self, top: int, which: NDArray[np.bool_], kind: int) -> None:
        """Give another kind to some of the cells from row ``top`` on; all of them are there."""
        self._is_numeric = False
        self._storage.mark(top, which, kind)

    def compact(self) -> None:
        """Let go of what is in the pool and in no cell any more."""
        extent = self.extent()
        pool = Pool()
        if extent:
            # Written into a copy, for others may still look at the cells as they were.
            self._storage = self._storage.copy()
            cells = self.cells(*extent)
            self._storage.write(extent[0], cells.kinds, pooled(cells, pool))
        self.pool = pool

    def _all_numbers(self, top: int, bottom: int) -> bool | None:
        """True where the whole column, and so these rows, hold numbers; else not known."""
        extent = self.extent()
        if not extent or not self._covers(top, bottom) or isinstance(self._storage, Loose):
            return None
        if self._is_numeric is None:
            kinds, _ = self._storage.slice(*extent)
            self._is_numeric = bool((kinds == Kind.NUMBER).all())
        return self._is_numeric or None

    def _covers(self, top: int, bottom: int) -> bool:
        extent = self.extent()
        return extent is not None and extent[0] <= top and bottom <= extent[1]

    def _works_out(self, top: int, bottom: int) -> bool:
        if top == bottom:
            return self.kind(top) in _WORKED_OUT
        kinds, _ = self._storage.slice(top, bottom)
        return bool(is_kind(kinds, *_WORKED_OUT).any())

    def _make_room(self, top: int, bottom: int) -> None:
        """See that rows can be written, in the form that suits the spread of the cells."""
        if self._storage.has_room(top, bottom):
            return
        extent = self.extent()
        low, high = (min(top, extent[0]), max(bottom, extent[1])) if extent else (top, bottom)
        span, count = high - low + 1, len(self) + bottom - top + 1
        if span <= _FEW or span <= _SPREAD * count:
            self._storage = self._tightened(low, high)
        elif not isinstance(self._storage, Loose):
            self._storage = Loose.of(self._storage)

    def _tightened(self, low: int, high: int) -> Dense:
        """Arrays for all rows from ``low`` to ``high``, with room to grow at both ends."""
        before = self._storage
        first, end = (before.first, before.end) if isinstance(before, Dense) else (high, low)
        spare = (high - low + 1) // 4 if first != end or isinstance(before, Loose) else 0
        room = Dense.empty(
            max(low - spare, 1) if low < first else low, high + (spare if high >= end else 0)
        )
        room.write(low, *before.slice(low, high))
        return room

    def _note_extent(self, top: int, bottom: int, *, filled: bool) -> None:
        if not self._extent_is_known:
            return
        if filled:
            low, high = self._extent or (top, bottom)
            self._extent = (min(low, top), max(high, bottom))
        elif self._extent and not self._extent[0] < top <= bottom < self._extent[1]:
            self._extent_is_known = False
