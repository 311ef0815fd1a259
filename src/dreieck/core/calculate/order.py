"""In which order tasks are worked out: each after those that it reads.

Tasks that read each other in a ring are found as strongly connected components, by Tarjan's
method without recursion. A ring that only goes one way (a chain, a running balance) is worked
out line by line in that direction. Any other ring is split into its cells; those that still
read each other in a ring read themselves, and become ``#LOOP!``.
"""

from __future__ import annotations

import logging
from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import takewhile
from time import monotonic
from typing import Protocol

from dreieck.core.analysis.fanning import fans
from dreieck.core.budget import TooMuchWork, WorkEnded, current
from dreieck.core.calculate.directions import run_in_direction
from dreieck.core.calculate.strips import work_out
from dreieck.core.calculate.tasks import CellTasks, KnownValues, Task, Tasks
from dreieck.core.grid import Area, Cell
from dreieck.core.values import LOOP, VALUE, WORK, Error, Place

log = logging.getLogger("dreieck")

MAX_CHARACTERS = 50_000_000
"""How many characters the texts that the formulas of one sheet give can have together."""
_LONG_TEXTS = 1_000_000
_TOO_MUCH = "Working this out takes more steps than one formula may take."
_TOO_LONG = f"The texts on this sheet would have more than {MAX_CHARACTERS:,} characters."
_FAULT = "This could not be worked out, by a fault inside Dreieck; the server's log tells more."


class UnsettledError(Exception):
    """A formula asks for cells that are not worked out, and that its references do not tell."""

    def __init__(self, sheet: str, area: Area) -> None:
        super().__init__(sheet, area)
        self.sheet = sheet
        self.area = area


class PatientValues(KnownValues, Protocol):
    """Those, and which work is given up."""

    def is_in_vain(self, task: Task, seconds: float) -> bool:
        """Whether work on a task that had to end after so many seconds is given up."""


@dataclass(slots=True)
class _Visit:
    task: Task
    reads: Iterator[Task]
    number: int
    lowest: int
    reads_itself: bool = False


class Order:
    """One question for values, and all that has to be settled before it."""

    def __init__(
        self, values: PatientValues, tasks: Tasks, record: list[Task] | None = None
    ) -> None:
        """Begin; ``record`` takes down the tasks as they are worked out.

        Rings are split into their cells then, so that each task reads only those before it.
        """
        self.values = values
        self.tasks = tasks
        self.record = record
        self._numbers: dict[Task, int] = {}
        self._open: list[Task] = []
        self._done: set[Task] = set()

    def settle(self, sheet: str, area: Area) -> None:
        """Work out all tasks that lie in an area, and before them those that they read."""
        for task in list(self.tasks.within(sheet, area)):
            if task not in self._done:
                self._settle(task)

    def _settle(self, task: Task) -> None:
        # The strongly connected components of Tarjan, deepest first, without recursion.
        path = [self._visit(task)]
        while path:
            visit = path[-1]
            unseen = self._next_unseen(visit)
            if unseen:
                path.append(self._visit(unseen))
            elif self._leave(visit):
                path.pop()
                if path:
                    path[-1].lowest = min(path[-1].lowest, visit.lowest)

    def _next_unseen(self, visit: _Visit) -> Task | None:
        """The next task that a visited one reads and that was not visited yet."""
        for read in visit.reads:
            if read in self._done:
                continue
            if read == visit.task:
                visit.reads_itself = True
            elif read in self._numbers:
                visit.lowest = min(visit.lowest, self._numbers[read])
            else:
                return read
        return None

    def _leave(self, visit: _Visit) -> bool:
        """Work a ring out if this visit began it; False where it asks for more before."""
        if visit.lowest == visit.number:
            try:
                self._close(visit)
            except UnsettledError as asked:
                visit.reads = self.tasks.within(asked.sheet, asked.area)
                return False
        return True

    def _visit(self, task: Task) -> _Visit:
        number = self._numbers[task] = len(self._numbers)
        self._open.append(task)
        return _Visit(task, self.tasks.read_by(task), number, number)

    def _close(self, visit: _Visit) -> None:
        """Work out a task, or a ring of tasks, whose readings are all settled."""
        ring = list(takewhile(lambda task: task != visit.task, reversed(self._open)))
        ring.append(visit.task)
        begun = monotonic()
        try:
            with current().formula(sum(task.area.size for task in ring)):
                self._work_out(ring, reads_itself=len(ring) > 1 or visit.reads_itself)
        except UnsettledError:
            raise
        except WorkEnded as ended:
            # What never gets done in the time that there is must not be begun for ever.
            if not ended.by_clock or not self.values.is_in_vain(ring[0], monotonic() - begun):
                raise
            self._give_up(ring, Error(WORK, _TOO_MUCH))
        except (TooMuchWork, MemoryError, RecursionError):
            self._give_up(ring, Error(WORK, _TOO_MUCH))
        except Exception:
            log.exception("Formulas could not be worked out: %s", ring[:5])
            self._give_up(ring, Error(VALUE, _FAULT))
        if any(self._holds_too_much(task) for task in ring):
            self._give_up(ring, Error(WORK, _TOO_LONG), anew=True)
        del self._open[-len(ring) :]
        self._done.update(ring)

    def _work_out(self, ring: list[Task], *, reads_itself: bool) -> None:
        if not reads_itself:
            work_out(ring[0], self.values)
            if self.record is not None:
                self.record.append(ring[0])
        elif isinstance(self.tasks, CellTasks):
            for task in ring:
                why = "This cell reads itself, directly or over other cells."
                place = Place(task.sheet, task.area.first)
                self.values.results(task.sheet).put(place.cell, Error(LOOP, why, place))
        elif self.record is not None or self._fans(ring) or not self._one_way(ring):
            for task in ring:
                cells = Order(self.values, CellTasks(self.values), self.record)
                cells.settle(task.sheet, task.area)

    def _give_up(self, ring: list[Task], error: Error, *, anew: bool = False) -> None:
        """Let the cells that are not worked out, or all of them ``anew``, hold an error."""
        for task in ring:
            results = self.values.results(task.sheet)
            for column in range(task.area.left, task.area.right + 1):
                first = Place(task.sheet, Cell(column, task.area.top))
                here = replace(error, origin=first)
                if anew:
                    results.put_down(column, task.area.top, task.area.bottom, here)
                else:
                    results.put_pending(column, task.area.top, task.area.bottom, here)

    def _holds_too_much(self, task: Task) -> bool:
        """Whether the texts in the columns of a task are too long to be held in memory."""
        results = self.values.results(task.sheet)
        columns = (results.column(n) for n in range(task.area.left, task.area.right + 1))
        if all(column.pool.characters < _LONG_TEXTS for column in columns):
            return False
        if results.characters() <= MAX_CHARACTERS:
            return False
        results.compact()
        return results.characters() > MAX_CHARACTERS

    def _fans(self, ring: list[Task]) -> bool:
        return any(fans(task.shape, self.values.named) for task in ring)

    def _one_way(self, ring: list[Task]) -> bool:
        try:
            return run_in_direction(ring, self.values)
        except UnsettledError:
            return False
