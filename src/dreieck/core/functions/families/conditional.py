"""Sums, counts and averages of what fits criteria."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dreieck.core.functions.criteria import Criterion, criterion
from dreieck.core.functions.criteria_rows import Wanted, counts_in_rows, measured_in_rows
from dreieck.core.functions.registry import (
    Failure,
    at_once,
    function,
)
from dreieck.core.ranges.index import NOWHERE, Positions
from dreieck.core.ranges.operands import Table, values_in_pieces
from dreieck.core.sheet.cells import Cells, Kind, Payload
from dreieck.core.values import DIV0, VALUE, Error, Value


@function("COUNTIF")
def _countif(cells: Table, wanted: Value) -> float:
    return float(_count(cells, criterion(wanted)))


@at_once("COUNTIF")
def _countif_in_rows(cells: Table, wanted: Cells | Value) -> Payload | None:
    return _counted([(cells, wanted)])


@function("SUMIF")
def _sumif(cells: Table, wanted: Value, summed: Table | None = None) -> float:
    return math.fsum(_fitting(summed or cells, [(cells, criterion(wanted))]))


@at_once("SUMIF")
def _sumif_in_rows(
    cells: Table, wanted: Cells | Value, summed: Table | None = None
) -> Payload | None:
    return _measured([(cells, wanted)], summed or cells, math.fsum, sized=False)


@function("AVERAGEIF")
def _averageif(cells: Table, wanted: Value, averaged: Table | None = None) -> float:
    return _mean(_fitting(averaged or cells, [(cells, criterion(wanted))]))


@at_once("AVERAGEIF")
def _averageif_in_rows(
    cells: Table, wanted: Cells | Value, averaged: Table | None = None
) -> Payload | None:
    return _measured([(cells, wanted)], averaged or cells, _mean, sized=False)


@function("COUNTIFS")
def _countifs(*later: object) -> float:
    pairs = _pairs(later)
    fitting, others = _places(pairs)
    size = pairs[0][0].size
    return float(size - len(others) if fitting is None else len(fitting))


@at_once("COUNTIFS")
def _countifs_in_rows(*given: object) -> Payload | None:
    pairs = _pairs_in_rows(given)
    return _counted(pairs) if pairs else None


@function("SUMIFS")
def _sumifs(summed: Table, *later: object) -> float:
    return math.fsum(_fitting(summed, _pairs(later), summed))


@at_once("SUMIFS")
def _sumifs_in_rows(values: Table, *given: object) -> Payload | None:
    return _measured(_pairs_in_rows(given), values, math.fsum, sized=True)


@function("AVERAGEIFS")
def _averageifs(averaged: Table, *later: object) -> float:
    return _mean(_fitting(averaged, _pairs(later), averaged))


@at_once("AVERAGEIFS")
def _averageifs_in_rows(values: Table, *given: object) -> Payload | None:
    return _measured(_pairs_in_rows(given), values, _mean, sized=True)


@function("MAXIFS")
def _maxifs(values: Table, *later: object) -> float:
    return _largest(_fitting(values, _pairs(later), values))


@at_once("MAXIFS")
def _maxifs_in_rows(values: Table, *given: object) -> Payload | None:
    return _measured(_pairs_in_rows(given), values, _largest, sized=True)


@function("MINIFS")
def _minifs(values: Table, *later: object) -> float:
    return _smallest(_fitting(values, _pairs(later), values))


@at_once("MINIFS")
def _minifs_in_rows(values: Table, *given: object) -> Payload | None:
    return _measured(_pairs_in_rows(given), values, _smallest, sized=True)


def _pairs_in_rows(given: tuple[object, ...]) -> list[tuple[Table, Cells | Value]]:
    """Ranges, and criteria that may differ from row to row; none where they do not go together."""
    held: list[Any] = [each() if callable(each) else each for each in given]
    tables = held[::2]
    if len(held) % 2 or not all(isinstance(cells, Table) for cells in tables):
        return []
    if len({(cells.width, cells.height) for cells in tables}) > 1:
        return []
    wanted = [each.at(0, 0) if isinstance(each, Table) else each for each in held[1::2]]
    return list(zip(tables, wanted, strict=True))


def _split(
    pairs: list[tuple[Table, Cells | Value]],
) -> tuple[list[Wanted], NDArray[np.bool_] | None]:
    """What differs from row to row, and where the criteria fit that are the same in all rows."""
    wanted = [Wanted(cells, w) for cells, w in pairs if isinstance(w, Cells)]
    same = [(cells, criterion(w)) for cells, w in pairs if not isinstance(w, Cells)]
    if not same:
        return wanted, None
    fitting, others = _places(same)
    kept = np.full(same[0][0].size, fitting is None)
    kept[others if fitting is None else fitting] = fitting is not None
    return wanted, kept


def _counted(pairs: list[tuple[Table, Cells | Value]]) -> Payload | None:
    wanted, kept = _split(pairs)
    return counts_in_rows(wanted, kept) if wanted else None


def _measured(
    pairs: list[tuple[Table, Cells | Value]],
    values: Table,
    measure: Callable[[list[float]], float],
    *,
    sized: bool,
) -> Payload | None:
    """What numbers come to in each row; None where the ranges do not go together."""
    wanted, kept = _split(pairs)
    if not wanted:
        return None
    cells = wanted[0].table
    if sized and (values.width, values.height) != (cells.width, cells.height):
        return None
    try:
        return measured_in_rows(
            wanted, kept, values.part(0, 0, cells.width, cells.height), measure
        )
    except IndexError:
        return None


def _count(cells: Table, fits: Criterion) -> int:
    index = cells.index() if fits.key is not None or fits.beyond else None
    if index:
        return index.count_beyond(*fits.beyond) if fits.beyond else index.count(fits.key)
    fitting, others = _places([(cells, fits)])
    return cells.size - len(others) if fitting is None else len(fitting)


def _fitting(
    summed: Table, pairs: list[tuple[Table, Criterion]], sized: Table | None = None
) -> list[float]:
    """The numbers of ``summed`` at the places where all criteria fit."""
    cells = pairs[0][0]
    if sized and (sized.width, sized.height) != (cells.width, cells.height):
        raise Failure(VALUE, "The ranges differ in size.")
    # As large as the range that is looked at, from its own first cell.
    try:
        values = summed.part(0, 0, cells.width, cells.height)
    except IndexError:
        raise Failure(VALUE, "The cells that count would leave the sheet.") from None
    fitting, others = _places(pairs)
    if fitting is None:
        held = [column * values.height + row for column, row, _ in values.placed()]
        fitting = np.setdiff1d(np.array(held, np.intp), others)
    found = values.taken(fitting)
    if not found.all_numbers and Kind.ERROR in found.kinds:
        error = next(value for value in found.values() if isinstance(value, Error))
        raise Failure.of(error)
    numbers = found.payload if found.all_numbers else found.payload[found.kinds == Kind.NUMBER]
    listed: list[float] = numbers.tolist()
    return listed


def _places(pairs: list[tuple[Table, Criterion]]) -> tuple[Positions | None, Positions]:
    """Where all criteria fit; or None, and where they do not, if empty cells fit all of them."""
    fitting: Positions | None = None
    others = NOWHERE
    if len(pairs) == 1 and not pairs[0][1](None):
        return _fitting_filled(*pairs[0]), others
    for cells, fits in pairs:
        if fits(None):
            filled, fit = _tried(cells, fits)
            others = np.union1d(others, filled[~fit])
        else:
            found = _fitting_filled(cells, fits)
            fitting = found if fitting is None else np.intersect1d(fitting, found)
    return (None if fitting is None else np.setdiff1d(fitting, others)), others


def _fitting_filled(cells: Table, fits: Criterion) -> Positions:
    index = cells.index() if fits.key is not None or fits.beyond else None
    if index:
        return index.beyond(*fits.beyond) if fits.beyond else index.places(fits.key)
    filled, fit = _tried(cells, fits)
    return filled[fit]


def _tried(cells: Table, fits: Criterion) -> tuple[Positions, NDArray[np.bool_]]:
    """The places that are filled, and which of them fit."""
    places, found = cells.in_rows()
    rows, columns = np.divmod(places, cells.width)
    held = columns * cells.height + rows
    fit = np.fromiter(map(fits, values_in_pieces(found)), bool, len(found))
    order = np.argsort(held)
    return held[order], fit[order]


def _largest(found: list[float]) -> float:
    return max(found, default=0.0)


def _smallest(found: list[float]) -> float:
    return min(found, default=0.0)


def _mean(found: list[float]) -> float:
    if not found:
        raise Failure(DIV0, "No number fits, so there is nothing to take the average of.")
    return math.fsum(found) / len(found)


def _pairs(later: tuple[object, ...]) -> list[tuple[Table, Criterion]]:
    """Ranges and criteria, taken in turn from arguments that are worked out now."""
    given = [each() for each in later]  # type: ignore[operator]  # bound as callables
    if len(given) % 2:
        raise Failure(VALUE, "A range stands without its criterion.")
    pairs: list[tuple[Table, Criterion]] = []
    for cells, wanted in zip(given[::2], given[1::2], strict=True):
        if not isinstance(cells, Table):
            raise Failure(VALUE, "A range is needed in front of each criterion.")
        if pairs and (cells.width, cells.height) != (pairs[0][0].width, pairs[0][0].height):
            raise Failure(VALUE, "The ranges differ in size.")
        pairs.append((cells, criterion(wanted.at(0, 0) if isinstance(wanted, Table) else wanted)))
    return pairs
