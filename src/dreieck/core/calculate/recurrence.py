"""Chains of plain arithmetic, such as ``=A1*1.01+$B$1`` below itself, as one loop.

The formula is turned into the body of a Python loop over numbers. The loop stops where a
result is no plain number any more: from there on it is an error, which passes through.
"""

from __future__ import annotations

import ast
from contextlib import suppress
from typing import Any

import numpy as np

from dreieck.core.analysis.reads import reach
from dreieck.core.calculate.evaluation import result_at
from dreieck.core.calculate.tasks import KnownValues, Task
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import Cell
from dreieck.core.sheet.cells import Cells, Payload
from dreieck.core.values import Error, Place

_OPERATORS: dict[str, type[ast.operator]] = {
    "+": ast.Add,
    "-": ast.Sub,
    "*": ast.Mult,
    "/": ast.Div,
}
_LOOP = """
def run(chain, count{names}):
    append = chain.append
    for index in range(count):
        append(BODY)
"""


class _OtherError(Exception):
    """The formula, or a value that it reads, is not plain arithmetic."""


def run_recurrence(task: Task, values: KnownValues) -> bool:
    """Work out a task of one column from its top, if it is a chain of plain arithmetic."""
    left, top, _, bottom = task.area
    chain = _Chain(task, values)
    try:
        body = chain.said(task.shape.tree)
        before = values.cells(task.sheet, left, top - chain.back, top - 1)
    except _OtherError:
        return False
    if not chain.back or not before.all_numbers:
        return False
    found = _run(body, chain, before.payload.tolist(), bottom - top + 1)
    results = values.results(task.sheet)
    if len(found):
        results.write(left, top, Cells.numbers(found))
    _run_out(task, values, top + len(found), chain.back)
    return True


def _run(body: ast.expr, chain: _Chain, links: list[float], count: int) -> Payload:
    """The numbers of the chain, as far as they are plain."""
    module = ast.parse(_LOOP.format(names="".join(f", {name}" for name in chain.given)))
    module = ast.fix_missing_locations(_Body(body).visit(module))
    scope: dict[str, Any] = {}
    # The tree holds numbers, names made here and four operators; nothing of the user's text.
    exec(compile(module, "<chain>", "exec"), scope)
    with suppress(ZeroDivisionError):
        scope["run"](links, count, **chain.given)
    found = np.array(links[chain.back :], np.float64)
    # What lies beyond all numbers stays there, so the end is found afterwards.
    beyond = np.flatnonzero(~np.isfinite(found))
    return found[: beyond[0]] if len(beyond) else found


def _run_out(task: Task, values: KnownValues, row: int, back: int) -> None:
    """The rest of a chain, from the first result that is an error: it passes through."""
    results, column = values.results(task.sheet), task.area.left
    alike, last = 0, None
    for here in range(row, task.area.bottom + 1):
        if alike >= back:
            results.put_down(column, here, task.area.bottom, last)
            return
        place = Place(task.sheet, Cell(column, here))
        value = result_at(task.shape, place, values)
        results.put(place.cell, value)
        alike = alike + 1 if isinstance(value, Error) and value is last else 0
        last = value


class _Body(ast.NodeTransformer):
    def __init__(self, body: ast.expr) -> None:
        self.body = body

    def visit_Name(self, node: ast.Name) -> ast.expr:
        return self.body if node.id == "BODY" else node


class _Chain:
    """What a formula reads: numbers of the chain itself, so many rows back, and given ones."""

    def __init__(self, task: Task, values: KnownValues) -> None:
        self.task = task
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
        task = self.task
        area = reach(reference, task.area)
        sheet = reference.sheet or task.sheet
        if area is None or not self.values.has_sheet(sheet):
            raise _OtherError
        if area.common(task.area) and self.values.results(sheet).sheet.name == task.sheet:
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
        if not cells.all_numbers:
            raise _OtherError
        self.given[name] = cells.payload.tolist()
        index = ast.Name("index", ast.Load())
        return ast.Subscript(ast.Name(name, ast.Load()), index, ast.Load())
