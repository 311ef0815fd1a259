"""Values and contents side by side in arrays: a kind and eight bytes for each cell.

A number is kept as itself, a logical value as 0 or 1. Everything else (text, errors, shapes)
stands once in a pool, and the eight bytes hold its number there.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from typing import Any, Final

import numpy as np
from numpy.typing import NDArray

from dreieck.core.grid import MAX_ROW
from dreieck.core.sheet.content import Unreadable
from dreieck.core.values import Error, Value
from dreieck.core.values.look import Look

Kinds = NDArray[np.uint8]
Payload = NDArray[np.float64]


class Kind:
    """What a cell holds, as a small number."""

    EMPTY: Final = 0
    NUMBER: Final = 1
    TEXT: Final = 2
    LOGICAL: Final = 3
    FORMULA: Final = 4
    UNREADABLE: Final = 5
    ERROR: Final = 6
    PENDING: Final = 7
    """A formula whose value is not worked out."""
    LOOK: Final = 8


class Pool:
    """Objects by number; equal texts and errors have one number."""

    def __init__(self) -> None:
        self.objects: list[Any] = []
        self.characters = 0
        """How many characters the texts in it have."""
        self._numbers: dict[Hashable, int] = {}

    def number(self, thing: Any) -> int:
        """The number of an object, which is taken in if it is new."""
        key = (thing.code, thing.why, thing.origin) if isinstance(thing, Error) else thing
        number = self._numbers.get(key)
        if number is None:
            number = self._numbers[key] = len(self.objects)
            self.objects.append(thing)
            if isinstance(thing, str):
                self.characters += len(thing)
        return number

    def numbers(self, things: Sequence[Any]) -> list[int]:
        """The numbers of several objects."""
        if Error in set(map(type, things)):
            return [self.number(thing) for thing in things]
        known, objects = self._numbers, self.objects
        new = [thing for thing in dict.fromkeys(things) if thing not in known]
        known.update(zip(new, range(len(objects), len(objects) + len(new)), strict=True))
        objects.extend(new)
        self.characters += sum(len(thing) for thing in new if isinstance(thing, str))
        return list(map(known.__getitem__, things))

    def copy(self) -> Pool:
        """A pool with the same numbers, that grows on its own."""
        other = Pool()
        other.objects, other._numbers = self.objects.copy(), self._numbers.copy()
        other.characters = self.characters
        return other


def encoded(content: Any, pool: Pool) -> tuple[int, float]:
    """The kind and the eight bytes of a content or value."""
    match content:
        case None:
            return Kind.EMPTY, 0.0
        case bool():
            return Kind.LOGICAL, float(content)
        case float():
            return Kind.NUMBER, content + 0.0
        case str():
            return Kind.TEXT, float(pool.number(content))
        case Error():
            return Kind.ERROR, float(pool.number(content))
        case Unreadable():
            return Kind.UNREADABLE, float(pool.number(content))
        case Look():
            return Kind.LOOK, float(pool.number(content))
    return Kind.FORMULA, float(pool.number(content))


def decoded(kind: int, payload: float, pool: Pool) -> Any:
    """The content or value that ``encoded`` took apart."""
    if kind == Kind.NUMBER:
        return payload
    if kind == Kind.EMPTY:
        return None
    return bool(payload) if kind == Kind.LOGICAL else pool.objects[int(payload)]


_IN_POOL = (Kind.TEXT, Kind.ERROR, Kind.FORMULA, Kind.UNREADABLE, Kind.LOOK)
_SPARSE = 16
"""Numbers that are so many times fewer than they could be are sorted, not ticked off."""
_NUMBERS: Kinds = np.full(MAX_ROW, Kind.NUMBER, np.uint8)
_NUMBERS.flags.writeable = False


class Cells:
    """Values below each other: ``kinds`` and ``payload`` have one entry for each cell."""

    __slots__ = ("_all_numbers", "kinds", "payload", "pool")

    def __init__(
        self, kinds: Kinds, payload: Payload, pool: Pool, *, all_numbers: bool | None = None
    ) -> None:
        self.kinds = kinds
        self.payload = payload
        self.pool = pool
        self._all_numbers = all_numbers

    @property
    def all_numbers(self) -> bool:
        """Whether every cell is a number."""
        if self._all_numbers is None:
            self._all_numbers = bool((self.kinds == Kind.NUMBER).all())
        return self._all_numbers

    @classmethod
    def of(cls, values: Sequence[Value]) -> Cells:
        """The cells that hold these values."""
        types = set(map(type, values))
        if types == {float}:
            return cls.numbers(np.array(values, np.float64))
        pool = Pool()
        if len(types) == 1 and not types & {bool, type(None)}:
            kind, _ = encoded(values[0], pool)
            payload = np.array(pool.numbers(values), np.float64)
            return cls(np.full(len(values), kind, np.uint8), payload, pool)
        coded = [encoded(value, pool) for value in values]
        kinds = np.array([kind for kind, _ in coded], np.uint8)
        return cls(kinds, np.array([payload for _, payload in coded], np.float64), pool)

    @classmethod
    def numbers(cls, numbers: Payload) -> Cells:
        """Cells that hold nothing but numbers, of which 0 has no sign."""
        kinds = _NUMBERS[: len(numbers)]
        return cls(kinds, numbers + 0.0, Pool(), all_numbers=True)

    @classmethod
    def alike(cls, value: Value, count: int) -> Cells:
        """So many cells that hold the same value."""
        return cls.of([value]).taken(np.zeros(count, np.intp))

    @classmethod
    def laid(cls, count: int, parts: Iterable[tuple[NDArray[Any], Cells]]) -> Cells:
        """So many cells, of which each part gives those at some places; others are empty."""
        return cls(np.zeros(count, np.uint8), np.zeros(count), Pool()).replaced(parts)

    @classmethod
    def logicals(cls, found: NDArray[np.bool_]) -> Cells:
        """Cells that hold nothing but logical values."""
        return cls(np.full(len(found), Kind.LOGICAL, np.uint8), found.astype(np.float64), Pool())

    @classmethod
    def joined(cls, parts: Sequence[Cells]) -> Cells:
        """The cells of all parts, one below the other."""
        if len(parts) == 1:
            return parts[0]
        pool = Pool()
        payload = [pooled(part, pool) for part in parts]
        return cls(np.concatenate([part.kinds for part in parts]), np.concatenate(payload), pool)

    def __len__(self) -> int:
        return len(self.kinds)

    def value(self, index: int) -> Value:
        """The value of one cell, counted from 0."""
        value: Value = decoded(int(self.kinds[index]), float(self.payload[index]), self.pool)
        return value

    def values(self) -> list[Value]:
        """All values."""
        if len(self.kinds) and (self.kinds == Kind.TEXT).all():
            return list(map(self.pool.objects.__getitem__, self.payload.astype(np.intp).tolist()))
        found: list[Any] = self.payload.tolist()
        others = np.flatnonzero(self.kinds != Kind.NUMBER)
        if len(others):
            kinds, objects = self.kinds[others].tolist(), self.pool.objects
            for index, kind in zip(others.tolist(), kinds, strict=True):
                payload = found[index]
                if kind in (Kind.EMPTY, Kind.LOGICAL):
                    found[index] = None if kind == Kind.EMPTY else bool(payload)
                else:
                    found[index] = objects[int(payload)]
        return found

    def only_numbers(self) -> list[float | None]:
        """The numbers, None where something else is, or nothing."""
        pairs = zip(self.kinds.tolist(), self.payload.tolist(), strict=True)
        return [payload if kind == Kind.NUMBER else None for kind, payload in pairs]

    def replaced(self, parts: Iterable[tuple[NDArray[Any], Cells]]) -> Cells:
        """The same cells, those at some places replaced by what each part gives."""
        pool = Pool()
        kinds, payload = self.kinds.copy(), pooled(self, pool)
        payload = payload.copy() if payload is self.payload else payload
        for places, cells in parts:
            kinds[places] = cells.kinds
            payload[places] = pooled(cells, pool)
        return Cells(kinds, payload, pool)

    def pending(self, which: NDArray[np.bool_]) -> Cells:
        """The same cells, of which some are not worked out."""
        if not which.any():
            return self
        return Cells(np.where(which, np.uint8(Kind.PENDING), self.kinds), self.payload, self.pool)

    def taken(self, which: NDArray[Any] | slice) -> Cells:
        """Only some of the cells: by a mask, by indexes, or some that follow each other."""
        numeric = self._all_numbers or None
        return Cells(self.kinds[which], self.payload[which], self.pool, all_numbers=numeric)


def is_kind(kinds: Kinds, first: int, *others: int) -> NDArray[np.bool_]:
    """Where cells are of one of some kinds."""
    found: NDArray[np.bool_] = kinds == first
    for kind in others:
        found |= kinds == kind
    return found


def pooled(cells: Cells, pool: Pool) -> Payload:
    """The payload of cells with the numbers that another pool has for what they hold."""
    if cells.pool is pool or cells.all_numbers:
        return cells.payload
    held = np.flatnonzero(is_kind(cells.kinds, *_IN_POOL))
    if not len(held):
        return cells.payload
    places = cells.payload[held].astype(np.intp)
    used = distinct_numbers(places, len(cells.pool.objects))
    objects = cells.pool.objects
    numbers = np.zeros(int(used[-1]) + 1)
    numbers[used] = pool.numbers([objects[n] for n in used.tolist()])
    payload = cells.payload.copy()
    payload[held] = numbers[places]
    return payload


def distinct_numbers(numbers: NDArray[np.intp], limit: int) -> NDArray[np.intp]:
    """The different numbers among whole ones from 0 to below a limit, in order."""
    if len(numbers) < limit // _SPARSE:
        return np.unique(numbers)
    seen = np.zeros(limit, np.bool_)
    seen[numbers] = True
    return np.flatnonzero(seen)


def told_once(
    numbers: NDArray[np.intp], objects: Sequence[Any], tell: Callable[[Any], Any], kind: type
) -> NDArray[Any]:
    """What is told of the objects that have some numbers in a pool; each is asked about once."""
    used = distinct_numbers(numbers, len(objects))
    told: NDArray[Any] = np.zeros(len(objects), kind)
    told[used] = [tell(objects[number]) for number in used.tolist()]
    return told[numbers]
