"""Named ranges: what can be a name, and what a name stands for."""

from __future__ import annotations

import re
from dataclasses import dataclass

from dreieck.core.address import Cell
from dreieck.core.exceptions import NameRefused
from dreieck.core.formula import Shape

MAX_NAME = 64
"""How many characters a name can have."""

_NAME = re.compile(r"[^\W\d][\w.]*")
_ADDRESS = re.compile(r"[A-Za-z]{1,3}[0-9]+")


@dataclass(frozen=True, slots=True)
class Named:
    """A name, and the formula that it stands for, said by position."""

    name: str
    shape: Shape

    @property
    def shape_text(self) -> str:
        """What it stands for, as it would be written in A1."""
        return self.shape.text(Cell(1, 1))[1:]


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


def named(name: str, says: str) -> Named:
    """A name for what a reference or formula says, with or without ``=`` in front.

    Raises NameRefused or FormulaError.
    """
    formula = says if says.startswith("=") else "=" + says
    return Named(checked_name(name), Shape.parse(formula, Cell(1, 1)))


def _proposal(name: str) -> str:
    plain = re.sub(r"[^\w.]+", "_", name).strip("_")[: MAX_NAME - 2] or "rate"
    if plain[0].isdigit() or plain[0] == ".":
        plain = "_" + plain
    if _ADDRESS.fullmatch(plain) or plain.upper() in ("TRUE", "FALSE"):
        plain += "_"
    return plain
