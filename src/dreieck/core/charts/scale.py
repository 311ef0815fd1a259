"""Round numbers along an axis."""

from __future__ import annotations

import math
from collections.abc import Sequence
from decimal import ROUND_CEILING, ROUND_FLOOR, Decimal

from dreieck.core.values import exact

_STEPS = (Decimal(1), Decimal(2), Decimal(5), Decimal(10))
_MOST = 6
"""So many steps at the most."""


def ticks(numbers: Sequence[float], *, from_zero: bool) -> list[Decimal]:
    """Round numbers at equal distances that reach from below the least number to above the most.

    With ``from_zero`` 0 is one of them.
    """
    finite = [exact(number) for number in numbers if math.isfinite(number)]
    low, high = min(finite, default=Decimal(0)), max(finite, default=Decimal(1))
    if from_zero:
        low, high = min(low, Decimal(0)), max(high, Decimal(0))
    if low == high:
        low, high = (low, low + 1) if low >= 0 else (low - 1, low)
    step = _step((high - low) / _MOST)
    first = (low / step).to_integral_value(ROUND_FLOOR)
    last = (high / step).to_integral_value(ROUND_CEILING)
    return [step * (first + number) for number in range(int(last - first) + 1)]


def _step(least: Decimal) -> Decimal:
    """The smallest round number that is not less: 1, 2 or 5 times a power of ten."""
    power = Decimal(1).scaleb(least.adjusted())
    return next(step * power for step in _STEPS if step * power >= least)


def decimals_of(ticks: Sequence[Decimal]) -> int:
    """How many digits behind the point tell neighbouring ticks apart."""
    step = (ticks[1] - ticks[0]).normalize()
    return max(-int(step.as_tuple().exponent), 0)
