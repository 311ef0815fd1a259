"""Finding the interest at which money over time comes to nothing.

What it comes to is looked at over a wide range of interests, and each change of its sign is
narrowed down (Brent's method). So a solution is found wherever one changes the sign.
"""

from __future__ import annotations

import math
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
_NEXT_TO_NOTHING = 1e-8
"""What is so small in proportion to what lies beside it counts as nothing."""


def interest_where_nothing(worth: Callable[[Numbers], Numbers], guess: float) -> float:
    """The interest nearest to ``guess`` at which ``worth`` is 0.

    ``worth`` takes logarithms of growth, that is of 1 + interest; its sign alone counts.
    Raises Failure where there is none.
    """
    if guess <= -1:
        raise Failure(NUM, "The guess has to be above -100 %.")
    with np.errstate(all="ignore"):
        worths = worth(_GRID)
        signs, sizes = np.sign(worths), np.abs(worths)
        found = [float(_GRID[place]) for place in np.flatnonzero(signs == 0)]
        for place in np.flatnonzero(signs[:-1] * signs[1:] < 0).tolist():
            found.append(_narrowed(worth, float(_GRID[place]), float(_GRID[place + 1])))
        # Where it comes near 0 and turns round, it may be 0 twice between two places, or once.
        turns = (sizes[1:-1] < sizes[:-2]) & (sizes[1:-1] < sizes[2:]) & (signs[1:-1] != 0)
        alike = (signs[:-2] == signs[1:-1]) & (signs[2:] == signs[1:-1])
        for place in (np.flatnonzero(turns & alike) + 1).tolist():
            found.extend(_at_turn(worth, *_GRID[place - 1 : place + 2].tolist()))
    if not found:
        raise Failure(NUM, "There is no interest at which this comes to nothing.")
    return min(map(float, np.expm1(found)), key=lambda rate: abs(rate - guess))


def _narrowed(worth: Callable[[Numbers], Numbers], low: float, high: float) -> float:
    # This takes long to load, and few need it.
    from scipy.optimize import brentq  # noqa: PLC0415

    return float(brentq(lambda at: worth(np.array([at]))[0], low, high, xtol=_TINY))


def _at_turn(
    worth: Callable[[Numbers], Numbers], low: float, middle: float, high: float
) -> list[float]:
    """Where, next to a turn between three places, nothing is left; twice, once or not at all."""
    from scipy.optimize import minimize_scalar  # noqa: PLC0415

    def left(at: float) -> float:
        return float(worth(np.array([at]))[0])

    sign = math.copysign(1.0, left(middle))
    options = {"xatol": _TINY}
    turn = minimize_scalar(
        lambda at: sign * left(at), bounds=(low, high), method="bounded", options=options
    )
    if turn.fun < 0:
        return [_narrowed(worth, low, float(turn.x)), _narrowed(worth, float(turn.x), high)]
    touches = turn.fun <= _NEXT_TO_NOTHING * max(abs(left(low)), abs(left(high)))
    return [float(turn.x)] if touches else []


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
