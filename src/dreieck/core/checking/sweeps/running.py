"""A sweep that runs: a stretch of runs after the other, as long as there is time."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.runs import Runs
from dreieck.core.checking.sweeps.asked import Asked
from dreieck.core.sheet.cells import Cells


@dataclass(frozen=True)
class Outcome:
    """What came out: for each cell that is seen its values, run by run."""

    asked: Asked
    columns: tuple[Cells, ...]


class Running:
    """A sweep on its way. Good until the workbook changes; nothing in it changes by this."""

    def __init__(self, calculation: Calculation, asked: Asked) -> None:
        self.asked = asked
        self.total = asked.count
        self.done = 0
        self._runs = Runs(calculation, [each.place for each in asked.inputs], asked.results)
        self._parts: list[list[Cells]] = []

    def go_on(self, may_go_on: Callable[[], bool]) -> bool:
        """Make runs as long as that may be; tell whether all are made."""
        while self.done < self.total:
            end = min(self.done + self._runs.at_once, self.total)
            self._parts.append(self._runs.of(self.asked.given(self.done, end)))
            self.done = end
            if not may_go_on():
                break
        return self.done == self.total

    def outcome(self) -> Outcome:
        """What came out of all runs."""
        columns = (Cells.joined(list(parts)) for parts in zip(*self._parts, strict=True))
        return Outcome(self.asked, tuple(columns))


def run(calculation: Calculation, asked: Asked) -> Outcome:
    """Run a sweep to its end."""
    running = Running(calculation, asked)
    running.go_on(lambda: True)
    return running.outcome()
