"""Known cases: with these inputs those results come out, worked out on a fork."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from dreieck.core.checking.proofs.looking import Looked, Looking
from dreieck.core.checking.proofs.tolerance import is_apart
from dreieck.core.checking.proofs.verdict import CannotJudge, Picture, Verdict
from dreieck.core.formula import tree
from dreieck.core.functions.statements import INPUTS, RESULTS
from dreieck.core.grid import Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.values import Error
from dreieck.core.words.counting import many

MAX_INPUTS = 10_000
"""How many cells a known case may give."""


def known_case(looking: Looking, arguments: tuple[tree.Node, ...]) -> Verdict:
    """Whether the results come out that are expected with the inputs of a known case."""
    edits = list(_given(looking, arguments[0]))
    fork = Looking(looking.calculation.with_edits(edits))
    numbers: list[float | None] = []
    others: list[float | None] = []
    marks: list[bool] = []
    wrong: list[tuple[Looked, Looked, int]] = []
    for left, right in _pairs(arguments[1], RESULTS):
        found, expected = fork.pair(left, right)
        missed = is_apart(looking, found, expected, arguments[2:])
        numbers += found.drawn()
        others += expected.drawn()
        marks += missed.tolist()
        wrong += [(found, expected, index) for index in np.flatnonzero(missed).tolist()]
    picture = Picture("pairs", tuple(numbers), tuple(marks[: len(numbers)]), tuple(others))
    if not wrong and len(marks) == 1:
        says = f"{found.named(0)} comes out as {found.said(0)}"
        return Verdict("holds", says, picture=picture)
    if not wrong:
        count = many(len(marks), "result")
        return Verdict("holds", f"{count} as expected", picture=picture)
    found, expected, index = wrong[0]
    first = f"{found.named(index)} comes out as {found.said(index)}, not {expected.said(index)}"
    more = f"; {len(wrong):,} of {len(marks):,} differ" if len(wrong) > 1 else ""
    areas = tuple(
        area
        for each, _, at in wrong[:100]
        for area in each.areas(np.arange(len(each.cells)) == at)
    )
    return Verdict("fails", first + more, areas, picture)


def _given(looking: Looking, node: tree.Node) -> Iterator[Edit]:
    """The edits that give the inputs their values. Raises CannotJudge."""
    cells: dict[str, dict[Cell, Content | None]] = {}
    count = 0
    for left, right in _pairs(node, INPUTS):
        target = looking.cells_at(left)
        count += target.size
        if count > MAX_INPUTS:
            raise CannotJudge(f"a known case can give {MAX_INPUTS:,} cells")
        _, values = looking.pair(left, right)
        for index, value in enumerate(values.cells.values()):
            column, row = divmod(index, target.height)
            if isinstance(value, Error):
                raise CannotJudge(f"{looking.said(right)} is {value.code}")
            cell = Cell(target.area.left + column, target.area.top + row)
            cells.setdefault(target.sheet, {})[cell] = value
    workbook = looking.calculation.workbook
    for name, contents in cells.items():
        sheet = workbook.sheet(name)
        looks = {cell: (content, sheet.look(cell)) for cell, content in contents.items()}
        yield SetCells.of(sheet.id, looks)


def _pairs(node: tree.Node, part: str) -> Iterator[tuple[tree.Node, tree.Node]]:
    """What stands on both sides of each = in a part of a known case. Raises CannotJudge."""
    if not isinstance(node, tree.Call) or node.function != part:
        raise CannotJudge(
            f"a known case is written {INPUTS}(cell=value, …), {RESULTS}(cell=value, …)"
        )
    for each in node.arguments:
        if not isinstance(each, tree.Binary) or each.operator != "=":
            raise CannotJudge(f"{part} takes a cell, = and a value, such as A1=12")
        yield each.left, each.right
