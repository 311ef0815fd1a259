"""A tree to text.

A tree is laid out once as pieces, strings with references between them; the text in
one cell or another differs only in how the references are written there.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference, Reference
from dreieck.core.formula.tokens import TokenKind, cut
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Place, number_text

Piece = str | Reference

_PLAIN_SHEET = re.compile(r"[^\W\d][\w.]*")


@dataclass(frozen=True, slots=True)
class Notation:
    """How a formula is written: by us, or in a file.

    ``argument`` parts arguments, ``value`` and ``row`` the values and rows of a table in braces.
    ``link`` gives what stands in front of two linked references, between and behind them;
    ``function`` the name under which a function is called; ``lost`` stands for a reference that
    is gone.
    """

    argument: str
    value: str
    row: str
    link: Callable[[tree.Linked], tuple[str, str, str]]
    function: Callable[[str], str]
    logical: Callable[[bool], str]
    lost: str


def pieces(node: tree.Node, notation: Notation | None = None) -> tuple[Piece, ...]:
    """Lay a tree out as strings and references, without the ``=`` in front."""
    joined: list[Piece] = []
    for piece in _flat(node, notation or OURS):
        if isinstance(piece, str) and joined and isinstance(joined[-1], str):
            joined[-1] += piece
        else:
            joined.append(piece)
    return tuple(joined)


def written(
    laid_out: tuple[Piece, ...],
    at: Cell,
    reference: Callable[[Reference, Cell], str] | None = None,
) -> str:
    """The text of a formula at ``at``; a reference that falls off the sheet is ``#REF!``."""
    said = reference or reference_text
    return "=" + "".join(
        piece if isinstance(piece, str) else said(piece, at) for piece in laid_out
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
        tokens, _ = cut("=" + name)
        if tokens and tokens[0].kind is TokenKind.NAME:
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


def _link(node: tree.Linked) -> tuple[str, str, str]:
    """What stands around and between two references, so that they are read as linked again."""
    plain = isinstance(node.last, CellReference | RangeReference | tree.Name | tree.Lost)
    operator = node.operator
    if operator == " " and (isinstance(node.first, tree.Call) or not plain):
        operator = "!"
    before = node.first
    while isinstance(before, tree.Linked):
        before = before.last
    # A single word right before "!" would be the name of a sheet.
    is_word = isinstance(before, CellReference | tree.Name)
    return "", " ! " if operator == "!" and is_word else operator, ""


OURS = Notation(",", ",", ";", _link, lambda name: name, lambda value: str(value).upper(), "#REF!")


def _flat(node: tree.Node, notation: Notation) -> Iterator[Piece]:
    match node:
        case CellReference() | RangeReference():
            yield node
        case tree.Number():
            yield node.spelled or number_text(node.value)
        case tree.Text():
            yield '"' + node.value.replace('"', '""') + '"'
        case tree.Logical():
            yield notation.logical(node.value)
        case tree.ErrorLiteral():
            yield node.code
        case tree.Lost():
            yield notation.lost
        case tree.Inline():
            yield "{"
            for number, row in enumerate(node.rows):
                yield notation.row * (number > 0)
                for index, value in enumerate(row):
                    yield notation.value * (index > 0)
                    yield from _flat(value, notation)
            yield "}"
        case tree.Name():
            yield node.text
        case tree.Missing():
            yield ""
        case tree.Prefix():
            yield node.sign
            yield from _flat(node.operand, notation)
        case tree.Percent():
            yield from _flat(node.operand, notation)
            yield "%"
        case tree.Binary():
            yield from _flat(node.left, notation)
            yield node.operator
            yield from _flat(node.right, notation)
        case tree.Linked():
            before, between, behind = notation.link(node)
            yield before
            yield from _flat(node.first, notation)
            yield between
            yield from _flat(node.last, notation)
            yield behind
        case tree.Group():
            yield "("
            yield from _flat(node.inner, notation)
            yield ")"
        case tree.Call():
            yield notation.function(node.function) + "("
            for index, argument in enumerate(node.arguments):
                if index:
                    yield notation.argument
                yield from _flat(argument, notation)
            yield ")"
