"""Chains of plain arithmetic, such as ``=A1*1.01+$B$1`` below itself, as one loop.

The formula is turned into the body of a Python loop over numbers. The loop stops where a
result is no plain number any more; the rest is left to the general way.
"""

from __future__ import annotations

import ast
import math
from contextlib import suppress
from typing import Any, Protocol

import numpy as np

from dreieck.core.address import Cell
from dreieck.core.calculate.pieces import Knows, Piece
from dreieck.core.calculate.reads import reach
from dreieck.core.cells import Cells, Kind
from dreieck.core.formula import tree
from dreieck.core.ranges import Reader
from dreieck.core.reference import CellReference

_OPERATORS: dict[str, type[ast.operator]] = {
    "+": ast.Add,
    "-": ast.Sub,
    "*": ast.Mult,
    "/": ast.Div,
}
_LOOP = """
def run(chain, count{names}):
    for index in range(count):
        value = BODY
        if not -MOST <= value <= MOST:
            return
        chain.append(value)
"""


class Values(Knows, Reader, Protocol):
    """Who knows the values so far, and reads them."""


class _OtherError(Exception):
    """The formula, or a value that it reads, is not plain arithmetic."""


def run_recurrence(piece: Piece, values: Values) -> None:
    """Work out as much of a piece of one column, from its top, as is plain arithmetic."""
    left, top, _, bottom = piece.area
    chain = _Chain(piece, values)
    try:
        body = chain.said(piece.shape.tree)
        before = values.cells(piece.sheet, left, top - chain.back, top - 1)
    except _OtherError:
        return
    if (before.kinds != Kind.NUMBER).any():
        return
    found: list[float] = before.payload.tolist()
    module = ast.parse(_LOOP.format(names="".join(f", {name}" for name in chain.given)))
    module = ast.fix_missing_locations(_Body(body).visit(module))
    scope: dict[str, Any] = {"MOST": math.nextafter(math.inf, 0)}
    # The tree holds numbers, names made here and four operators; nothing of the user's text.
    exec(compile(module, "<chain>", "exec"), scope)
    with suppress(ZeroDivisionError):
        scope["run"](found, bottom - top + 1, **chain.given)
    done = np.array(found[chain.back :], np.float64)
    if len(done):
        values.results(piece.sheet).write(left, top, Cells.numbers(done))


class _Body(ast.NodeTransformer):
    def __init__(self, body: ast.expr) -> None:
        self.body = body

    def visit_Name(self, node: ast.Name) -> ast.expr:
        return self.body if node.id == "BODY" else node


class _Chain:
    """What a formula reads: numbers of the chain itself, so many rows back, and given ones."""

    def __init__(self, piece: Piece, values: Values) -> None:
        self.piece = piece
        self.values = values
        self.back = 0
        self.given: dict[str, Any] = {}

    def said(self, node: tree.Node) -> ast.expr:
        match node:
            case tree.Number():
                return ast.Constant(node.value)
            case tree.Group():
                return self.said(node.inner)
            case tree.Prefix(sign="+"):
                return self.said(node.operand)
            case tree.Prefix():
                return ast.UnaryOp(ast.USub(), self.said(node.operand))
            case tree.Percent():
                return ast.BinOp(self.said(node.operand), ast.Div(), ast.Constant(100.0))
            case tree.Binary() if node.operator in _OPERATORS:
                # A divisor beyond all numbers would give 0, which nothing shows afterwards.
                if node.operator == "/" and not isinstance(
                    node.right, CellReference | tree.Number
                ):
                    raise _OtherError
                left, right = self.said(node.left), self.said(node.right)
                return ast.BinOp(left, _OPERATORS[node.operator](), right)
            case CellReference():
                return self._read(node)
        raise _OtherError

    def _read(self, reference: CellReference) -> ast.expr:
        piece = self.piece
        area = reach(reference, piece.area)
        sheet = reference.sheet or piece.sheet
        if area is None or not self.values.has_sheet(sheet):
            raise _OtherError
        if area.common(piece.area) and self.values.results(sheet).sheet.name == piece.sheet:
            if reference.row.locked or reference.row.at >= 0:
                raise _OtherError
            self.back = max(self.back, -reference.row.at)
            return ast.Subscript(
                ast.Name("chain", ast.Load()), ast.Constant(reference.row.at), ast.Load()
            )
        name = f"given_{len(self.given)}"
        if reference.row.locked:
            value = self.values.value(sheet, Cell(area.left, area.top))
            if type(value) is not float:
                raise _OtherError
            self.given[name] = value
            return ast.Name(name, ast.Load())
        cells = self.values.cells(sheet, area.left, area.top, area.bottom)
        if (cells.kinds != Kind.NUMBER).any():
            raise _OtherError
        self.given[name] = cells.payload.tolist()
        index = ast.Name("index", ast.Load())
        return ast.Subscript(ast.Name(name, ast.Load()), index, ast.Load())
