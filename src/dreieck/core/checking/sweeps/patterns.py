"""What a series of numbers does: grows steadily, levels off, repeats."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from dreieck.core.values.decimals import joined_text

_CLOSE = 1e-9
_FEW = 3
_LONGEST = 50
Numbers = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Pattern:
    """What a series does, in words, with its differences and ratios from one to the next."""

    says: str
    differences: tuple[float | None, ...]
    ratios: tuple[float | None, ...]


def pattern(values: Sequence[float | None]) -> Pattern:
    """The pattern of the values of a result; None where one is no number."""
    differences: list[float | None] = [None]
    ratios: list[float | None] = [None]
    for before, value in pairwise(values):
        both = before is not None and value is not None
        differences.append(_tidy(value - before) if both else None)  # type: ignore[operator]
        ratios.append(value / before if both and before else None)  # type: ignore[operator]
    whole = [each for each in values if each is not None]
    says = _said(np.array(whole)) if len(whole) == len(values) else "not always a number"
    return Pattern(says, tuple(differences), tuple(ratios))


def _tidy(number: float) -> float:
    return float(f"{number:.12g}")


def _said(values: Numbers) -> str:
    if len(values) < 2:
        return ""
    size = float(np.abs(values).max())
    steps = np.diff(values)
    if np.all(np.abs(steps) <= _CLOSE * size):
        return "does not answer: always the same"
    if len(values) < _FEW:
        return "grows" if steps[0] > 0 else "falls"
    if _alike(steps, size):
        verb = "grows" if steps[0] > 0 else "falls"
        by = joined_text(_tidy(float(np.abs(steps).mean())))
        return f"{verb} steadily, by {by} from one to the next"
    period = _period(values, size)
    if period:
        return f"repeats after every {period} values"
    if np.all(values[:-1] != 0):
        ratios = values[1:] / values[:-1]
        if _alike(ratios, float(np.abs(ratios).max())) and ratios[0] > 0:
            times = joined_text(float(f"{float(ratios.mean()):.6g}"))
            return f"grows by the same ratio: {times} times the one before"
    if np.all(steps >= 0) or np.all(steps <= 0):
        return _one_way(np.abs(steps), steps.sum() > 0, size)
    turn = np.flatnonzero(np.sign(steps[1:]) * np.sign(steps[:-1]) < 0)
    if len(turn) == 1:
        high = steps[turn[0]] > 0
        at = joined_text(_tidy(float(values[turn[0] + 1])))
        return f"{'rises, then falls: highest' if high else 'falls, then rises: lowest'} with {at}"
    if np.abs(steps[-1]) < 0.1 * np.abs(steps).max() and _shrinks(np.abs(steps)):
        return "swings, and levels off"
    return "goes up and down"


def _one_way(sizes: Numbers, grows: bool, size: float) -> str:
    verb = "grows" if grows else "falls"
    if sizes[-1] <= 1e-3 * size and sizes[-1] <= 0.1 * sizes[0]:
        return f"{verb}, and levels off"
    if np.all(np.diff(sizes) >= -_CLOSE * size):
        return f"{verb} faster and faster"
    if np.all(np.diff(sizes) <= _CLOSE * size):
        return f"{verb} ever more slowly"
    return f"{verb} all the way"


def _shrinks(sizes: Numbers) -> bool:
    half = len(sizes) // 2
    return bool(sizes[half:].max() < 0.5 * sizes[:half].max()) if half else False


def _alike(numbers: Numbers, size: float) -> bool:
    return bool(np.abs(numbers - numbers[0]).max() <= _CLOSE * 10 * max(size, 1e-300))


def _period(values: Numbers, size: float) -> int:
    """After how many values a series begins again, if it does at least twice."""
    for length in range(2, min(len(values) // 2, _LONGEST) + 1):
        if np.abs(values[length:] - values[:-length]).max() <= _CLOSE * size:
            return length
    return 0
