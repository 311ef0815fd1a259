"""Named ranges: what can be a name, and what a name stands for."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from dreieck.core.exceptions import NameRefused
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, RangeReference, never_moves
from dreieck.core.grid import MAX_COLUMN, MAX_ROW, Area, Cell

MAX_NAME = 64
"""How many characters a name can have."""

_NAME = re.compile(r"[^\W\d][\w.]*")
_ADDRESS = re.compile(r"[A-Za-z]{1,3}[0-9]+")


NameKind = Literal["cell", "range", "columns", "growing range", "constant", "formula by position"]


@dataclass(frozen=True, slots=True)
class Named:
    """A name, and the formula that it stands for, said by position."""

    name: str
    shape: Shape

    @property
    def key(self) -> str:
        """The name without case."""
        return self.name.casefold()

    @property
    def base(self) -> Cell:
        """A cell from which all that it reads by position lies on the sheet."""
        return self.shape.home.first if self.shape.home else Cell(1, 1)

    @property
    def shape_text(self) -> str:
        """What it stands for, as it would be written in its base."""
        return self.shape.text(self.base)[1:]

    @property
    def place(self) -> tuple[str, Area] | None:
        """The sheet and the area, if it stands for one that never moves."""
        node = self.shape.tree
        if not isinstance(node, CellReference | RangeReference) or not node.sheet:
            return None
        if not never_moves(node):
            return None
        area = node.area(Cell(1, 1))
        return (node.sheet, area) if area else None

    @property
    def kind(self) -> NameKind:
        """What sort of thing it stands for."""
        if not self.shape.references:
            return "constant"
        if not self.place:
            return "formula by position"
        _, area = self.place
        if area.size == 1:
            return "cell"
        if area.height == MAX_ROW or area.width == MAX_COLUMN:
            return "columns"
        grows = area.bottom == MAX_ROW or area.right == MAX_COLUMN
        return "growing range" if grows else "range"


def checked_name(text: str) -> str:
    """The name, trimmed. Raises NameRefused, which says why and what would do."""
    name = text.strip()
    if not name:
        raise NameRefused("A name needs at least one letter.", "rate")
    if len(name) > MAX_NAME:
        raise NameRefused(f"A name can have {MAX_NAME} characters.", _proposal(name))
    if not _NAME.fullmatch(name):
        raise NameRefused(
            f"“{name}” cannot be a name: it begins with a letter or underscore and has only"
            " letters, digits, underscores and dots.",
            _proposal(name),
        )
    if _ADDRESS.fullmatch(name) or name.upper() in ("TRUE", "FALSE"):
        raise NameRefused(f"“{name}” means something else in a formula.", _proposal(name))
    return name


def named(name: str, says: str, at: Cell | None = None) -> Named:
    """A name for what a reference or formula says, with or without ``=`` in front.

    What it says by position is seen from ``at``, or else from A1. Raises NameRefused or
    FormulaError.
    """
    formula = says if says.startswith("=") else "=" + says
    return Named(checked_name(name), Shape.parse(formula, at or Cell(1, 1)))


def _proposal(name: str) -> str:
    plain = re.sub(r"[^\w.]+", "_", name).strip("_")[: MAX_NAME - 2] or "rate"
    if plain[0].isdigit() or plain[0] == ".":
        plain = "_" + plain
    if _ADDRESS.fullmatch(plain) or plain.upper() in ("TRUE", "FALSE"):
        plain += "_"
    return plain
