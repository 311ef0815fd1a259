"""Answers to findings: that something is meant, and why. They follow their cells as proofs do.

One is written as ``=MEANT(Loads!D6,"typed-over","agreed with the guild")``.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

from dreieck.core.editing.stating import NEW, kept
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import CellReference, RangeReference, moving
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import STANDS
from dreieck.core.sheet.workbook import Workbook

MOST = 200
"""So many characters a reason has at the most."""


class Answered(NamedTuple):
    """An answer: its number, the cells of a sheet, the rule that found something, the reason."""

    number: int
    sheet: str
    area: Area
    rule: str
    reason: str


def answer(
    workbook: Workbook, sheet: Sheet, areas: Sequence[Area], rule: str, reason: str
) -> SetStated:
    """Keep the answer that what a rule finds in cells is meant, in place of one about the same.

    Raises DreieckError where there is no reason, or there are too many answers.
    """
    why = " ".join(reason.split())
    if not why:
        raise DreieckError("Say why it is meant, such as: agreed with the guild.")
    if len(why) > MOST:
        raise DreieckError(f"A reason can have {MOST} characters.")
    around = areas[0]
    for area in areas[1:]:
        around = around.around(area)
    node = tree.Call(
        "MEANT", (moving(around, STANDS, sheet.name), tree.Text(rule), tree.Text(why))
    )
    before = next(
        (e for e in answers(workbook)
         if (e.sheet, e.area, e.rule) == (sheet.name, around, rule)),
        None,
    )  # fmt: skip
    made = kept(workbook, "answers", Shape.of(node), before.number if before else NEW)
    # Those whose cells are gone say nothing any more.
    there = {each.number for each in answers(workbook)} | {made.stated[-1].number}
    return replace(made, stated=tuple(each for each in made.stated if each.number in there))


def answers(workbook: Workbook) -> Iterator[Answered]:
    """All answers whose cells are still there."""
    for each in workbook.stated("answers"):
        match each.shape.tree:
            case tree.Call(
                function="MEANT",
                arguments=(
                    CellReference() | RangeReference() as cells, tree.Text(rule), tree.Text(why)
                ),
            ):  # fmt: skip
                area = cells.area(STANDS)
                if area and cells.sheet and workbook.has_sheet(cells.sheet):
                    name = workbook.sheet(cells.sheet).name
                    yield Answered(each.number, name, area, rule, why)
