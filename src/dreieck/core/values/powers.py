"""Powers: of two numbers, and of many.

Both go through one array function, so that a formula gives the same alone and in a column. It
is exact for whole powers that a number can hold. A square is rounded once, and so is one divided
by a power, which keeps 10 to the power of -5 the number that 0.00001 is.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from dreieck.core.values.roundings import Numbers


def power(base: float, exponent: float) -> float:
    """A number to a power; infinite or no number where it is too large or undefined."""
    with np.errstate(all="ignore"):
        return float(powers(np.array([base]), exponent)[0])


def powers(base: Numbers, exponent: Numbers) -> NDArray[np.float64]:
    """Numbers to powers; infinite or no number where they are too large or undefined."""
    if isinstance(exponent, float) and exponent == 2:
        return np.multiply(base, base)
    found: NDArray[np.float64] = np.power(base, exponent)
    inverse = np.less(exponent, 0) & (np.trunc(exponent) == exponent) & np.isfinite(found)
    if inverse.any():
        direct = np.power(base, np.abs(exponent))
        found = np.where(inverse & np.isfinite(direct) & (direct != 0), 1 / direct, found)
    return np.where(np.equal(exponent, 2), np.multiply(base, base), found)
