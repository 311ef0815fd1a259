"""The rule about texts among numbers that are meant as numbers."""

from __future__ import annotations

import re
from collections.abc import Iterator
from itertools import islice

import numpy as np

from dreieck.core.analysis.uses import uses
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.rules import sheet_rule
from dreieck.core.editing.entering import entered
from dreieck.core.formula.reference import RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.formats import read_number
from dreieck.core.words.counting import listed, many, quoted

_MOST_TEXTS = 20_000
_MOST_TOLD = 400
_LONGEST = 40
"""A longer text is no number with a unit."""
_AROUND = 3
"""So many numbers beside a text say that it stands in a list of them."""
_WITH_UNIT = re.compile(r"([-+]?\d[\d.,' ]*?)\s*([^\W\d]{1,4}[²³23]?|%|€|\$|£)")


@sheet_rule("kept-as-text")
def kept_as_text(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """Texts that read as numbers, in a list of numbers that formulas take as such."""
    found: dict[Cell, str] = {}
    workbook = calculation.workbook
    known: dict[str, str | None] = {}
    for cell, text in islice(_texts(sheet), _MOST_TEXTS):
        if text not in known:
            known[text] = _meant(workbook, text)
        meant = known[text]
        unit = None if meant else _WITH_UNIT.fullmatch(text.strip())
        if unit and _stands_among_numbers(sheet, cell):
            meant = _meant(workbook, unit[1].strip())
        if meant is None or len(found) >= _MOST_TOLD:
            continue
        counts = read_number(text) is not None
        if _is_taken(calculation, sheet, cell, counts=counts):
            found[cell] = meant
    if found:
        yield _finding(calculation, sheet, found)


def _texts(sheet: Sheet) -> Iterator[tuple[Cell, str]]:
    """The short typed texts with a digit in them, column by column."""
    for number, column in sheet.columns.items():
        extent = column.extent()
        if extent is None:
            continue
        cells = column.cells(*extent)
        texts = np.flatnonzero(cells.kinds == Kind.TEXT)
        used = np.unique(cells.payload[texts]).tolist()
        short = {n: text for n in used if _may_count(text := str(cells.pool.objects[int(n)]))}
        for index in texts.tolist() if short else ():
            if found := short.get(cells.payload[index]):
                yield Cell(number, extent[0] + index), found


def _may_count(text: str) -> bool:
    return len(text) <= _LONGEST and any(sign.isdigit() for sign in text)


def _meant(workbook: Workbook, text: str) -> str | None:
    """What says the number that a text is meant as, in one of its readings; None for none."""
    entry = workbook.read_entry(text, Cell(1, 1))
    if isinstance(entry.content, float):
        return text
    for other in entry.others:
        if isinstance(workbook.read_entry(other.entry, Cell(1, 1)).content, float):
            return other.entry
    return None


def _stands_among_numbers(sheet: Sheet, cell: Cell) -> bool:
    """Whether typed numbers stand beside a text in its column or row, and hardly any texts."""
    return any(_is_among(sheet, cell, axis) for axis in AXES)


def _is_among(sheet: Sheet, cell: Cell, axis: Axis) -> bool:
    low, high = max(cell.on(axis) - _AROUND, 1), cell.on(axis) + _AROUND
    near = [content for _, content in sheet.filled(Area.of(cell).spanning(axis, low, high))]
    numbers = sum(isinstance(content, float) for content in near)
    texts = sum(isinstance(content, str) for content in near) - 1
    return numbers >= 2 and texts <= 1 and numbers > texts


def _is_taken(calculation: Calculation, sheet: Sheet, cell: Cell, *, counts: bool) -> bool:
    """Whether a formula adds up what a text does not give, or calculates with it in vain.

    A text that ``counts`` gives its number where it is calculated with, but never in a range.
    """
    for reader in calculation.read_map().reading(sheet.name, Area.of(cell)):
        for use in uses(reader.patch.shape):
            area = use.reference.area(reader.area.first)
            ranged = isinstance(use.reference, RangeReference)
            adds = use.how == "total" and not has(use.function, Trait.FITS)
            if not area or use.guarded:
                continue
            if ranged and (adds or has(use.function, Trait.ADDS_UP)):
                return True
            if not ranged and not counts and use.how in ("number", "total"):
                return True
    return False


def _finding(calculation: Calculation, sheet: Sheet, found: dict[Cell, str]) -> Finding:
    workbook = calculation.workbook
    first = next(iter(found))
    content = sheet.content(first)
    made = [(c, entered(workbook, c, meant, sheet.look(c))) for c, meant in found.items()]
    runs = (Run(c.column, c.row, c.row, each.content, each.look) for c, each in made)
    edits = (SetCells(sheet.id, tuple(runs)),)
    areas = joined([Area.of(cell) for cell in found])
    one = len(found) == 1
    what = quoted(str(content)) if one else many(len(found), "number")
    return Finding(
        "doubt",
        sheet.name,
        areas,
        f"{listed(areas)} {'holds' if one else 'hold'} {what}, kept as text among numbers.",
        "Text is not added up, and nothing shows it; calculating with it leads to #VALUE!.",
        None,
        (Mend("turn it into a number" if one else "turn them into numbers",
              f"'{content}", found[first], edits),),
        (f"{listed(areas)} would read as {'a number' if one else 'numbers'}",),
        strength=3,
    )  # fmt: skip
