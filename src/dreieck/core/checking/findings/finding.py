"""What a finding is, and what mends it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells, SetCharts, SetName
from dreieck.core.values import Place

State = Literal["broken", "doubt", "note"]


@dataclass(frozen=True, slots=True)
class Mend:
    """A proposed repair: what it does, a formula or entry before and after, and the edits.

    That of a chart says what it shows before and after.
    """

    says: str
    before: str
    after: str
    edits: tuple[SetCells, ...] | tuple[SetCharts] | tuple[SetName, ...]


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing in doubt or broken.

    ``areas`` are the cells that it is about on the sheet ``sheet``, ``reference`` counts the
    letter tags of the formula from 0; ``says`` is what is so, ``why`` why it matters. ``because``
    is what speaks for it, ``causes`` what comes of it in other cells or in these.
    """

    state: State
    sheet: str
    areas: tuple[Area, ...]
    says: str
    why: str
    reference: int | None = None
    mends: tuple[Mend, ...] = ()
    because: tuple[str, ...] = ()
    causes: tuple[str, ...] = ()
    broken: tuple[Area, ...] = ()
    """The cells of its own sheet that show an error because of it."""
    began: Place | None = None
    """Where an error began."""
    owner: int = 0
    """The number of the block, or sheet, that it was found for."""
    rule: str = ""
    """The identifier of the rule that found it, which the rule's registration gives it."""
    meant: str = ""
    """The reason why it is meant, if somebody answered so: it is a note then."""
    strength: int = 1
    """How much it explains: of two findings that one mend does away with, the stronger stays."""

    @property
    def count(self) -> int:
        """How many cells it is about."""
        return sum(area.size for area in self.areas)

    def holds(self, cell: Cell) -> bool:
        """Whether it is about a cell of its sheet."""
        return any(area.holds(cell) for area in self.areas)
