"""Calculations with whole columns, of which only the part counts that is filled."""

from __future__ import annotations

from collections.abc import Callable
from functools import reduce
from typing import Any

import numpy as np

from dreieck.core.calculate.arguments import Evaluation, bound
from dreieck.core.formula import tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import SINGLE, Failure, find
from dreieck.core.grid import MAX_ROW
from dreieck.core.ranges.operands import CellValues, Table
from dreieck.core.sheet.cells import Kind


def is_whole(node: tree.Node) -> bool:
    """Whether a node refers to whole columns."""
    return isinstance(node, RangeReference) and node.rows is None


def filled_part(
    node: tree.Call, reader: CellValues, within_rows: Callable[[int], Evaluation]
) -> list[Any] | None:
    """The arguments of a call of products, as far down as anything is filled.

    One row more is looked at, which is empty: what it comes to, all rows below it do. None where
    that is not 0, or where there are no whole columns. ``within_rows`` gives the formula in which
    whole columns end in a row.
    """
    if not any(is_whole(each) for each in tree.walk(node)) or not _is_plain(node):
        return None
    used = [area.bottom for sheet in reader.workbook.sheets if (area := reader.used(sheet.name))]
    last = max(used, default=0) + 1
    function = find(node.function)
    if last >= MAX_ROW or function is None:
        return None
    try:
        tables: list[Table] = bound(function, node.arguments, within_rows(last))
    except Failure:
        return None
    if any(table.height != last for table in tables):
        return None
    below = [table.part(0, last - 1, table.width, 1).all_cells() for table in tables]
    if any((cells.kinds == Kind.ERROR).any() for cells in below):
        return None
    factors = [np.where(cells.kinds == Kind.NUMBER, cells.payload, 0.0) for cells in below]
    if len({len(each) for each in factors}) > 1 or reduce(np.multiply, factors).any():
        return None
    return [table.part(0, 0, table.width, last - 1) for table in tables] if last > 1 else None


def _is_plain(node: tree.Call) -> bool:
    """Whether all functions inside take single values, which whole columns give one by one."""
    inside = [each for each in tree.walk(node) if isinstance(each, tree.Call) and each is not node]
    functions = [find(call.function) for call in inside]
    return all(
        function is not None and {each.takes for each in function.parameters} <= SINGLE
        for function in functions
    )
