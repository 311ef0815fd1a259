"""Values beside each other in many rows at once: what each row of them comes to.

Sums are exact, as those of ``Total`` are: what each addition rounds off is added up beside it, so
that the sum is rounded once. Where even that is not exact, a row says so by holding no number.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import reduce

import numpy as np
from numpy.typing import NDArray

from dreieck.core.sheet.cells import Cells, Kind, Payload

MAX_WIDE = 64
"""So many cells are looked at side by side."""
_LANES = 4_096
"""So many sums of a long list grow side by side, which the processor's cache holds."""
_HALF_BIT = 2.0**-53
_TINY = 2.0**-500
_LONG = 1_000
"""Sums of more numbers than this may be added up pair by pair."""
_CANCELLED = 0.01
"""Where a sum is so small, against what went into it, too many bits of it are lost."""
Mask = NDArray[np.bool_]
Table = NDArray[np.float64]
Part = tuple[Payload, Mask | None]
"""A column of numbers, and where there is one; None where there is one in all rows."""
Condition = tuple[Mask, Mask | None]
"""A column of conditions, and where there is one."""


class Beside:
    """The numbers of each row, column by column, and in how many cells of it is anything."""

    def __init__(
        self, height: int, parts: Sequence[Part], cells: Sequence[Cells] = (), width: int = 1
    ) -> None:
        self.height = height
        self.parts = parts
        self.cells = cells
        self.width = width
        """How many columns a range has, whose cells the parts are row by row."""

    def filled(self) -> Payload:
        """How many cells of each row are not empty."""
        return sum((cells.kinds != Kind.EMPTY for cells in self.cells), np.zeros(self.height))

    def count(self) -> Payload:
        """How many numbers each row has."""
        everywhere = sum(mask is None for _, mask in self.parts)
        masks = [mask.astype(np.float64) for _, mask in self.parts if mask is not None]
        return sum(masks, np.full(self.height, float(everywhere)))

    def sum(self) -> Payload:
        """The sum of each row; no number where that is not certain to the last bit."""
        return exact_sum(self.zeros_elsewhere(), self.height)

    def zeros_elsewhere(self) -> list[Payload]:
        """The numbers of each column, and 0 where there is none."""
        return [_or(part, 0.0) for part in self.parts]

    def sum_of_squares(self) -> Payload:
        """The sum of the squares of each row."""
        return self._squared(0.0)

    def squared_deviations(self) -> Payload:
        """The sum of the squared distances of each row's numbers from their mean.

        The mean is taken of the distances from the first number: those of numbers that are all
        alike are 0, which their mean may miss by its last bit.
        """
        first = np.zeros(self.height)
        for numbers, mask in reversed(self.parts):
            first = numbers if mask is None else np.where(mask, numbers, first)
        parts = [(numbers - first, mask) for numbers, mask in self.parts]
        distances = Beside(self.height, parts)
        return distances._squared(distances.sum() / self.count())

    def _squared(self, middle: Payload | float) -> Payload:
        parts = [((numbers - middle) * (numbers - middle), mask) for numbers, mask in self.parts]
        return Beside(self.height, parts).sum()

    def product(self) -> Payload:
        """The product of each row, multiplied from left to right; 0 where there is no number."""
        found = np.ones(self.height)
        for part in self.parts:
            found = found * _or(part, 1.0)
        return np.where(np.equal(self.count(), 0), 0.0, found)

    def lowest(self) -> Payload:
        """The smallest number of each row; 0 where there is none."""
        return self._outermost(np.less, np.inf)

    def highest(self) -> Payload:
        """The largest number of each row; 0 where there is none."""
        return self._outermost(np.greater, -np.inf)

    def ordered(self) -> Payload | None:
        """The numbers of each row in order, a row each; None where some cells have none."""
        if not self.parts or any(mask is not None for _, mask in self.parts):
            return None
        found: Payload = np.sort(np.stack([numbers for numbers, _ in self.parts], axis=1), axis=1)
        return found

    def _outermost(self, beyond: np.ufunc, none: float) -> Payload:
        found = np.full(self.height, none)
        for part in self.parts:
            numbers = _or(part, none)
            found = np.where(beyond(numbers, found), numbers, found)
        return np.where(found == none, 0.0, found)


class Long(Beside):
    """The numbers of rows that have many each: a table of rows by cells, full of numbers."""

    def __init__(self, table: Table) -> None:
        super().__init__(len(table), ())
        self.table = table

    def filled(self) -> Payload:
        """How many cells of each row are not empty."""
        return self.count()

    def count(self) -> Payload:
        """How many numbers each row has."""
        return np.full(self.height, float(self.table.shape[1]))

    def sum(self) -> Payload:
        """The sum of each row; no number where that is not certain.

        It is certain to the last bit, or for very long rows but for the last two or three.
        """
        with np.errstate(all="ignore"):
            return self._exact() if self.table.shape[1] <= _LONG else self._pairwise()

    def _exact(self) -> Payload:
        """The leading bits of all numbers, cut off so that they add up exactly, and the rest.

        The rest is so small that its own rounding seldom counts (Rump, Ogita, Oishi 2008).
        """
        count = self.table.shape[1]
        # No number is larger than the root of the sum of all squares.
        largest = np.sqrt(np.vecdot(self.table, self.table))
        unit = np.exp2(np.ceil(np.log2(np.maximum(largest, _TINY) * (count + 2))))
        lead = self.table + unit[:, None]
        lead -= unit[:, None]
        total, lost = _added(lead.sum(axis=1), (self.table - lead).sum(axis=1))
        doubt = (_HALF_BIT * count) ** 2 * unit
        certain = (total + (lost + doubt) == total) & (total + (lost - doubt) == total)
        found: Payload = np.where(certain & np.isfinite(unit), total, np.nan)
        return found

    def _pairwise(self) -> Payload:
        """The sum as it is added pair by pair, where nearly nothing of it cancels out."""
        total = self.table.sum(axis=1)
        size = np.sqrt(np.vecdot(self.table, self.table))
        found: Payload = np.where(np.abs(total) > _CANCELLED * size, total, np.nan)
        return found

    def lowest(self) -> Payload:
        """The smallest number of each row."""
        found: Payload = self.table.min(axis=1)
        return found

    def highest(self) -> Payload:
        """The largest number of each row."""
        found: Payload = self.table.max(axis=1)
        return found


def exact_sum(columns: Sequence[Payload], height: int) -> Payload:
    """The sum of each row of columns, rounded once; no number where that is not certain."""
    if not columns:
        return np.zeros(height)
    total, rest = columns[0], np.zeros(height)
    certain: Mask | None = None
    for column in columns[1:]:
        total, lost = _added(total, column)
        if column is columns[1]:
            rest = lost
            continue
        rest, again = _added(rest, lost)
        if again.any():
            certain = again == 0 if certain is None else certain & (again == 0)
    found = total + rest
    return found if certain is None else np.where(certain, found, np.nan)


def exact_parts(numbers: Payload) -> list[float] | None:
    """Two floats whose exact sum is that of many numbers; None where two are not certain to do."""
    lanes = len(numbers) // _LANES
    end = lanes * _LANES
    blocks = numbers[:end].reshape(lanes, _LANES) if lanes else np.zeros((1, 1))
    sums, rests = blocks[0], np.zeros(blocks.shape[1])
    for block in blocks[1:]:
        sums, lost = _added(sums, block)
        if lost.any():
            rests, again = _added(rests, lost)
            if again.any():
                return None
    total, lost = _folded(np.concatenate((sums, numbers[end:])))
    rest, again = _folded(np.concatenate((rests, lost)))
    if again.any() or not np.isfinite(total):
        return None
    total, rest = _added(total, rest)
    return [float(rest), float(total)] if rest else [float(total)]


def _folded(numbers: Payload) -> tuple[Payload, Payload]:
    """A sum, and what all its additions rounded off: the halves are added until one is left."""
    lost = [np.zeros(1)]
    while len(numbers) > 1:
        half = len(numbers) // 2
        odd = numbers[2 * half :]
        numbers, rest = _added(numbers[:half], numbers[half : 2 * half])
        numbers = np.concatenate((numbers, odd)) if len(odd) else numbers
        lost.append(rest)
    return np.asarray(numbers.sum()), np.concatenate(lost)


def _added(one: Payload, other: Payload) -> tuple[Payload, Payload]:
    """The sums of numbers, and what they lack of the exact ones (Knuth's two-sum)."""
    total = one + other
    share = total - one
    lost = np.asarray(total - share)
    np.subtract(one, lost, out=lost)
    lost += other - share
    return total, lost


def _or(part: Part, instead: float) -> Payload:
    """The numbers of a part, and another one where it has none."""
    numbers, mask = part
    return numbers if mask is None else np.where(mask, numbers, instead)


def all_of(masks: Sequence[Condition]) -> Mask:
    """Whether all conditions of each row hold; those that there are not do not count."""
    return reduce(np.logical_and, (holds if at is None else holds | ~at for holds, at in masks))


def any_of(masks: Sequence[Condition]) -> Mask:
    """Whether one of the conditions of each row holds."""
    return reduce(np.logical_or, (holds if at is None else holds & at for holds, at in masks))


def odd_of(masks: Sequence[Condition]) -> Mask:
    """Whether an odd number of the conditions of each row holds."""
    return reduce(np.logical_xor, (holds if at is None else holds & at for holds, at in masks))


def with_errors(cells: Cells) -> Part:
    """The numbers among cells; an error is one that is no number."""
    if cells.all_numbers:
        return cells.payload, None
    errors = cells.kinds == Kind.ERROR
    return np.where(errors, np.nan, cells.payload), errors | (cells.kinds == Kind.NUMBER)
