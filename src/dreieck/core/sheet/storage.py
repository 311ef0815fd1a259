"""Where a column keeps its cells: in arrays where they stand close, in a dictionary where not.

Both keep a kind and eight bytes for each cell, and answer the same questions.
"""

from __future__ import annotations

from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from dreieck.core.sheet.cells import Kind, Kinds, Payload, is_kind

Held = tuple[int, float]
"""A kind, and what stands for the content."""
_NOTHING: Held = (Kind.EMPTY, 0.0)


class Storage(Protocol):
    """Kinds and payloads by row."""

    def held(self, row: int) -> Held:
        """What a row holds."""

    def slice(self, top: int, bottom: int) -> tuple[Kinds, Payload]:
        """What some rows hold; do not write into the arrays."""

    def rows(self, top: int, bottom: int, kinds: tuple[int, ...]) -> list[int]:
        """The rows that hold something, or something of these kinds, in order."""

    def count(self, top: int, bottom: int, kinds: tuple[int, ...]) -> int:
        """How many of these rows there are."""

    def has_room(self, top: int, bottom: int) -> bool:
        """Whether rows can be written as it stands."""

    def put(self, top: int, bottom: int, held: Held) -> None:
        """Put one thing into rows; those for which there is no room must become empty."""

    def write(self, top: int, kinds: Kinds, payload: Payload) -> None:
        """Put things into rows below each other, for which there is room."""

    def mark(self, top: int, which: NDArray[np.bool_], kind: int) -> None:
        """Give another kind to some of the rows from ``top`` on."""

    def extent(self) -> tuple[int, int] | None:
        """The first and the last row that hold something."""

    def copy(self) -> Storage:
        """The same on its own."""

    def __len__(self) -> int:
        """How many rows hold something."""


class Dense:
    """Arrays for rows that follow each other, from ``first`` on."""

    def __init__(self, first: int, kinds: Kinds, payload: Payload) -> None:
        self.first, self.kinds, self.payload = first, kinds, payload

    @classmethod
    def empty(cls, first: int, last: int) -> Dense:
        """Arrays for some rows that hold nothing."""
        height = last - first + 1
        return cls(first, np.zeros(height, np.uint8), np.zeros(height, np.float64))

    @property
    def end(self) -> int:
        """The row behind the last one."""
        return self.first + len(self.kinds)

    def held(self, row: int) -> Held:
        """What a row holds."""
        index = row - self.first
        if not 0 <= index < len(self.kinds):
            return _NOTHING
        return int(self.kinds[index]), float(self.payload[index])

    def slice(self, top: int, bottom: int) -> tuple[Kinds, Payload]:
        """What some rows hold; a view where the arrays have them all."""
        low, high = top - self.first, bottom - self.first + 1
        if low >= 0 and high <= len(self.kinds):
            return self.kinds[low:high], self.payload[low:high]
        found = Dense.empty(top, bottom)
        first, last = max(top, self.first), min(bottom, self.end - 1)
        if first <= last:
            found.write(first, *self.slice(first, last))
        return found.kinds, found.payload

    def rows(self, top: int, bottom: int, kinds: tuple[int, ...]) -> list[int]:
        """The rows that hold something, or something of these kinds, in order."""
        low = min(max(top - self.first, 0), len(self.kinds))
        wanted = self._wanted(top, bottom, kinds)
        rows: list[int] = (np.flatnonzero(wanted) + (self.first + low)).tolist()
        return rows

    def count(self, top: int, bottom: int, kinds: tuple[int, ...]) -> int:
        """How many of these rows there are."""
        return int(np.count_nonzero(self._wanted(top, bottom, kinds)))

    def _wanted(self, top: int, bottom: int, kinds: tuple[int, ...]) -> NDArray[np.bool_]:
        found = self.kinds[max(top - self.first, 0) : max(bottom - self.first + 1, 0)]
        return is_kind(found, *kinds) if kinds else found != Kind.EMPTY

    def has_room(self, top: int, bottom: int) -> bool:
        """Whether the arrays have these rows."""
        return self.first <= top and bottom < self.end

    def put(self, top: int, bottom: int, held: Held) -> None:
        """Put one thing into those of the rows that the arrays have."""
        low, high = max(top - self.first, 0), max(bottom - self.first + 1, 0)
        self.kinds[low:high], self.payload[low:high] = held

    def write(self, top: int, kinds: Kinds, payload: Payload) -> None:
        """Put things into rows below each other."""
        low = top - self.first
        self.kinds[low : low + len(kinds)] = kinds
        self.payload[low : low + len(kinds)] = payload

    def mark(self, top: int, which: NDArray[np.bool_], kind: int) -> None:
        """Give another kind to some of the rows from ``top`` on."""
        kinds = self.kinds[top - self.first : top - self.first + len(which)]
        np.putmask(kinds, which, np.uint8(kind))

    def extent(self) -> tuple[int, int] | None:
        """The first and the last row that hold something."""
        filled = self.kinds != Kind.EMPTY
        if not filled.any():
            return None
        return self.first + int(filled.argmax()), self.end - 1 - int(filled[::-1].argmax())

    def copy(self) -> Dense:
        """The same on its own."""
        return Dense(self.first, self.kinds.copy(), self.payload.copy())

    def __len__(self) -> int:
        return int(np.count_nonzero(self.kinds))


class Loose:
    """A dictionary of the rows that hold something."""

    def __init__(self, cells: dict[int, Held]) -> None:
        self.cells = cells

    @classmethod
    def of(cls, storage: Storage) -> Loose:
        """The rows of another storage."""
        low, high = storage.extent() or (1, 0)
        return cls({row: storage.held(row) for row in storage.rows(low, high, ())})

    def held(self, row: int) -> Held:
        """What a row holds."""
        return self.cells.get(row, _NOTHING)

    def slice(self, top: int, bottom: int) -> tuple[Kinds, Payload]:
        """What some rows hold, as arrays of their own."""
        found = Dense.empty(top, bottom)
        for row in self.rows(top, bottom, ()):
            found.put(row, row, self.cells[row])
        return found.kinds, found.payload

    def rows(self, top: int, bottom: int, kinds: tuple[int, ...]) -> list[int]:
        """The rows that hold something, or something of these kinds, in order."""
        if bottom - top < len(self.cells):
            inside = [row for row in range(top, bottom + 1) if row in self.cells]
        else:
            inside = sorted(row for row in self.cells if top <= row <= bottom)
        return [row for row in inside if not kinds or self.cells[row][0] in kinds]

    def count(self, top: int, bottom: int, kinds: tuple[int, ...]) -> int:
        """How many of these rows there are."""
        return len(self.rows(top, bottom, kinds))

    def has_room(self, top: int, bottom: int) -> bool:
        """No: whether a dictionary suits them has to be looked at anew."""
        return False

    def put(self, top: int, bottom: int, held: Held) -> None:
        """Put one thing into rows."""
        if held[0] == Kind.EMPTY:
            for row in self.rows(top, bottom, ()):
                del self.cells[row]
        else:
            self.cells |= dict.fromkeys(range(top, bottom + 1), held)

    def write(self, top: int, kinds: Kinds, payload: Payload) -> None:
        """Put things into rows below each other."""
        self.put(top, top + len(kinds) - 1, _NOTHING)
        for index in np.flatnonzero(kinds).tolist():
            self.cells[top + index] = (int(kinds[index]), float(payload[index]))

    def mark(self, top: int, which: NDArray[np.bool_], kind: int) -> None:
        """Give another kind to some of the rows from ``top`` on."""
        for row in (np.flatnonzero(which) + top).tolist():
            self.cells[row] = (kind, self.cells[row][1])

    def extent(self) -> tuple[int, int] | None:
        """The first and the last row that hold something."""
        return (min(self.cells), max(self.cells)) if self.cells else None

    def copy(self) -> Loose:
        """The same on its own."""
        return Loose(self.cells.copy())

    def __len__(self) -> int:
        return len(self.cells)
