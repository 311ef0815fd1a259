"""Budgets: how much work one calculation may do, counted where the work is done.

Work is counted in steps: about what it takes to work out one operator for one cell by hand. Arrays
and texts count by their length. One formula (or one block of them, which is worked out as a
whole) has an allowance that depends on nothing but its size, so it gives the same result on a slow
machine and on a fast one; what exceeds it is ``#WORK!``. Beside that, whoever asked may end all
work, by the clock or because nobody waits for the answer any more: then ``WorkEnded`` is raised,
what is worked out already is kept, and the rest waits until it is asked for again.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar

FORMULA_STEPS = 3_000_000
"""How many steps one formula may take; some seconds."""
CELL_STEPS = 200
"""How many more steps a block may take for each of its cells."""
AT_ONCE = 32
"""So many cells or numbers of an array count as one step."""
_STRETCH = 20_000
"""After so many steps the budget is looked at."""


class TooMuchWork(Exception):
    """A formula takes more steps than it may; it becomes an error value."""


class WorkEnded(Exception):
    """All work for a question ends: it took too long (``by_clock``), or nobody waits for it."""

    def __init__(self, message: str, *, by_clock: bool = False) -> None:
        super().__init__(message)
        self.by_clock = by_clock


class Budget:
    """The work of one question: counted by formula, and watched as a whole."""

    def __init__(self) -> None:
        self._allowed: int | None = None
        self._used = 0
        self._left = self._mark = _STRETCH
        self.hurried = False
        """Whether nothing more is worked out: values that are not known count as unfinished."""

    def watch(self) -> None:
        """Called now and then while work goes on; one that has an end waits here, or raises."""

    def spend(self, steps: int) -> None:
        """Count work. Raises TooMuchWork inside a formula, and WorkEnded."""
        self._left -= steps
        if self._left < 0:
            self.look()

    def look(self) -> None:
        """See whether work may go on. Raises TooMuchWork inside a formula, and WorkEnded."""
        self._used += self._mark - self._left
        self._left = self._mark = _STRETCH
        self.watch()
        if self._allowed is not None and self._used > self._allowed:
            raise TooMuchWork

    @contextmanager
    def formula(self, cells: int) -> Iterator[None]:
        """Count the work of one formula that stands in so many cells."""
        before = self._allowed, self._used + self._mark - self._left
        self._allowed, self._used = FORMULA_STEPS + CELL_STEPS * cells, 0
        # How far it is to the next look goes on: many small formulas are much work, too.
        self._mark = self._left
        try:
            yield
        finally:
            self._allowed, self._used = before
            self._mark = self._left


_CURRENT: ContextVar[Budget | None] = ContextVar("budget", default=None)


def current() -> Budget:
    """The budget of the question at hand; without one work is counted by formula only."""
    budget = _CURRENT.get()
    if budget is None:
        budget = Budget()
        _CURRENT.set(budget)
    return budget


def spend(steps: int) -> None:
    """Count work of the question at hand. Raises TooMuchWork inside a formula, and WorkEnded."""
    current().spend(steps)


@contextmanager
def working(budget: Budget) -> Iterator[Budget]:
    """Count what is done inside by a budget."""
    token = _CURRENT.set(budget)
    try:
        yield budget
    finally:
        _CURRENT.reset(token)
