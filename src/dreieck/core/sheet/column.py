"""One column of a sheet: arrays where its cells stand close, a dictionary where they do not."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import count
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.sheet.cells import Cells, Kind, Kinds, Payload, Pool, decoded, encoded, pooled

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
        self._first = 1
        self._kinds: Kinds = np.zeros(0, np.uint8)
        self._payload: Payload = np.zeros(0, np.float64)
        self._loose: dict[int, tuple[int, float]] | None = None
        self._extent: tuple[int, int] | None = None
        self._extent_is_known = True
        self._is_numeric: bool | None = None
        """Whether all rows of the extent hold numbers; None where nobody looked since a change."""

    def copy(self) -> Column:
        """A column with the same cells, that changes on its own."""
        other = Column()
        other.pool = self.pool.copy()
        other.formula_version = self.formula_version
        other._first, other._kinds, other._payload = (
            self._first,
            self._kinds.copy(),
            self._payload.copy(),
        )
        other._loose = None if self._loose is None else self._loose.copy()
        other._extent, other._extent_is_known = self._extent, self._extent_is_known
        return other

    def kind(self, row: int) -> int:
        """The kind of a cell."""
        if self._loose is not None:
            return self._loose.get(row, (0, 0.0))[0]
        index = row - self._first
        return int(self._kinds[index]) if 0 <= index < len(self._kinds) else 0

    def get(self, row: int) -> Any:
        """What a cell holds."""
        if self._loose is not None:
            return decoded(*self._loose.get(row, (0, 0.0)), self.pool)
        index = row - self._first
        if not 0 <= index < len(self._kinds):
            return None
        return decoded(int(self._kinds[index]), float(self._payload[index]), self.pool)

    def put(self, top: int, bottom: int, content: Any) -> None:
        """Put one content into rows that follow each other."""
        kind, payload = encoded(content, self.pool)
        if kind != Kind.NUMBER:
            self._is_numeric = False
        elif not self._is_numeric or not self._covers(top, bottom):
            self._is_numeric = None
        if kind:
            self._make_room(top, bottom)
        if kind in _WORKED_OUT or self._works_out(top, bottom):
            self.formula_version += 1
        if self._loose is not None:
            for row in range(top, bottom + 1):
                if kind:
                    self._loose[row] = (kind, payload)
                else:
                    self._loose.pop(row, None)
        elif len(self._kinds):
            low = max(top - self._first, 0)
            high = max(bottom - self._first + 1, 0)
            self._kinds[low:high] = kind
            self._payload[low:high] = payload
        self._note_extent(top, bottom, filled=kind != Kind.EMPTY)

    def write(self, top: int, cells: Cells) -> None:
        """Put cells below each other, the first one into row ``top``."""
        bottom = top + len(cells) - 1
        payload = pooled(cells, self.pool)
        self._make_room(top, bottom)
        self.formula_version += 1
        if self._loose is not None:
            pairs = zip(cells.kinds.tolist(), payload.tolist(), strict=True)
            for row, (kind, held) in enumerate(pairs, top):
                if kind:
                    self._loose[row] = (kind, held)
                else:
                    self._loose.pop(row, None)
        else:
            low = top - self._first
            self._kinds[low : low + len(cells)] = cells.kinds
            self._payload[low : low + len(cells)] = payload
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
        if self._loose is not None:
            self._loose = {
                row + steps if row >= top else row: held for row, held in self._loose.items()
            }
            self._extent_is_known = False
        else:
            # Copied, for the rows that are written may be among those that are read.
            cells = self.cells(first, last)
            moving = Cells(cells.kinds.copy(), cells.payload.copy(), self.pool)
            if steps > 0:
                self.put(first, min(first + steps - 1, last), None)
            else:
                self.put(max(last + steps + 1, first), last, None)
            self.write(first + steps, moving)
        self.formula_version += 1
        self._is_numeric = None

    def cells(self, top: int, bottom: int) -> Cells:
        """The cells of some rows; do not write into its arrays."""
        height = bottom - top + 1
        if self._loose is None:
            low, high = top - self._first, bottom - self._first + 1
            if low >= 0 and high <= len(self._kinds):
                numeric = self._all_numbers(top, bottom) if height > _FEW else None
                kinds, payload = self._kinds[low:high], self._payload[low:high]
                return Cells(kinds, payload, self.pool, all_numbers=numeric)
        kinds, payload = np.zeros(height, np.uint8), np.zeros(height, np.float64)
        if self._loose is None:
            inside = slice(max(low, 0), max(min(high, len(self._kinds)), 0))
            if inside.start < inside.stop:
                there = slice(inside.start - low, inside.stop - low)
                kinds[there], payload[there] = self._kinds[inside], self._payload[inside]
        else:
            for row in self._loose_rows(top, bottom):
                kinds[row - top], payload[row - top] = self._loose[row]
        return Cells(kinds, payload, self.pool)

    def rows(self, top: int, bottom: int, *kinds: int) -> list[int]:
        """The rows that hold something, or something of these kinds, in order."""
        if self._loose is not None:
            return [
                row
                for row in self._loose_rows(top, bottom)
                if not kinds or self._loose[row][0] in kinds
            ]
        low = min(max(top - self._first, 0), len(self._kinds))
        found = self._kinds[low : max(bottom - self._first + 1, 0)]
        wanted = np.isin(found, kinds) if kinds else found != 0
        rows: list[int] = (np.flatnonzero(wanted) + (self._first + low)).tolist()
        return rows

    def extent(self) -> tuple[int, int] | None:
        """The first and the last row that hold something."""
        if not self._extent_is_known:
            self._extent_is_known = True
            if self._loose is not None:
                self._extent = (min(self._loose), max(self._loose)) if self._loose else None
            else:
                held = np.flatnonzero(self._kinds)
                first = self._first
                self._extent = (first + int(held[0]), first + int(held[-1])) if len(held) else None
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
        if self._loose is not None:
            return len(self._loose)
        return int(np.count_nonzero(self._kinds))

    def mark(self, top: int, which: NDArray[np.bool_], kind: int) -> None:
        """Give another kind to some of the cells from row ``top`` on; all of them are there."""
        self._is_numeric = False
        if self._loose is not None:
            for row in (np.flatnonzero(which) + top).tolist():
                self._loose[row] = (kind, self._loose[row][1])
        else:
            kinds = self._kinds[top - self._first : top - self._first + len(which)]
            np.putmask(kinds, which, np.uint8(kind))

    def compact(self) -> None:
        """Let go of what is in the pool and in no cell any more."""
        extent = self.extent()
        pool = Pool()
        if extent:
            cells = self.cells(*extent)
            payload = pooled(cells, pool)
            if self._loose is not None:
                kinds = cells.kinds.tolist()
                pairs = enumerate(zip(kinds, payload.tolist(), strict=True), extent[0])
                self._loose = {row: held for row, held in pairs if held[0]}
            else:
                # Written anew, for others may still look at the cells as they were.
                self._payload = self._payload.copy()
                low = extent[0] - self._first
                self._payload[low : low + len(payload)] = payload
        self.pool = pool

    def _all_numbers(self, top: int, bottom: int) -> bool | None:
        """True where the whole column, and so these rows, hold numbers; else not known."""
        extent = self.extent()
        if not extent or not self._covers(top, bottom):
            return None
        if self._is_numeric is None:
            low, high = extent[0] - self._first, extent[1] - self._first + 1
            self._is_numeric = bool((self._kinds[low:high] == Kind.NUMBER).all())
        return self._is_numeric or None

    def _covers(self, top: int, bottom: int) -> bool:
        extent = self.extent()
        return extent is not None and extent[0] <= top and bottom <= extent[1]

    def _works_out(self, top: int, bottom: int) -> bool:
        if top == bottom:
            return self.kind(top) in _WORKED_OUT
        return bool(np.isin(self.cells(top, bottom).kinds, _WORKED_OUT).any())

    def _loose_rows(self, top: int, bottom: int) -> list[int]:
        assert self._loose is not None
        if bottom - top < len(self._loose):
            return [row for row in range(top, bottom + 1) if row in self._loose]
        return sorted(row for row in self._loose if top <= row <= bottom)

    def _make_room(self, top: int, bottom: int) -> None:
        """See that rows can be written, in the form that suits the spread of the cells."""
        end = self._first + len(self._kinds)
        if self._loose is None and len(self._kinds) and self._first <= top and bottom < end:
            return
        extent = self.extent()
        low, high = (min(top, extent[0]), max(bottom, extent[1])) if extent else (top, bottom)
        span, count = high - low + 1, len(self) + bottom - top + 1
        if span > _FEW and span > _SPREAD * count:
            self._loosen()
        else:
            self._tighten(low, high)

    def _loosen(self) -> None:
        if self._loose is None:
            rows = self.rows(1, self._first + len(self._kinds))
            self._loose = {
                row: (int(self._kinds[row - self._first]), float(self._payload[row - self._first]))
                for row in rows
            }
            self._kinds, self._payload = np.zeros(0, np.uint8), np.zeros(0, np.float64)

    def _tighten(self, low: int, high: int) -> None:
        """Arrays for all rows from ``low`` to ``high``, with room to grow at both ends."""
        before = self.cells(low, high)
        end = self._first + len(self._kinds)
        spare = (high - low + 1) // 4 if len(self._kinds) or self._loose else 0
        first = max(low - spare, 1) if low < self._first or self._loose is not None else low
        last = high + (spare if high >= end else 0)
        kinds, payload = np.zeros(last - first + 1, np.uint8), np.zeros(last - first + 1)
        there = slice(low - first, high - first + 1)
        kinds[there], payload[there] = before.kinds, before.payload
        self._first, self._kinds, self._payload, self._loose = first, kinds, payload, None

    def _note_extent(self, top: int, bottom: int, *, filled: bool) -> None:
        if not self._extent_is_known:
            return
        if filled:
            low, high = self._extent or (top, bottom)
            self._extent = (min(low, top), max(high, bottom))
        elif self._extent and not self._extent[0] < top <= bottom < self._extent[1]:
            self._extent_is_known = False
