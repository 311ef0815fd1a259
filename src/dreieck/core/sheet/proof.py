"""Proofs: statements about cells that are kept with the workbook."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.formula import Shape
from dreieck.core.grid import Cell

STANDS = Cell(1, 1)
"""The cell in which the statement of a proof would stand; each reference names its sheet."""


@dataclass(frozen=True, slots=True)
class Proof:
    """A statement about cells; ``number`` tells it from the others of its workbook."""

    number: int
    shape: Shape

    @property
    def text(self) -> str:
        """The statement, as it is written."""
        return self.shape.text(STANDS)
