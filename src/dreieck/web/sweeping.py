"""Sweeps on their way and done, kept in memory: each request makes some runs of one."""

from __future__ import annotations

import time
from collections import OrderedDict
from dataclasses import dataclass

from dreieck.core.checking.sweeps.asked import asked
from dreieck.core.checking.sweeps.running import Outcome, Running
from dreieck.core.formula import Shape
from dreieck.core.sheet.stated import Stated
from dreieck.store import OpenWorkbook

MAX_KEPT = 60
"""The results of so many sweeps are kept."""
MAX_VALUES = 20_000_000
"""And so many values altogether."""
SECONDS = 0.8
"""So long a request makes runs."""


@dataclass
class Sweeping:
    """A sweep: the revision of the workbook with which it was begun, and how far it is."""

    shape: Shape
    revision: int
    running: Running | None
    outcome: Outcome | None = None
    is_stopped: bool = False

    @property
    def share(self) -> float:
        """How far it is, from 0 to 1."""
        running = self.running
        return running.done / max(running.total, 1) if running else 1.0

    @property
    def size(self) -> int:
        """How many values are kept of it."""
        return sum(map(len, self.outcome.columns)) if self.outcome else 0

    def is_old(self, opened: OpenWorkbook) -> bool:
        """Whether values of the workbook may have changed since it was begun."""
        return self.revision < opened.values_at


class Sweepings:
    """All of them, by the number of their workbook and their own; hold its lock."""

    def __init__(self) -> None:
        self._kept: OrderedDict[tuple[int, int], Sweeping] = OrderedDict()

    def known(self, opened: OpenWorkbook, sweep: Stated) -> Sweeping | None:
        """What is known of a sweep, if it was begun as it is stated now."""
        found = self._kept.get((opened.id, sweep.number))
        return found if found and found.shape is sweep.shape else None

    def gone_on(self, opened: OpenWorkbook, sweep: Stated, *, anew: bool = False) -> Sweeping:
        """A sweep after some more runs; begun if it was not. Raises DreieckError."""
        found = None if anew else self.known(opened, sweep)
        if found is None or (found.running and found.is_old(opened)):
            wanted = asked(opened.calculation, sweep.shape)
            running = Running(opened.calculation, wanted)
            found = Sweeping(sweep.shape, opened.revision, running)
            self._kept[opened.id, sweep.number] = found
        if found.running and not found.is_stopped:
            ends = time.monotonic() + SECONDS
            if found.running.go_on(lambda: time.monotonic() < ends):
                found.outcome, found.running = found.running.outcome(), None
        self._kept.move_to_end((opened.id, sweep.number))
        self._make_room()
        return found

    def _make_room(self) -> None:
        """Let go of the results that were looked at longest ago, where they are many."""
        while len(self._kept) > 1:
            values = sum(each.size for each in self._kept.values())
            if len(self._kept) <= MAX_KEPT and values <= MAX_VALUES:
                return
            self._kept.popitem(last=False)

    def stop(self, opened: OpenWorkbook, sweep: Stated) -> None:
        """Make no more runs of a sweep."""
        found = self.known(opened, sweep)
        if found and found.running:
            found.is_stopped = True
