"""Where in a range each value stands, so that a thousand lookups cost one pass over the list."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Hashable, Iterable
from functools import cached_property
from typing import Any, Literal, TypeVar

import numpy as np
from numpy.typing import NDArray

from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells, Kind, Payload, Pool, told_once
from dreieck.core.values import Value

MIN_INDEXED_CELLS = 32
"""Ranges with fewer cells are searched as they are."""
MAX_INDEXES = 256
"""How many indexes are remembered."""
_MANY = 32_768
"""For so many numbers it pays to sort them before they are looked for."""
NO_CODE = -1
"""Stands for a value that is not in a list."""

Positions = NDArray[np.intp]
"""Places in a range, counted from 0 column by column."""
NOWHERE: Positions = np.zeros(0, np.intp)
Made = TypeVar("Made")


def key_of(value: Value) -> Hashable:
    """What equal values have in common: case does not count, kinds do. None for the others."""
    if isinstance(value, str):
        return value.casefold()
    if isinstance(value, bool):
        return ("logical", value)
    return value if isinstance(value, float) else None


class Index:
    """The places of each value of an area; ``columns`` are its cells with the first of each.

    Equal values have one code: numbers in their order first, then texts, then logical values.
    """

    def __init__(self, area: Area, columns: Iterable[tuple[Cell, Cells]]) -> None:
        self.size = area.size
        self._held = [
            ((first.column - area.left) * area.height + first.row - area.top, cells)
            for first, cells in columns
        ]
        self._shared: dict[Hashable, Any] = {}

    @cached_property
    def _coded(self) -> _Coded:
        return _Coded(self._held)

    @property
    def numbers(self) -> Payload:
        """The different numbers in order."""
        return self._coded.numbers

    @property
    def codes(self) -> Positions:
        """The code of each value, by kind and place."""
        return self._coded.codes

    @property
    def places_held(self) -> Positions:
        """The places of these values."""
        return self._coded.places

    @cached_property
    def is_full(self) -> bool:
        """Whether each place of the area holds a value."""
        return len(self.codes) == self.size

    @cached_property
    def code_of_each(self) -> Positions:
        """The code of the value at each place of the area."""
        if self.is_full and self._coded.kinds == 1:
            return self.codes
        found = np.full(self.size, NO_CODE, np.intp)
        found[self.places_held] = self.codes
        return found

    @property
    def _texts(self) -> dict[str, int]:
        return self._coded.texts

    @property
    def limit(self) -> int:
        """All codes lie below it."""
        return self._first_logical + 2

    def shared(self, key: Hashable, make: Callable[[], Made]) -> Made:
        """What was made for a key before, or is made now; it is kept as long as the index."""
        if key not in self._shared:
            self._shared[key] = make()
        found: Made = self._shared[key]
        return found

    def code(self, key: Hashable) -> int:
        """The code of a value by its key."""
        if isinstance(key, float):
            place = int(self.numbers.searchsorted(key))
            found = place < len(self.numbers) and self.numbers[place] == key
            return place if found else NO_CODE
        if isinstance(key, str):
            return self._texts.get(key, NO_CODE)
        return self._first_logical + key[1] if isinstance(key, tuple) else NO_CODE

    def codes_of(self, cells: Cells) -> Positions:
        """The code of each of many values; an empty one is the number 0."""
        codes = np.full(len(cells), NO_CODE, np.intp)
        if cells.all_numbers:
            return self._codes_of_numbers(cells.payload)
        kinds = cells.kinds
        numbers = np.flatnonzero((kinds == Kind.NUMBER) | (kinds == Kind.EMPTY))
        codes[numbers] = self._codes_of_numbers(cells.payload[numbers])
        texts = np.flatnonzero(kinds == Kind.TEXT)
        if len(texts):
            held, known = cells.payload[texts].astype(np.intp), self._texts
            codes[texts] = told_once(
                held, cells.pool.objects, lambda text: known.get(text.casefold(), NO_CODE), int
            )
        logicals = np.flatnonzero(kinds == Kind.LOGICAL)
        codes[logicals] = self._first_logical + cells.payload[logicals].astype(np.intp)
        return codes

    def places(self, key: Hashable) -> Positions:
        """Where a value stands, in order."""
        code = self.code(key)
        return NOWHERE if code == NO_CODE else self._between(code, code + 1)

    def beyond(self, operator: str, limit: float) -> Positions:
        """Where numbers stand that are ``<``, ``<=``, ``>`` or ``>=`` a limit, in order."""
        return np.sort(self._between(*self.codes_beyond(operator, limit)))

    def count(self, key: Hashable) -> int:
        """How often a value stands in the area."""
        code = self.code(key)
        return 0 if code == NO_CODE else int(self.counts[code])

    def count_beyond(self, operator: str, limit: float) -> int:
        """How many numbers are ``<``, ``<=``, ``>`` or ``>=`` a limit."""
        first, end = self.codes_beyond(operator, limit)
        return int(self._starts[end] - self._starts[first])

    def codes_beyond(self, operator: str, limit: float) -> tuple[int, int]:
        """The first code of the numbers beyond a limit, and the one behind their last."""
        side: Literal["left", "right"] = "left" if operator in ("<", ">=") else "right"
        cut = int(self.numbers.searchsorted(limit, side))
        return (0, cut) if operator[0] == "<" else (cut, len(self.numbers))

    @cached_property
    def counts(self) -> Positions:
        """How often the value of each code stands in the area."""
        return np.bincount(self.codes, minlength=self.limit)

    @cached_property
    def first_places(self) -> Positions:
        """Where the value of each code stands first; -1 where it does not."""
        found = np.full(self.limit, -1, np.intp)
        # The last one that is written stays, so the first place has to come last.
        found[self.codes[::-1]] = self.places_held[::-1]
        return found

    def nearest(self, value: float | str | bool, direction: int) -> int:
        """The last place before the first value that lies beyond one; -1 where there is none.

        Only values of its own kind count. Beyond are larger ones, smaller ones where the
        direction is -1.
        """
        if isinstance(value, float):
            return int(self.nearest_of(np.array([value]), direction)[0])
        bisect = bisect_right if direction > 0 else bisect_left
        if isinstance(value, str):
            cut = bisect(self._text_line[0], value.casefold())
        else:
            cut = bisect([False, True], value)
        return int(self._before_beyond(type(value), np.array([cut]), direction)[0])

    def nearest_of(self, numbers: Payload, direction: int) -> Positions:
        """The same for many numbers."""
        cuts = searched(self.numbers, numbers, "right" if direction > 0 else "left")
        return self._before_beyond(float, cuts, direction)

    def _before_beyond(self, kind: type, cuts: Positions, direction: int) -> Positions:
        """The places before the first rank at or above each cut, below it for direction -1."""
        reached, places = self.shared(
            ("before beyond", kind, direction), lambda: self._reached(kind, direction)
        )
        found: Positions = places[
            reached.searchsorted(cuts * direction, "left" if direction > 0 else "right")
        ]
        return found

    def _reached(self, kind: type, direction: int) -> tuple[Positions, Positions]:
        """How far the values of a kind have come at each place, and the place before it."""
        if kind is str:
            _, ranks, places = self._text_line
        elif kind is float:
            ranks, places = self._line(0, len(self.numbers))
        else:
            ranks, places = self._line(self._first_logical, self.limit)
        ends = np.maximum if direction > 0 else np.minimum
        return ends.accumulate(ranks) * direction, np.concatenate(([-1], places))

    def _line(self, first: int, end: int) -> tuple[Positions, Positions]:
        """The codes from one on to before another, from place to place, and the places."""
        which = (self.codes >= first) & (self.codes < end)
        return self.codes[which] - first, self.places_held[which]

    @cached_property
    def _text_line(self) -> tuple[list[str], Positions, Positions]:
        """The texts in order, which of them stands where, from place to place, and the places."""
        inside = sorted(self._texts)
        ranks = np.zeros(len(inside), np.intp)
        ranks[[self._texts[text] - len(self.numbers) for text in inside]] = range(len(inside))
        codes, places = self._line(len(self.numbers), self._first_logical)
        return inside, ranks[codes], places

    @cached_property
    def ordered(self) -> Payload:
        """All numbers in order."""
        numbers = (cells.payload[cells.kinds == Kind.NUMBER] for _, cells in self._held)
        found: Payload = np.sort(np.concatenate([np.zeros(0), *numbers]))
        return found

    @property
    def _first_logical(self) -> int:
        return len(self.numbers) + len(self._texts)

    @cached_property
    def _starts(self) -> Positions:
        """How many values have a smaller code."""
        return np.concatenate(([0], np.cumsum(self.counts)))

    @cached_property
    def _by_code(self) -> Positions:
        """The places in order of their codes, and of themselves where codes are equal."""
        return self.places_held[np.argsort(self.codes, kind="stable")]

    def _between(self, first: int, end: int) -> Positions:
        return self._by_code[self._starts[first] : self._starts[end]]

    def _codes_of_numbers(self, numbers: Payload) -> Positions:
        if not len(self.numbers):
            return np.full(len(numbers), NO_CODE, np.intp)
        codes = searched(self.numbers, numbers)
        codes[codes == len(self.numbers)] = 0
        codes[self.numbers[codes] != numbers] = NO_CODE
        return codes


class _Coded:
    """The different values of columns, each with its code."""

    def __init__(self, held: list[tuple[int, Cells]]) -> None:
        places: list[Positions] = []
        codes: list[Positions] = []
        self.numbers: Payload = np.zeros(0)
        self.texts: dict[str, int] = {}
        self.kinds = 0
        """How many kinds of values there are; one alone stands in the order of its places."""
        for kind, coded in (
            (Kind.NUMBER, self._code_numbers),
            (Kind.TEXT, self._code_texts),
            (Kind.LOGICAL, self._code_logicals),
        ):
            found = [(at, cells, np.flatnonzero(cells.kinds == kind)) for at, cells in held]
            parts = [(at, cells, rows) for at, cells, rows in found if len(rows)]
            if parts:
                self.kinds += 1
                codes += coded([(_those(cells, rows), cells.pool) for _, cells, rows in parts])
                places += [at + rows if at else rows for at, _, rows in parts]
        self.places, self.codes = _joined(places), _joined(codes)

    def _code_numbers(self, columns: list[tuple[Payload, Pool]]) -> list[Positions]:
        numbers = _joined([payload for payload, _ in columns])
        self.numbers, codes = np.unique(numbers, return_inverse=True)
        return [codes]

    def _code_texts(self, columns: list[tuple[Payload, Pool]]) -> list[Positions]:
        known, first = self.texts, len(self.numbers)

        def code(text: str) -> int:
            return known.setdefault(text.casefold(), first + len(known))

        return [
            told_once(payload.astype(np.intp), pool.objects, code, int)
            for payload, pool in columns
        ]

    def _code_logicals(self, columns: list[tuple[Payload, Pool]]) -> list[Positions]:
        first = len(self.numbers) + len(self.texts)
        return [first + payload.astype(np.intp) for payload, _ in columns]


def _those(cells: Cells, rows: Positions) -> Payload:
    return cells.payload if len(rows) == len(cells) else cells.payload[rows]


def _joined(parts: list[NDArray[Any]]) -> NDArray[Any]:
    """Arrays behind each other; one alone is not copied."""
    return parts[0] if len(parts) == 1 else np.concatenate([NOWHERE, *parts])


def asked_in_order(numbers: Any, count: int, tell: Callable[[Any], NDArray[Any]]) -> NDArray[Any]:
    """What is told of numbers by a list of so many.

    Many are asked about in their own order, which the processor's cache likes better.
    """
    if np.size(numbers) < _MANY or count < _MANY:
        return tell(numbers)
    order = np.argsort(numbers)
    told = tell(numbers[order])
    found = np.empty_like(told)
    found[order] = told
    return found


def searched(
    ordered: NDArray[Any], numbers: Any, side: Literal["left", "right"] = "left"
) -> Positions:
    """Where numbers would stand in an ordered list, before or behind equal ones."""

    def tell(sought: Any) -> NDArray[Any]:
        return np.asarray(ordered.searchsorted(sought, side))

    return asked_in_order(numbers, len(ordered), tell)
