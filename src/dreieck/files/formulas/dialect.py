"""What the dialects of files share: formulas are read into shapes, and written from them."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple, Protocol

from dreieck.core.analysis.lifting import Named
from dreieck.core.budget import spend
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, parse, tree
from dreieck.core.formula.printer import Notation, Piece, pieces, written
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import MAX_ENTRY, Unreadable
from dreieck.files.formulas.arrays import as_array, as_ordinary, levelled

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


class Written(NamedTuple):
    """A formula in a cell of a file, without ``=`` or a prefix; whether it is an array formula."""

    text: str
    is_array: bool


class FormulaWriter:
    """Writes shapes in a dialect; each is laid out once."""

    def __init__(self, dialect: Dialect, named: Named = lambda name: None) -> None:
        """A writer of formulas in which names stand for what ``named`` tells."""
        self._dialect = dialect
        self._named = named
        self._laid_out: dict[Shape, tuple[tuple[Piece, ...], bool]] = {}

    def written(self, shape: Shape, at: Cell) -> Written:
        """The formula in a cell."""
        if shape not in self._laid_out:
            ordinary = as_ordinary(shape.tree, self._named)
            node = as_array(shape.tree) if ordinary is None else ordinary
            laid_out = pieces(self._dialect.prepared(node), self._dialect.notation)
            self._laid_out[shape] = laid_out, ordinary is None
        laid_out, is_array = self._laid_out[shape]
        return Written(written(laid_out, at, self._dialect.reference)[1:], is_array)

    def text(self, shape: Shape, at: Cell) -> str:
        """The formula as it stands where no cell is that it could be level with."""
        node = self._dialect.prepared(shape.tree)
        return written(pieces(node, self._dialect.notation), at, self._dialect.reference)[1:]


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
            if known and on_sheet and self._writer.written(known, at) == (text, False):
                return self._keep(known, at)
        try:
            node = read_formula(self._dialect, text, at).tree
            return self._keep(Shape.of(levelled(node)), at)
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
