"""Which input gives a result: looked for between two values by a bracketing method."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.runs import Runs
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet.cells import Cells, Kind
from dreieck.core.values import Place
from dreieck.core.words.counting import many

_LOOKED_AT = 401
"""At so many values the result is looked at first, to see where it crosses what is wanted."""
_NEAR = 1e-9


@dataclass(frozen=True, slots=True)
class Solved:
    """The inputs that give a result, and how many there are in words."""

    inputs: tuple[float, ...]
    says: str


def solved(
    calculation: Calculation, input: Place, result: Place, wanted: float, low: float, high: float
) -> Solved:
    """The inputs between two values with which a result is what is wanted.

    Raises DreieckError where there is nothing between them, or no number comes out.
    """
    if not low < high:
        raise DreieckError("The lower bound has to lie below the upper one.")
    runs = Runs(calculation, [input], [result])

    def apart(values: NDArray[np.float64]) -> NDArray[np.float64]:
        (found,) = runs.of([Cells.numbers(values)])
        return np.where(found.kinds == Kind.NUMBER, found.payload - wanted, np.nan)

    def one(value: float) -> float:
        return float(apart(np.array([value]))[0])

    at = np.linspace(low, high, _LOOKED_AT)
    found = apart(at)
    if np.isnan(found).all():
        raise DreieckError("The result is no number anywhere between the bounds.")
    near = _NEAR * max(abs(wanted), float(np.nanmax(np.abs(found))), 1e-300)
    hits = [float(at[index]) for index in np.flatnonzero(np.abs(found) <= near)]
    if len(hits) > _LOOKED_AT // 2:
        return Solved((hits[0],), "The result is that for most inputs between the bounds.")
    # This takes long to load, and few need it.
    from scipy.optimize import brentq  # noqa: PLC0415

    for left in np.flatnonzero(found[:-1] * found[1:] < 0).tolist():
        if min(abs(found[left]), abs(found[left + 1])) <= near:
            continue
        try:
            root = float(brentq(one, at[left], at[left + 1], xtol=1e-13 * (high - low)))
        except ValueError:
            continue
        # Where the result jumps over what is wanted, no input gives it.
        if abs(one(root)) <= max(1e-6 * max(abs(wanted), 1e-300), near):
            hits.append(float(f"{root:.12g}"))
    hits = sorted(set(hits))
    if not hits:
        lowest, highest = np.nanmin(found) + wanted, np.nanmax(found) + wanted
        return Solved((), f"No input between the bounds gives that: it goes from {lowest:.6g}"
                          f" to {highest:.6g}.")  # fmt: skip
    told = "One input gives that." if len(hits) == 1 else f"{many(len(hits), 'input')} give that."
    return Solved(tuple(hits[:20]), told)
