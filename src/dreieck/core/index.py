"""Where in a range each value stands, so that a thousand lookups cost one pass over the list."""

from __future__ import annotations

from collections.abc import Hashable, Iterable

from dreieck.core.values import Value

LEAST = 32
"""Ranges with fewer cells are searched as they are."""
MOST = 256
"""How many indexes are remembered."""

Position = tuple[int, int]
"""Column and row in a range, counted from 0."""


def key_of(value: Value) -> Hashable:
    """What equal values have in common: case does not count, kinds do. None for the others."""
    if isinstance(value, str):
        return value.casefold()
    if isinstance(value, bool):
        return ("logical", value)
    return value if isinstance(value, float) else None


class Index:
    """The places of each value of a range, column by column."""

    def __init__(self, placed: Iterable[tuple[int, int, Value]]) -> None:
        self._places: dict[Hashable, list[Position]] = {}
        for column, row, value in placed:
            key = key_of(value)
            if key is not None:
                self._places.setdefault(key, []).append((column, row))

    def places(self, key: Hashable) -> list[Position]:
        """Where a value stands."""
        return self._places.get(key, [])
