"""The lock of a workbook: waiting for it ends in words, not never."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from threading import RLock

WAIT = 10.0
"""So many seconds the lock is waited for."""


class BusyError(Exception):
    """A workbook is in other hands for so long that nothing can be done with it now."""


class WorkbookLock:
    """A lock that its holder can take again; taking it raises BusyError after a while."""

    def __init__(self, order: int) -> None:
        """``order`` is the number by which several locks are taken one after the other."""
        self.order = order
        self._lock = RLock()

    def __enter__(self) -> None:
        if not self._lock.acquire(timeout=WAIT):
            raise BusyError("The workbook is busy with other work just now. Try it again.")

    def __exit__(self, *_: object) -> None:
        self._lock.release()


@contextmanager
def all_locked(*locks: WorkbookLock) -> Iterator[None]:
    """Hold several locks, always taken in the same order, so that none waits for another."""
    with ExitStack() as held:
        for lock in sorted(locks, key=lambda each: each.order):
            held.enter_context(lock)
        yield
