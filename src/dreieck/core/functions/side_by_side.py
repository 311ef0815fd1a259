"""Ranges of one size, read cell by cell beside each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.functions.registry import Failure
from dreieck.core.ranges.operands import Range, Table
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import NA, VALUE, Error


def trimmed(tables: Sequence[Table]) -> list[Table]:
    """Tables of one size, without the columns and rows at their ends that are empty in all.

    Raises Failure where they differ in size.
    """
    if len({(table.width, table.height) for table in tables}) > 1:
        raise Failure(VALUE, "The ranges differ in size.")
    sizes = [each.filled_size() for each in tables if isinstance(each, Range)]
    if len(sizes) < len(tables):
        return list(tables)
    width, height = max(1, *(w for w, _ in sizes)), max(1, *(h for _, h in sizes))
    return [each.part(0, 0, width, height) for each in tables]


def check_errors(parts: Sequence[Cells]) -> None:
    """Raise the first error among cells beside each other as a Failure."""
    errors = [(places[0], cells) for cells in parts if len(places := _errors(cells))]
    if errors:
        place, cells = min(errors, key=lambda each: each[0])
        error = cells.value(int(place))
        assert isinstance(error, Error)
        raise Failure.of(error)


def numbers_of_pairs(one: Table, other: Table) -> tuple[list[float], list[float]]:
    """The numbers of two ranges at the places where both have one.

    Raises Failure where they differ in size, or hold an error.
    """
    if one.size != other.size:
        raise Failure(NA, "The ranges differ in size.")
    if (one.width, one.height) == (other.width, other.height):
        one, other = trimmed((one, other))
    parts = [one.all_cells(), other.all_cells()]
    spend(len(parts[0]) // AT_ONCE + 1)
    check_errors(parts)
    both = np.logical_and.reduce([cells.kinds == Kind.NUMBER for cells in parts])
    lists: list[list[float]] = [cells.payload[both].tolist() for cells in parts]
    spend(len(lists[0]) // 2)
    return lists[0], lists[1]


def _errors(cells: Cells) -> NDArray[np.intp]:
    return np.flatnonzero(cells.kinds == Kind.ERROR)
