"""Functions of the place of numbers among others when all are sorted."""

from __future__ import annotations

import math
import statistics
from collections import Counter
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray

from dreieck.core.functions.registry import (
    Failure,
    also,
    at_once,
    function,
)
from dreieck.core.ranges.beside import Beside
from dreieck.core.ranges.index import asked_in_order, searched
from dreieck.core.sheet.cells import Payload
from dreieck.core.values import NA, NUM, rounded_towards
from dreieck.core.values.roundings import Numbers


@function("MEDIAN")
def _median(numbers: Iterator[float]) -> float:
    found = list(numbers)
    if not found:
        raise Failure(NUM, "There is no number to take the middle of.")
    low, high = statistics.median_low(found), statistics.median_high(found)
    middle = (low + high) / 2
    # Two numbers may be too large to be added.
    return middle if math.isfinite(middle) else low / 2 + high / 2


@at_once("MEDIAN")
def _median_in_rows(numbers: Beside) -> Payload | None:
    ordered = numbers.ordered()
    if ordered is None:
        return None
    at = (ordered.shape[1] - 1) // 2
    low, high = ordered[:, at], ordered[:, ordered.shape[1] // 2]
    middle = (low + high) / 2
    found: Payload = np.where(np.isfinite(middle), middle, low / 2 + high / 2)
    return found


@function("MODE")
def _mode(numbers: Iterator[float]) -> float:
    counted = Counter(numbers)
    most = max(counted.values(), default=0)
    if most < 2:
        raise Failure(NA, "No number occurs twice.")
    return min(number for number, count in counted.items() if count == most)


@function("LARGE")
def _large(numbers: Payload, place: int) -> float:
    return _ranked(numbers[::-1], place)


@at_once("LARGE")
def _large_in_rows(numbers: Payload, place: Numbers) -> Payload:
    return _all_ranked(numbers[::-1], place)


@function("SMALL")
def _small(numbers: Payload, place: int) -> float:
    return _ranked(numbers, place)


@at_once("SMALL")
def _small_in_rows(numbers: Payload, place: Numbers) -> Payload:
    return _all_ranked(numbers, place)


def _ranked(numbers: Payload, place: int) -> float:
    if not 1 <= place <= len(numbers):
        raise Failure(NUM, f"There is no place {place} among {len(numbers)} numbers.")
    return float(numbers[place - 1])


def _all_ranked(numbers: Payload, place: Numbers) -> Payload:
    known = (np.asarray(place) >= 1) & (np.asarray(place) <= len(numbers))
    if not len(numbers):
        return np.full(known.shape, np.nan)
    places = np.where(known, place, 1).astype(np.intp)
    return np.where(known, numbers[places - 1], np.nan)


@function("RANK")
def _rank(number: float, numbers: Payload, upwards: bool = False) -> float:
    first, end = int(numbers.searchsorted(number)), int(numbers.searchsorted(number, "right"))
    if first == end:
        raise Failure(NA, "The number is not among the others.")
    return float(first + 1 if upwards else len(numbers) - end + 1)


@at_once("RANK")
def _rank_in_rows(
    number: Numbers, numbers: Payload, upwards: NDArray[np.bool_] | bool = False
) -> Payload:
    count = len(numbers)
    if not count:
        return np.full(np.shape(number), np.nan)

    def downwards(sought: Numbers) -> Payload:
        place = numbers.searchsorted(sought, "right")
        known = (place > 0) & (numbers[np.maximum(place - 1, 0)] == sought)
        return np.where(known, count - place + 1.0, np.nan)

    found: Payload = asked_in_order(number, count, downwards)
    if np.any(upwards):
        place = searched(numbers, number)
        found = np.where(np.isnan(found) | ~np.asarray(upwards), found, place + 1.0)
    return found


@function("PERCENTILE")
def _percentile(numbers: Payload, part: float) -> float:
    return _at_part(numbers, part)


@at_once("PERCENTILE")
def _percentile_in_rows(numbers: Payload, part: Numbers) -> Payload:
    return _all_at_parts(numbers, np.asarray(part))


@function("QUARTILE")
def _quartile(numbers: Payload, quarters: int) -> float:
    return _at_part(numbers, quarters / 4)


@at_once("QUARTILE")
def _quartile_in_rows(numbers: Payload, quarters: Numbers) -> Payload:
    return _all_at_parts(numbers, np.asarray(quarters) / 4)


def _all_at_parts(ordered: Payload, part: Payload) -> Payload:
    if not len(ordered):
        return np.full(len(part), np.nan)
    known = (part >= 0) & (part <= 1)
    place, between = np.divmod(np.where(known, part, 0.0) * (len(ordered) - 1), 1)
    at = place.astype(np.intp)
    low = ordered[at]
    found = low + (ordered[np.minimum(at + 1, len(ordered) - 1)] - low) * between
    return np.where(known, found, np.nan)


def _at_part(ordered: Payload, part: float) -> float:
    if not len(ordered) or not 0 <= part <= 1:
        raise Failure(NUM, "There has to be a number, and the part lies between 0 and 1.")
    place, between = divmod(part * (len(ordered) - 1), 1)
    low = float(ordered[int(place)])
    return low + (float(ordered[min(int(place) + 1, len(ordered) - 1)]) - low) * between


@function("PERCENTRANK")
def _percentrank(ordered: Payload, number: float, digits: int = 3) -> float:
    place = _place_among(ordered, number, digits)
    return 1.0 if len(ordered) == 1 else _cut_off(place / (len(ordered) - 1), digits)


@function("PERCENTRANK.EXC")
def _percentrank_within(ordered: Payload, number: float, digits: int = 3) -> float:
    place = _place_among(ordered, number, digits)
    return _cut_off((place + 1) / (len(ordered) + 1), digits)


def _place_among(ordered: Payload, number: float, digits: int) -> float:
    """How many numbers lie below one, and the part of the way to the next one."""
    if not len(ordered) or not ordered[0] <= number <= ordered[-1]:
        raise Failure(NA, "The number lies outside of the others.")
    if digits < 1:
        raise Failure(NUM, "There has to be a digit.")
    below = int(ordered.searchsorted(number))
    if ordered[below] == number:
        return float(below)
    low, high = float(ordered[below - 1]), float(ordered[below])
    return below - 1 + (number - low) / (high - low)


def _cut_off(part: float, digits: int) -> float:
    return rounded_towards(part, digits, away=False)


@function("TRIMMEAN")
def _trimmean(ordered: Payload, part: float) -> float:
    if not len(ordered) or not 0 <= part < 1:
        raise Failure(NUM, "There has to be a number, and the part lies from 0 to below 1.")
    left_out = int(rounded_towards(len(ordered) * part, 9, away=True)) // 2
    kept = ordered[left_out : len(ordered) - left_out].tolist()
    return math.fsum(kept) / len(kept)


@function("RANK.AVG")
def _mean_rank(number: float, numbers: Payload, upwards: bool = False) -> float:
    first, end = int(numbers.searchsorted(number)), int(numbers.searchsorted(number, "right"))
    alike = (end - first - 1) / 2
    return _rank(number, numbers, upwards) + alike


@function("PERCENTILE.EXC")
def _percentile_within(numbers: Payload, part: float) -> float:
    return _within(numbers, part)


@function("QUARTILE.EXC")
def _quartile_within(numbers: Payload, quarters: int) -> float:
    return _within(numbers, quarters / 4)


def _within(ordered: Payload, part: float) -> float:
    """The number below which a part of all lies, counted from one place before the first."""
    place = part * (len(ordered) + 1) - 1
    last = len(ordered) - 1
    if not 0 < part < 1 or not 0 <= place <= last:
        raise Failure(NUM, "So few numbers have no such part, or it does not lie between 0 and 1.")
    return _at_part(ordered, place / last if last else 0.0)


also("MODE", "MODE.SNGL")
also("RANK", "RANK.EQ")
also("PERCENTILE", "PERCENTILE.INC")
also("QUARTILE", "QUARTILE.INC")
also("PERCENTRANK", "PERCENTRANK.INC")
