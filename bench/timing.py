"""Timing two things in turn, so that a noisy machine disturbs both alike."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from typing import NamedTuple


class Figure(NamedTuple):
    """What is measured against what, and how many times longer it may take."""

    title: str
    asked: float
    measure: Callable[[], float]


def ratio(work: Callable[[], object], yardstick: Callable[[], object], rounds: int = 7) -> float:
    """The median of how many times longer ``work`` takes, pair by pair."""
    pairs = [(seconds(work), seconds(yardstick)) for _ in range(rounds)]
    return statistics.median(one / other for one, other in pairs)


def seconds(run: Callable[[], object]) -> float:
    """How long something takes."""
    started = time.perf_counter()
    run()
    return time.perf_counter() - started
