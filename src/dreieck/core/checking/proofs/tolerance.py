"""How far apart values may be and still count as equal."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from dreieck.core.checking.proofs.looking import Looked, Looking, Mask
from dreieck.core.formula import tree
from dreieck.core.sheet.cells import Kind

ROUNDING = 1e-9
"""So much, of the larger one, is lost by rounding at the most."""


def apart(
    one: NDArray[np.float64], other: NDArray[np.float64], absolute: float = 0.0,
    relative: float = ROUNDING,
) -> Mask:  # fmt: skip
    """Which numbers are not equal but for a tolerance; the larger one of the two counts."""
    size = np.maximum(np.abs(one), np.abs(other))
    found: Mask = np.abs(one - other) > np.maximum(absolute, relative * size)
    return found


def within(looking: Looking, rest: tuple[tree.Node, ...]) -> tuple[float, float]:
    """The absolute and the relative tolerance that an argument says. Raises CannotJudge."""
    node = rest[0] if rest else None
    if node is None or isinstance(node, tree.Missing):
        return 0.0, ROUNDING
    value = abs(looking.number(node))
    return (0.0, max(value, ROUNDING)) if isinstance(node, tree.Percent) else (value, ROUNDING)


def tolerance(
    looking: Looking, rest: tuple[tree.Node, ...], one: float, other: float, size: float
) -> float:
    """How far two totals may be apart; ``size`` is what went into them, whatever its sign."""
    absolute, relative = within(looking, rest)
    return max(absolute, relative * max(abs(one), abs(other)), ROUNDING * size)


def is_apart(looking: Looking, one: Looked, other: Looked, rest: tuple[tree.Node, ...]) -> Mask:
    """Which pairs of cells are not equal; an error is equal to nothing.

    What is empty is 0, as everywhere, or no text.
    """
    absolute, relative = within(looking, rest)
    numbers = [np.where(each.cells.kinds == Kind.EMPTY, 0.0, each.cells.payload)
               for each in (one, other)]  # fmt: skip
    plain = np.ones(len(one.cells), np.bool_)
    for each in (one, other):
        plain &= each.is_number | ~each.is_filled
    wrong = np.zeros(len(plain), np.bool_)
    with np.errstate(all="ignore"):
        wrong[plain] = apart(numbers[0][plain], numbers[1][plain], absolute, relative)
    for index in np.flatnonzero(~plain).tolist():
        wrong[index] = not _same(one, other, index)
    return wrong


def _same(one: Looked, other: Looked, index: int) -> bool:
    """Whether two values are equal of which one is no number; case does not count."""
    kinds = (one.cells.kinds[index], other.cells.kinds[index])
    if Kind.ERROR in kinds:
        return False
    values = (one.cells.value(index), other.cells.value(index))
    if None in values:
        return "" in values
    if kinds[0] != kinds[1]:
        return False
    first, second = (v.casefold() if isinstance(v, str) else v for v in values)
    return first == second


def furthest(one: Looked, other: Looked, wrong: Mask) -> float | None:
    """How far the numbers of wrong pairs are apart at the most; None where there are none."""
    both = wrong & one.is_number & other.is_number
    if not both.any():
        return None
    return float(np.abs(one.cells.payload[both] - other.cells.payload[both]).max())
