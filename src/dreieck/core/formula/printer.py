"""A tree to text.

A tree is laid out once as pieces, strings with references between them; the text in
one cell or another differs only in how the references are written there.
"""

from __future__ import annotations

import re
from collections.abc import Iterator

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference, Reference
from dreieck.core.formula.tokens import TokenKind, tokenise
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Place, number_text

Piece = str | Reference

_PLAIN_SHEET = re.compile(r"[^\W\d][\w.]*")


def pieces(node: tree.Node) -> tuple[Piece, ...]:
    """Lay a tree out as strings and references, without the ``=`` in front."""
    joined: list[Piece] = []
    for piece in _flat(node):
        if isinstance(piece, str) and joined and isinstance(joined[-1], str):
            joined[-1] += piece
        else:
            joined.append(piece)
    return tuple(joined)


def written(laid_out: tuple[Piece, ...], at: Cell) -> str:
    """The text of a formula at ``at``; a reference that falls off the sheet is ``#REF!``."""
    return "=" + "".join(
        piece if isinstance(piece, str) else reference_text(piece, at) for piece in laid_out
    )


def reference_text(reference: Reference, at: Cell) -> str:
    """A reference as written at ``at``, with its sheet where it names one."""
    if reference.area(at) is None:
        return "#REF!"
    text = reference.text(at)
    return text if reference.sheet is None else f"{sheet_text(reference.sheet)}!{text}"


def place_text(place: Place) -> str:
    """A cell with its sheet, such as ``Loads!C5``."""
    return f"{sheet_text(place.sheet)}!{place.cell.text}"


def area_text(area: Area, sheet: str | None) -> str:
    """An area with its sheet, such as ``Prices!B3:B8``; None is the sheet of the reader."""
    return area.text if sheet is None else f"{sheet_text(sheet)}!{area.text}"


def sheet_text(name: str) -> str:
    """The name of a sheet as it stands in front of ``!``, in quotes where it needs them."""
    if _PLAIN_SHEET.fullmatch(name):
        first = tokenise("=" + name, Cell(1, 1))[0]
        if first.kind is TokenKind.NAME:
            return name
    return "'" + name.replace("'", "''") + "'"


def split_sheet(text: str) -> tuple[str | None, str]:
    """The sheet that stands in front of ``!``, without its quotes, and what stands behind it."""
    name, mark, address = text.rpartition("!")
    if not mark:
        return None, text
    if name.startswith("'") and name.endswith("'") and len(name) > 1:
        name = name[1:-1].replace("''", "'")
    return name, address


def _link(node: tree.Linked) -> str:
    """The operator between two references, so that it is read as one again."""
    plain = isinstance(node.last, CellReference | RangeReference | tree.Name | tree.Lost)
    operator = node.operator
    if operator == " " and (isinstance(node.first, tree.Call) or not plain):
        operator = "!"
    before = node.first
    while isinstance(before, tree.Linked):
        before = before.last
    # A single word right before "!" would be the name of a sheet.
    is_word = isinstance(before, CellReference | tree.Name)
    return " ! " if operator == "!" and is_word else operator


def _flat(node: tree.Node) -> Iterator[Piece]:
    match node:
        case CellReference() | RangeReference():
            yield node
        case tree.Number():
            yield node.spelled or number_text(node.value)
        case tree.Text():
            yield '"' + node.value.replace('"', '""') + '"'
        case tree.Logical():
            yield "TRUE" if node.value else "FALSE"
        case tree.ErrorLiteral():
            yield node.code
        case tree.Lost():
            yield "#REF!"
        case tree.Inline():
            yield "{"
            for number, row in enumerate(node.rows):
                yield ";" * (number > 0)
                for index, value in enumerate(row):
                    yield "," * (index > 0)
                    yield from _flat(value)
            yield "}"
        case tree.Name():
            yield node.text
        case tree.Missing():
            yield ""
        case tree.Prefix():
            yield node.sign
            yield from _flat(node.operand)
        case tree.Percent():
            yield from _flat(node.operand)
            yield "%"
        case tree.Binary():
            yield from _flat(node.left)
            yield node.operator
            yield from _flat(node.right)
        case tree.Linked():
            yield from _flat(node.first)
            yield _link(node)
            yield from _flat(node.last)
        case tree.Group():
            yield "("
            yield from _flat(node.inner)
            yield ")"
        case tree.Call():
            yield node.function + "("
            for index, argument in enumerate(node.arguments):
                if index:
                    yield ","
                yield from _flat(argument)
            yield ")"
