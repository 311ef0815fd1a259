"""What is stated about cells and kept with the workbook: proofs, sweeps, answers to findings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dreieck.core.formula import Shape
from dreieck.core.grid import Cell

STANDS = Cell(1, 1)
"""The cell in which a statement would stand; each of its references names its sheet."""
Sort = Literal["proofs", "sweeps", "answers"]


@dataclass(frozen=True, slots=True)
class Stated:
    """A statement about cells; ``number`` tells it from the others of its sort."""

    number: int
    shape: Shape

    @property
    def text(self) -> str:
        """The statement, as it is written."""
        return self.shape.text(STANDS)


class Proof(Stated):
    """A statement of what holds, looked at after every change."""


class Sweep(Stated):
    """A statement of which inputs run over which values, and what is to be seen of it."""


class Answer(Stated):
    """A statement that what a rule finds in cells is meant, and why."""


SORTS: dict[Sort, type[Stated]] = {"proofs": Proof, "sweeps": Sweep, "answers": Answer}
"""What is kept, by the sort of it."""


def one_of(sort: Sort) -> str:
    """What a single one of a sort is called."""
    return sort.removesuffix("s")
