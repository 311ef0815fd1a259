"""Many numbers rounded at once, each to the very number that ``decimals`` rounds it to.

That one goes by the shortest decimal text of a number. A float is told from the decimal beside it
by the float of that decimal: with 15 digits or fewer no two decimals share one, so that ``2.675``
is a half just where it is the float of 2.675. Numbers with more digits are left open.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Numbers = Floats | float
_MOST = 15
"""So many decimals, or zeros in front of the point, can be rounded to at once."""
_POWERS = np.array([float(f"1e{power}") for power in range(_MOST + 1)])
_DIGITS = 1e14
"""Numbers of fewer digits than this one can be told apart, with one digit more."""


def all_rounded(number: Numbers, decimals: Numbers = 0.0) -> Floats:
    """Numbers rounded to so many decimals, a half away from zero; no number where left open."""
    size, power, is_behind, whole, known = _taken_apart(number, decimals)
    # Halves are told by the float of the decimal in the middle between two whole units.
    twice = 2 * whole + 1
    middle = np.where(is_behind, twice / (2 * power), twice * (power / 2))
    return _put_together(number, whole + (size >= middle), power, is_behind, known)


def all_rounded_towards(number: Numbers, decimals: Numbers, *, away: bool) -> Floats:
    """Numbers rounded away from zero or towards it; no number where that is left open."""
    size, power, is_behind, whole, known = _taken_apart(number, decimals)

    def unit(whole: Floats) -> Floats:
        found: Floats = np.where(is_behind, whole / power, whole * power)
        return found

    # The product may lie on the other side of a whole number than the decimal does.
    whole = whole - (size < unit(whole))
    whole = whole + (size > unit(whole) if away else size >= unit(whole + 1))
    return _put_together(number, whole, power, is_behind, known)


def _taken_apart(number: Numbers, decimals: Numbers) -> tuple[Floats, Any, Any, Floats, Any]:
    """Sizes, the powers of ten to count in, and about how many whole ones each size has."""
    size, decimals = np.abs(number), np.asarray(decimals, np.float64)
    known = np.abs(decimals) <= _MOST
    places = np.where(known, np.abs(decimals), 0).astype(np.intp)
    power = _POWERS[places]
    is_behind = np.greater_equal(decimals, 0)
    whole = np.floor(np.where(is_behind, size * power, size / power))
    return np.asarray(size), power, is_behind, whole, known & (whole < _DIGITS)


def _put_together(
    number: Numbers, whole: Floats, power: Any, is_behind: Any, known: Any
) -> Floats:
    found = np.copysign(np.where(is_behind, whole / power, whole * power), number)
    return np.where(known, found, np.nan)
