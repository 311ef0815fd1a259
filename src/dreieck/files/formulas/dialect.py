"""What the dialects of files share: formulas are read into shapes, and written from them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from dreieck.core.budget import spend
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, parse, tree
from dreieck.core.formula.printer import Notation, Piece, pieces, written
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import MAX_ENTRY, Unreadable

_LONGEST = 2 * MAX_ENTRY
"""Formulas of files may be longer than they are here."""
SheetNamed = Callable[[str], str]
"""What a sheet of the file is called here."""


class Dialect(Protocol):
    """How formulas are written in a sort of files."""

    notation: Notation

    def reference(self, reference: Reference, at: Cell) -> str:
        """A reference as it stands in a file."""

    def ours(self, text: str, at: Cell) -> str:
        """A formula of the file, without ``=`` or a prefix, as we write it, without ``=``.

        Raises FormulaError where there is no such formula here.
        """

    def understood(self, node: tree.Node, at: Cell) -> tree.Node:
        """What a formula of the file, as we write it, means here."""

    def prepared(self, node: tree.Node) -> tree.Node:
        """A formula as it can be laid out in the notation."""


class FormulaWriter:
    """Writes shapes in a dialect; each is laid out once."""

    def __init__(self, dialect: Dialect) -> None:
        self._dialect = dialect
        self._laid_out: dict[Shape, tuple[Piece, ...]] = {}

    def text(self, shape: Shape, at: Cell) -> str:
        """The formula in a cell, without ``=`` or a prefix."""
        laid_out = self._laid_out.get(shape)
        if laid_out is None:
            laid_out = self._laid_out[shape] = pieces(
                self._dialect.prepared(shape.tree), self._dialect.notation
            )
        return written(laid_out, at, self._dialect.reference)[1:]


class FormulaReader:
    """Reads formulas of a sheet from top to bottom.

    What is filled down or across is recognised by its text, and is not parsed again.
    """

    def __init__(self, dialect: Dialect) -> None:
        self._dialect = dialect
        self._writer = FormulaWriter(dialect)
        self.problem = ""
        """Why the last formula could not be read."""
        self._above: dict[int, Shape] = {}
        self._before: Shape | None = None

    def read(self, text: str, at: Cell) -> Shape | Unreadable:
        """The formula that stands in a cell; it is kept as it is where we cannot read it."""
        for known in dict.fromkeys((self._above.get(at.column), self._before)):
            on_sheet = known and known.home and known.home.holds(at)
            if known and on_sheet and self._writer.text(known, at) == text:
                return self._keep(known, at)
        try:
            return self._keep(read_formula(self._dialect, text, at), at)
        except FormulaError as problem:
            self.problem = str(problem)
            return Unreadable("=" + text)

    def _keep(self, shape: Shape, at: Cell) -> Shape:
        self._above[at.column] = self._before = shape
        return shape


def left_out(problem: str) -> tuple[str, str]:
    """What to call a formula that could not be read, and what became of it."""
    if "another file" in problem:
        return "formula with cells of another file", "kept as written; no other file is opened"
    return "formula that cannot be read here", "kept as written"


def read_formula(dialect: Dialect, text: str, at: Cell) -> Shape:
    """The shape of a formula of a file that stands in a cell. Raises FormulaError."""
    if len(text) > _LONGEST:
        raise FormulaError(f"A formula can have {_LONGEST:,} characters.", 0)
    spend(len(text))
    node = parse("=" + dialect.ours(text, at), at).tree
    return Shape.of(dialect.understood(node, at))
