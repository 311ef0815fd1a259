"""How far reading or writing a file has come, told to somebody who may stop it."""

from __future__ import annotations

import math
import time
from collections.abc import Iterator
from contextlib import contextmanager

from dreieck.core.budget import Budget, current
from dreieck.files.exceptions import Stopped, TookTooLong

CELL_SECONDS = 25e-6
"""So much longer a file may take for each of its filled cells."""


class Progress(Budget):
    """The work on one file: where it is, between 0 and 1, and whether it goes on."""

    def __init__(self) -> None:
        super().__init__()
        self.share = 0.0
        self.says = "reading"
        self.is_stopped = False
        self._ends = math.inf

    def at(self, share: float, says: str = "") -> None:
        """The work has come so far. Raises Stopped, and TookTooLong."""
        self.share = min(max(self.share, share), 1.0)
        self.says = says or self.says
        self.watch()

    def stop(self) -> None:
        """Let the work end at the next opportunity."""
        self.is_stopped = True

    @contextmanager
    def within(self, seconds: float) -> Iterator[None]:
        """Let the work inside take so much of the processor's time, and no more."""
        before, self._ends = self._ends, time.thread_time() + seconds
        try:
            yield
        finally:
            self._ends = before

    def filled(self, cells: int) -> None:
        """So many more cells are filled: work on them may take longer."""
        self._ends += cells * CELL_SECONDS

    def watch(self) -> None:
        """Called now and then while work goes on. Raises Stopped, and TookTooLong."""
        if self.is_stopped:
            raise Stopped
        if time.thread_time() > self._ends:
            raise TookTooLong


class Within(Progress):
    """The work on a file as a part of other work: it ends when that does."""

    def __init__(self) -> None:
        super().__init__()
        self._whole = current()

    def watch(self) -> None:
        """Called now and then while work goes on. Raises Stopped, TookTooLong, WorkEnded."""
        super().watch()
        self._whole.watch()
