"""What a finding is, what mends it, and the list of all rules."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

from dreieck.core.grid import Area
from dreieck.core.sheet.edits import SetCells, SetCharts

if TYPE_CHECKING:
    from dreieck.core.checking.findings.subject import Subject

State = Literal["broken", "doubt", "note"]


@dataclass(frozen=True, slots=True)
class Mend:
    """A proposed repair: what it does, a formula or entry before and after, and the edits.

    That of a chart says what it shows before and after.
    """

    says: str
    before: str
    after: str
    edits: tuple[SetCells, ...] | tuple[SetCharts]


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing in doubt or broken.

    ``areas`` are the cells that it is about on the sheet ``sheet``, ``reference`` counts the
    references of the formula from 0; ``says`` is what is so, ``why`` why it matters.
    """

    rule: str
    state: State
    sheet: str
    areas: tuple[Area, ...]
    says: str
    why: str
    reference: int | None = None
    mends: tuple[Mend, ...] = ()

    @property
    def count(self) -> int:
        """How many cells it is about."""
        return sum(area.size for area in self.areas)


Rule = Callable[["Subject"], Iterator[Finding]]

RULES: dict[str, Rule] = {}
"""All rules by their identifiers, in the order in which their findings are told."""


def rule(identifier: str) -> Callable[[Rule], Rule]:
    """Make a function the rule with this identifier."""

    def register(function: Rule) -> Rule:
        RULES[identifier] = function
        return function

    return register
