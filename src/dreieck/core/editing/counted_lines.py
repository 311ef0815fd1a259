"""Which lookups count lines of a table that come or go, and so would give another one."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.calculate.blocks import patches
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Speech, speech_of
from dreieck.core.grid import Area, Axis, Cell, Lines
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook

_COUNTED: dict[Speech, Axis] = {Speech.TABLE_DOWN: "column", Speech.TABLE_ACROSS: "row"}


def counting(
    workbook: Workbook, sheet: Sheet, lines: Lines, *, inside: bool = False
) -> list[tuple[Sheet, Area]]:
    """Formulas that count over some rows or columns of a table to the one that they give.

    They give another one when these go, or when others come in their place; of a table that moves
    as a whole, since they come before its first line, nothing is counted ``inside``.
    """
    return [
        (home, patch.area)
        for home in workbook.sheets
        for patch in patches(home)
        if _counts_over(patch.shape, patch.area.first, home, sheet, lines, int(inside))
    ]


def _counts_over(
    shape: Shape, at: Cell, home: Sheet, sheet: Sheet, lines: Lines, before: int
) -> bool:
    counted = _counted(shape, at, home, sheet, lines.axis)
    return any(first + before <= lines.last and lines.first <= last for first, last in counted)


def _counted(
    shape: Shape, at: Cell, home: Sheet, sheet: Sheet, axis: Axis
) -> Iterator[tuple[int, int]]:
    """The lines of a sheet that each lookup counts: from the first of its table to its own."""
    for call in tree.walk(shape.tree):
        if not isinstance(call, tree.Call) or len(call.arguments) < 3:
            continue
        speech = speech_of(call.function)
        table, number = call.arguments[1], call.arguments[2]
        if speech is None or _COUNTED.get(speech) != axis or not isinstance(number, tree.Number):
            continue
        if not isinstance(table, RangeReference) or not (area := table.area(at)):
            continue
        if (table.sheet or home.name).casefold() == sheet.name.casefold():
            low, _ = area.on(axis)
            yield low, low + int(number.value) - 1
