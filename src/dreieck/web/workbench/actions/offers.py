"""What is offered to be done next, as buttons."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from dreieck.core.grid import Cell
from dreieck.core.values.ambiguous import Other


@dataclass(frozen=True)
class Offer:
    """Something that can be done next: what its button says, and the action that it asks for."""

    says: str
    action: str
    wish: Mapping[str, str | int]


def other_readings(cell: Cell, others: Iterable[Other], revision: int) -> list[Offer]:
    """The other readings of what was entered into a cell, at a revision of the workbook."""
    found = []
    for other in others:
        asks = {"to": cell.text, "says": other.entry, "offered": str(revision)}
        found.append(Offer(other.says, "enter-instead", asks))
    return found
