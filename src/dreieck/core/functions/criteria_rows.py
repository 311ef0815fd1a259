"""Criteria down a column: what fits those of each row, found for all rows at once.

What is the same in all rows is looked at once. For the rest, cells that have the same values in
all ranges form a group, and each row looks for its own; one limit, such as ``">=10"``, may differ
from row to row as well.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.functions.criteria import criterion
from dreieck.core.functions.registry import Failure
from dreieck.core.ranges.index import NO_CODE, Index, Positions, searched
from dreieck.core.ranges.operands import Range, Table
from dreieck.core.ranges.totals import grow
from dreieck.core.sheet.cells import Cells, Kind, Payload, told_once

_MOST_GROUPS = 2**62
_SEVERAL = -2
"""Stands for a criterion that more than one value may fit; it lies below ``NO_CODE``."""


class Wanted(NamedTuple):
    """A range, and what is wanted of it in each row."""

    table: Table
    cells: Cells


class _Sought(NamedTuple):
    """What rows look for: a code in each range, and which rows cannot be answered so."""

    codes: Positions
    asked: NDArray[np.bool_]


class Groups:
    """Cells of ranges of one size, those with the same values in all of them together."""

    def __init__(self, tables: Sequence[Table], kept: NDArray[np.bool_] | None) -> None:
        self.indexes = [table.indexed() for table in tables]
        size = self.indexes[0].size
        spend(size // AT_ONCE + 1)
        codes: Positions | None = None
        inside = np.ones(size, np.bool_) if kept is None else kept.copy()
        for index in self.indexes:
            own = index.code_of_each
            if not index.is_full:
                inside &= own != NO_CODE
            codes = own if codes is None else codes * index.limit + own
        assert codes is not None
        self.places: Positions | slice = slice(None) if inside.all() else np.flatnonzero(inside)
        """The places of cells that belong to a group."""
        self.which = codes[self.places]
        """The group of each of these cells."""
        self.keys: Positions | None = None
        """What the groups are known by, where that is not their number."""
        self.count = math.prod(index.limit for index in self.indexes)
        if self.count > size + 1024:
            self.keys, self.which = np.unique(self.which, return_inverse=True)
            self.count = len(self.keys)

    def sought(self, wanted: Sequence[Cells]) -> _Sought:
        """The group that each row looks for, below 0 where there is none such."""
        asked = np.zeros(len(wanted[0]), np.bool_)
        missing = np.zeros(len(asked), np.bool_)
        codes: Positions | None = None
        for cells, index in zip(wanted, self.indexes, strict=True):
            own, alone = _codes_wanted(cells, index)
            asked |= alone
            missing |= own == NO_CODE
            own = np.maximum(own, 0)
            codes = own if codes is None else codes * index.limit + own
        assert codes is not None
        if self.keys is None:
            return _Sought(np.where(missing, -1, codes), asked)
        if not len(self.keys):
            return _Sought(np.full(len(codes), -1), asked)
        places = searched(self.keys, codes)
        places = np.minimum(places, len(self.keys) - 1)
        return _Sought(np.where(missing | (self.keys[places] != codes), -1, places), asked)

    @cached_property
    def counts(self) -> Positions:
        """How many cells each group has."""
        return np.bincount(self.which, minlength=self.count)

    def of_each(self, values: Cells, measure: Callable[[list[float]], float]) -> Payload:
        """What the numbers of each group come to; no number where there is an error."""
        held = values.taken(self.places)
        errors = held.kinds == Kind.ERROR
        numbers = held.kinds == Kind.NUMBER
        which = self.which[numbers]
        order = np.argsort(which)
        listed: list[float] = held.payload[numbers][order].tolist()
        spend(len(listed) // 2)
        ends = np.cumsum(np.bincount(which, minlength=self.count)).tolist()
        found = np.array(
            [measure(listed[start:end]) for start, end in zip([0, *ends], ends, strict=False)]
        )
        found[self.which[errors]] = np.nan
        return found


def counts_in_rows(wanted: Sequence[Wanted], kept: NDArray[np.bool_] | None) -> Payload | None:
    """How many cells fit what each row wants; no number where a row has to ask alone."""
    groups = _groups(wanted, kept)
    if groups is None:
        return None
    codes, asked = groups.sought([each.cells for each in wanted])
    found = np.where(asked, np.nan, np.append(groups.counts, 0.0)[codes])
    if len(wanted) == 1 and kept is None and asked.any():
        index = groups.indexes[0]
        _ask_limits(wanted[0].cells, found, index.count_beyond)
    return found


def measured_in_rows(
    wanted: Sequence[Wanted],
    kept: NDArray[np.bool_] | None,
    values: Table,
    measure: Callable[[list[float]], float],
) -> Payload | None:
    """What the numbers come to beside the cells that fit what each row wants."""
    groups = _groups(wanted, kept)
    if groups is None:
        return None
    codes, asked = groups.sought([each.cells for each in wanted])

    def made() -> Payload:
        found = groups.of_each(values.all_cells(), lambda numbers: _or_none(measure, numbers))
        return np.append(found, _or_none(measure, []))

    index = groups.indexes[0]
    key = ("measured", _name(values), measure, *_names(wanted), _bytes(kept))
    result = np.where(asked, np.nan, index.shared(key, made)[codes])
    if measure is math.fsum and len(wanted) == 1 and kept is None and asked.any():
        key = ("sums", _name(values))
        sums = index.shared(key, lambda: LimitSums(index, values.all_cells()))
        _ask_limits(wanted[0].cells, result, sums.beyond)
    return result


def _ask_limits(cells: Cells, found: Payload, beyond: Callable[[str, float], float]) -> None:
    """Answer the rows whose criterion is a limit; each different one is asked once."""
    rows = np.flatnonzero(np.isnan(found) & (cells.kinds == Kind.TEXT))

    def answer(text: str) -> float:
        limit = criterion(text).beyond
        return beyond(*limit) if limit else math.nan

    held = cells.payload[rows].astype(np.intp)
    found[rows] = told_once(held, cells.pool.objects, answer, float)


class LimitSums:
    """The sums of numbers beside those cells of a list that lie beyond a limit."""

    def __init__(self, index: Index, values: Cells) -> None:
        self._index = index
        count = len(index.numbers)
        groups: list[list[float]] = [[] for _ in range(count)]
        inside = index.codes < count
        held = values.taken(index.places_held[inside])
        self._errors = np.bincount(
            index.codes[inside][held.kinds == Kind.ERROR], minlength=count
        ).cumsum()
        numbers = held.kinds == Kind.NUMBER
        codes, summed = index.codes[inside][numbers], held.payload[numbers]
        for code, number in zip(codes.tolist(), summed.tolist(), strict=True):
            groups[code].append(number)
        self._below = _growing(groups)
        self._above = _growing(groups[::-1])[::-1]

    def beyond(self, operator: str, limit: float) -> float:
        """The sum beside the numbers that are ``<``, ``<=``, ``>`` or ``>=`` a limit.

        No number where there is an error among them.
        """
        first, end = self._index.codes_beyond(operator, limit)
        errors = np.append(self._errors, 0)
        if errors[end - 1] > errors[first - 1]:
            return math.nan
        return float(self._below[end] if first == 0 else self._above[first])


def _growing(groups: list[list[float]]) -> Payload:
    """The exact sums of no group, of the first, of the first two, and so on."""
    parts: list[float] = []
    found = [0.0]
    for group in groups:
        for number in group:
            grow(parts, number)
        found.append(math.fsum(parts))
    return np.array(found)


def _groups(wanted: Sequence[Wanted], kept: NDArray[np.bool_] | None) -> Groups | None:
    tables = [each.table for each in wanted]
    if math.prod(table.indexed().limit for table in tables) > _MOST_GROUPS:
        return None
    key = ("groups", *_names(wanted), _bytes(kept))
    return tables[0].indexed().shared(key, lambda: Groups(tables, kept))


def _names(wanted: Sequence[Wanted]) -> list[object]:
    return [_name(each.table) for each in wanted]


def _name(table: Table) -> object:
    return (table.sheet, table.area) if isinstance(table, Range) else id(table)


def _bytes(kept: NDArray[np.bool_] | None) -> bytes | None:
    return None if kept is None else np.packbits(kept).tobytes()


def _or_none(measure: Callable[[list[float]], float], numbers: list[float]) -> float:
    """What numbers come to; no number where that is an error."""
    try:
        return measure(numbers)
    except (Failure, ArithmeticError, ValueError):
        return math.nan


def _codes_wanted(cells: Cells, index: Index) -> tuple[Positions, NDArray[np.bool_]]:
    """The codes of what fits each criterion, and which criteria more than one value may fit."""
    alone = cells.kinds == Kind.ERROR
    texts = cells.kinds == Kind.TEXT
    if not texts.any():
        return index.codes_of(cells), alone
    places: NDArray[np.intp] | slice = slice(None) if texts.all() else np.flatnonzero(texts)
    codes = index.codes_of(cells) if isinstance(places, np.ndarray) else np.empty(len(cells), int)

    def code(text: str) -> int:
        key = criterion(text).key
        return _SEVERAL if key is None else index.code(key)

    told = told_once(cells.payload[places].astype(np.intp), cells.pool.objects, code, int)
    codes[places], alone[places] = np.maximum(told, NO_CODE), told == _SEVERAL
    return codes, alone
