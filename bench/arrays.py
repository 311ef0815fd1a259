"""Formulas that work with whole arrays of 100,000 values, against NumPy and plain Python."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial

import numpy as np

from bench.sheets import fill, workbook
from bench.timing import Figure, ratio
from dreieck.core.calculate import Calculation
from dreieck.core.grid import Area, Cell

_ROWS = 100_000
_HUTS = [("Kestrel", "Larch", "Scree")[row * row % 3] for row in range(_ROWS)]
_LOADS = [float(row * 7919 % 1000) for row in range(_ROWS)]


def figures() -> Iterator[Figure]:
    """One for each formula."""
    huts, loads = np.array(_HUTS, object), np.array(_LOADS)
    both = '=SUM((A1:A100000="Larch")*(B1:B100000>5))'
    yield Figure(
        "a sum over two conditions / the NumPy expression", 3.0,
        partial(_against, both, lambda: np.sum((huts == "Larch") * (loads > 5))),
    )  # fmt: skip
    yield Figure(
        "SORT / sorted", 2.0, partial(_against, "=ROWS(SORT(B1:B100000))", lambda: sorted(_LOADS))
    )
    yield Figure(
        "UNIQUE / dict.fromkeys", 2.0,
        partial(_against, "=ROWS(UNIQUE(B1:B100000))", lambda: list(dict.fromkeys(_LOADS))),
    )  # fmt: skip
    yield Figure(
        "FILTER / a comprehension", 2.0,
        partial(
            _against, "=ROWS(FILTER(B1:B100000,B1:B100000>500))",
            lambda: [load for load in _LOADS if load > 500],
        ),
    )  # fmt: skip
    yield Figure("XLOOKUP filled down / VLOOKUP filled down", 1.3, _lookups)


def _against(formula: str, yardstick: Callable[[], object]) -> float:
    made = workbook(A=_HUTS, B=_LOADS)
    fill(made, "E1", "E1", formula)
    return ratio(lambda: Calculation(made).value("Loads", Cell(5, 1)), yardstick)


def _lookups() -> float:
    keys = [f"item {row}" for row in range(_ROWS)]
    made, other = (
        workbook(A=keys, B=_LOADS, D=keys[::-1]),
        workbook(A=keys, B=_LOADS, D=keys[::-1]),
    )
    fill(made, "E1", f"E1:E{_ROWS}", f"=XLOOKUP(D1,$A$1:$A${_ROWS},$B$1:$B${_ROWS})")
    fill(other, "E1", f"E1:E{_ROWS}", f"=VLOOKUP(D1,$A$1:$B${_ROWS},2,FALSE)")

    def settled(workbook: object) -> None:
        for _ in Calculation(workbook).filled_values("Loads", Area(5, 1, 5, _ROWS)):  # type: ignore[arg-type]
            pass

    return ratio(lambda: settled(made), lambda: settled(other), rounds=5)
