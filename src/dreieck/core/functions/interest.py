"""Finding the interest at which money over time comes to nothing.

What it comes to is looked at over a wide range of interests, and each change of its sign is
narrowed down (Brent's method). So a solution is found wherever one changes the sign.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np
from numpy.typing import NDArray

from dreieck.core.budget import AT_ONCE, spend
from dreieck.core.functions.registry import Failure
from dreieck.core.values import NUM

Numbers = NDArray[np.float64]
_NEAR = np.linspace(-3.0, 3.0, 1201)
_FAR = np.linspace(3.0, 30.0, 271)[1:]
_GRID = np.concatenate((-_FAR[::-1], _NEAR, _FAR))
"""Logarithms of growth, from next to nothing to ten million millions."""
_TINY = 1e-15


def interest_where_nothing(worth: Callable[[Numbers], Numbers], guess: float) -> float:
    """The interest nearest to ``guess`` at which ``worth`` is 0.

    ``worth`` takes logarithms of growth, that is of 1 + interest; its sign alone counts.
    Raises Failure where there is none.
    """
    if guess <= -1:
        raise Failure(NUM, "The guess has to be above -100 %.")
    with np.errstate(all="ignore"):
        signs = np.sign(worth(_GRID))
        found = [float(_GRID[place]) for place in np.flatnonzero(signs == 0)]
        for place in np.flatnonzero(signs[:-1] * signs[1:] < 0).tolist():
            found.append(_narrowed(worth, float(_GRID[place]), float(_GRID[place + 1])))
    if not found:
        raise Failure(NUM, "There is no interest at which this comes to nothing.")
    return min(map(float, np.expm1(found)), key=lambda rate: abs(rate - guess))


def _narrowed(worth: Callable[[Numbers], Numbers], low: float, high: float) -> float:
    # This takes long to load, and few need it.
    from scipy.optimize import brentq  # noqa: PLC0415

    return float(brentq(lambda at: worth(np.array([at]))[0], low, high, xtol=_TINY))


def worth_of(payments: Sequence[float], times: Sequence[float]) -> Callable[[Numbers], Numbers]:
    """What payments at times, counted in periods, are worth, scaled so that nothing is too large.

    Raises Failure unless something is paid and something received.
    """
    held = [(paid, time) for paid, time in zip(payments, times, strict=True) if paid]
    if not any(paid > 0 for paid, _ in held) or not any(paid < 0 for paid, _ in held):
        raise Failure(NUM, "Something has to be paid and something received.")
    first, last = min(time for _, time in held), max(time for _, time in held)

    def worth(growth: Numbers) -> Numbers:
        spend(len(held) * (len(growth) // AT_ONCE + 1))
        nearest = np.where(growth >= 0, first, last)
        found = np.zeros_like(growth)
        for paid, time in held:
            found += paid * np.exp((nearest - time) * growth)
        return found

    return worth
