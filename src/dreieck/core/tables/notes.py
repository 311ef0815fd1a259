"""Remarks of a sheet: sentences that stand by themselves, and what they say of its lines."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice
from typing import NamedTuple

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import AXES, Area, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import names, says
from dreieck.core.tables.labels import first_text, nearest_text
from dreieck.core.values import number_text

_WORDS = 3
"""A sentence has more words than a label."""
_MOST, _LONGEST = 2_000, 500
"""So many entries of a sheet are read; a longer text is no remark."""
_SHORTEST = 3
"""A shorter name is found in many a sentence."""


def remark_on(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    """A remark on a cell, its row or its column, by address or label; empty without one.

    It begins with the name, as in *Scree: half price*, or stands below the numbers, names it and
    says that something is agreed, estimated or the like.
    """
    remarks = calculation.recall(sheet.name, remark_on, lambda: list(_remarks(sheet)))
    if not remarks:
        return ""
    told = {cell.text.casefold()}
    for axis in AXES:
        for find in (nearest_text, first_text):
            told.add(find(calculation, sheet, cell, axis).casefold())
    told.discard("")
    first = next(
        (each for _, each in sheet.filled(Area(1, cell.row, cell.column, cell.row))), None
    )
    if isinstance(first, float):
        # Years and numbers name rows, too.
        told.add(number_text(first))
    return next((each.text for each in remarks if any(map(each.is_on, told))), "")


class _Remark(NamedTuple):
    text: str
    follows: bool
    """Whether it stands below numbers; above them stand titles."""

    def is_on(self, name: str) -> bool:
        text = self.text.casefold()
        if re.match(rf"{re.escape(name)}\s*[:,;–—-]", text):
            return True
        long = len(name) >= _SHORTEST
        return self.follows and long and names(text, name) and says(text, "agreed")


def _remarks(sheet: Sheet) -> Iterator[_Remark]:
    """The sentences in rows without numbers, below or beside the tables."""
    used = sheet.used()
    filled = (
        sorted(islice(sheet.filled(used), _MOST), key=lambda each: each[0].row) if used else []
    )
    numbers = {cell.row for cell, content in filled if isinstance(content, float | Shape)}
    first = min(numbers, default=0)
    for cell, content in filled:
        if not isinstance(content, str) or len(content) > _LONGEST or cell.row in numbers:
            continue
        if len(re.findall(r"\w+", content)) > _WORDS:
            yield _Remark(content.strip(), cell.row > first)
