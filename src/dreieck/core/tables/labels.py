"""The texts that label the cells of a line, beside it or above it."""

from __future__ import annotations

import numpy as np

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.formula import Shape
from dreieck.core.grid import CROSSING, Area, Axis, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import LONGEST

MOST = 24
"""So many labels of a line tell what the others are like."""
FAR = 40
"""So far from a cell its label may stand."""


def texts_along(
    calculation: Calculation, sheet: Sheet, first: Cell, axis: Axis, count: int
) -> tuple[str, ...]:
    """What the cells of a line are labelled, from ``first`` on along an axis, in small letters.

    It is the nearest line of texts before it that tells the cells apart; empty where none does.
    """
    count, at = min(count, MOST), first.on(CROSSING[axis])
    # For each line across the axis, where the nearest labels before it stand.
    known: dict[int, int] = calculation.recall(
        sheet.name, (texts_along, axis, first.on(axis), count), dict
    )
    passed: list[int] = []
    found = 0
    for line in range(at - 1, max(at - FAR, 0), -1):
        passed.append(line)
        if line in known:
            found = known[line]
            break
        if _tell_apart(_texts(calculation, sheet, _line(first, axis, line, count)), count):
            found = line
            break
    if found or at <= FAR:
        known |= dict.fromkeys(passed, found)
    if not found or at - found >= FAR:
        return ()
    return _texts(calculation, sheet, _line(first, axis, found, count))


def _line(first: Cell, axis: Axis, at: int, count: int) -> Area:
    line = Area.of(first).spanning(CROSSING[axis], at, at)
    return line.spanning(axis, first.on(axis), first.on(axis) + count - 1)


def _short(text: str) -> str:
    """A label in small letters, cut so that many can be kept."""
    return text[:LONGEST].casefold()


def _tell_apart(texts: tuple[str, ...], count: int) -> bool:
    """Whether texts are the labels of so many cells."""
    told = [text for text in texts if text]
    return 2 * len(told) > count and (count == 1 or len(set(told)) > 1)


def label(calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis) -> str:
    """The nearest text to the left of a cell, or above it, in small letters."""
    return nearest_text(calculation, sheet, cell, axis).casefold()


def nearest_text(
    calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis, reach: int = FAR
) -> str:
    """The nearest text to the left of a cell on its row, or above it in its column."""
    crossing = CROSSING[axis]
    for back in range(1, min(cell.on(crossing), reach)):
        if text := text_in(calculation, sheet, cell.step(crossing, -back)):
            return text
    return ""


def labels_along(calculation: Calculation, sheet: Sheet, line: Area, axis: Axis) -> list[str]:
    """What ``label`` says of each cell of a line along an axis."""
    if axis == "column":
        return [label(calculation, sheet, cell, axis) for cell in line.cells()]
    found = [""] * line.height
    left = np.arange(line.height)
    for column in range(line.left - 1, max(line.left - FAR, 0), -1):
        cells = calculation.cells(sheet.name, column, line.top, line.bottom)
        told = left[cells.kinds[left] == Kind.TEXT]
        for index in told.tolist():
            found[index] = str(cells.value(index)).strip().casefold()
        left = np.array([n for n in left.tolist() if not found[n]], np.int64)
        if not len(left):
            break
    return found


def first_text(calculation: Calculation, sheet: Sheet, cell: Cell, axis: Axis) -> str:
    """The text with which the filled cells begin that a cell stands in, on its row or column."""
    crossing = CROSSING[axis]
    found = ""
    for back in range(1, min(cell.on(crossing), FAR)):
        at = cell.step(crossing, -back)
        if sheet.content(at) is None:
            break
        found = text_in(calculation, sheet, at)
    return found


def _texts(calculation: Calculation, sheet: Sheet, line: Area) -> tuple[str, ...]:
    """The texts of the cells of a line, in small letters, if there are any."""
    return calculation.recall(sheet.name, line, lambda: _texts_in(calculation, sheet, line))


def _texts_in(calculation: Calculation, sheet: Sheet, line: Area) -> tuple[str, ...]:
    if line.width > 1 or not line.last.on_sheet:
        texts = tuple(_short(text_in(calculation, sheet, cell)) for cell in line.cells())
        return texts if any(texts) else ()
    cells = calculation.cells(sheet.name, line.left, line.top, line.bottom)
    if not (cells.kinds == Kind.TEXT).any():
        return ()
    values = cells.values()
    return tuple(_short(each.strip()) if isinstance(each, str) else "" for each in values)


def text_in(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    if not cell.on_sheet:
        return ""
    content = sheet.content(cell)
    value = calculation.value(sheet.name, cell) if isinstance(content, Shape) else content
    return value.strip() if isinstance(value, str) else ""


def part_title(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    """The text that stands alone in a row, right above entries, over the row of a cell.

    A text right above headings is the title of a whole table, and none of a part.
    """
    key = part_title, cell.row
    return calculation.recall(sheet.name, key, lambda: _part_title(sheet, cell))


def _part_title(sheet: Sheet, cell: Cell) -> str:
    used = sheet.used()
    if used is None:
        return ""
    for row in range(cell.row, max(cell.row - FAR, 0), -1):
        first, beside = (sheet.content(Cell(used.left + n, row)) for n in (0, 1))
        if first is not None and beside is not None:
            continue
        line = Area(used.left, row, used.right, row)
        count = sheet.count(line)
        if count == 0:
            return ""
        if count == 1 and isinstance(first, str):
            below = sheet.filled(line._replace(top=row + 1, bottom=row + 1))
            return first.strip() if any(isinstance(c, float | Shape) for _, c in below) else ""
    return ""
