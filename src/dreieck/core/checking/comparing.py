"""Two states of a workbook compared: what changed, told by block, not by cell."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from dreieck.core.budget import spend
from dreieck.core.calculate import Calculation, look_at
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import EVERYWHERE, Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.content import Content, Unreadable, typed_text
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error, Value
from dreieck.core.values.look import shown_text
from dreieck.core.words.counting import many

What = Literal["sheet", "name", "formula", "entry", "value"]
_CLOSE = 1e-12


@dataclass(frozen=True, slots=True)
class Change:
    """Something that changed: what, where, in how many cells, and before and after.

    Of many cells ``before`` and ``after`` are those of the first one; empty is nothing.
    """

    what: What
    where: str
    count: int
    before: str
    after: str

    @property
    def says(self) -> str:
        """It in a line."""
        before, after = self.before or "nothing", self.after or "nothing"
        if self.what in ("sheet", "name") and not (self.before and self.after):
            came = "is new" if self.after else "is gone"
            return f"{self.what} {self.where} {came}: {self.after or self.before}"
        if self.count == 1:
            return f"{self.where}: {before} became {after}"
        if self.what == "formula":
            if self.after and not self.after.startswith("="):
                after = f"entries, the first of them {after}"
            if self.before and not self.before.startswith("="):
                before = f"entries, the first of them {before},"
            return f"{self.where}: {before} became {after}, in {many(self.count, 'cell')}"
        noun = {"entry": "entries", "value": "values"}.get(self.what, "cells")
        return f"{self.where}: {self.count:,} {noun} changed; the first was {before}, is {after}"


def changes(old: Calculation, new: Calculation) -> Iterator[Change]:
    """What changed from one workbook to another."""
    yield from _sheets(old, new)
    yield from _names(old, new)
    for sheet in old.workbook.sheets:
        if new.workbook.has_sheet(sheet.name):
            yield from _cells(old, new, sheet, new.workbook.sheet(sheet.name))


def _sheets(old: Calculation, new: Calculation) -> Iterator[Change]:
    for sheet in old.workbook.sheets:
        if not new.workbook.has_sheet(sheet.name):
            yield Change("sheet", sheet.name, 1, many(len(sheet), "cell"), "")
    for sheet in new.workbook.sheets:
        if not old.workbook.has_sheet(sheet.name):
            yield Change("sheet", sheet.name, 1, "", many(len(sheet), "cell"))


def _names(old: Calculation, new: Calculation) -> Iterator[Change]:
    before, after = old.workbook.names, new.workbook.names
    for key in dict.fromkeys((*before, *after)):
        one, other = before.get(key), after.get(key)
        if one is None or other is None or one.shape is not other.shape:
            said = [each.shape_text if each else "" for each in (one, other)]
            called = (one or other).name  # type: ignore[union-attr]
            yield Change("name", called, 1, said[0], said[1])


def _cells(old: Calculation, new: Calculation, sheet: Sheet, other: Sheet) -> Iterator[Change]:
    formulas: dict[tuple[object, object], list[Cell]] = {}
    entries: list[Cell] = []
    values: dict[Shape, list[Cell]] = {}
    before, after = dict(sheet.filled(EVERYWHERE)), dict(other.filled(EVERYWHERE))
    for cell in dict.fromkeys((*before, *after)):
        spend(1)
        one, two = before.get(cell), after.get(cell)
        if isinstance(one, Shape | Unreadable) or isinstance(two, Shape | Unreadable):
            if one != two:
                formulas.setdefault((_key(one), _key(two)), []).append(cell)
            elif isinstance(one, Shape) and not _same(old, new, sheet, other, cell):
                values.setdefault(one, []).append(cell)
        elif type(one) is not type(two) or one != two:
            entries.append(cell)
    for cells in formulas.values():
        for area, inside in _areas(cells):
            first = area.first
            said = (_text(before.get(first), first), _text(after.get(first), first))
            yield Change("formula", area_text(area, sheet.name), inside, *said)
    for area, inside in _areas(entries):
        first = area.first
        said = (_text(before.get(first), first), _text(after.get(first), first))
        yield Change("entry", area_text(area, sheet.name), inside, *said)
    for cells in values.values():
        for area, inside in _areas(cells):
            said = (_shown(old, sheet, area.first), _shown(new, other, area.first))
            yield Change("value", area_text(area, sheet.name), inside, *said)


def _key(content: Content | None) -> object:
    """What counts as one change: a shape, or that there was none."""
    return content if isinstance(content, Shape | Unreadable) else content is None


def _areas(cells: list[Cell]) -> Iterator[tuple[Area, int]]:
    """Cells in rectangles, with how many there are in each."""
    columns: dict[int, list[int]] = {}
    for cell in cells:
        columns.setdefault(cell.column, []).append(cell.row)
    strips: list[Area] = []
    for column, rows in columns.items():
        rows.sort()
        top = rows[0]
        for row, after in zip(rows, [*rows[1:], 0], strict=True):
            if after != row + 1:
                strips.append(Area(column, top, column, row))
                top = after
    for area in joined(strips):
        yield area, area.size


def _text(content: Content | None, at: Cell) -> str:
    return typed_text(content, at)


def _shown(calculation: Calculation, sheet: Sheet, cell: Cell) -> str:
    look = look_at(sheet, cell)
    return shown_text(calculation.value(sheet.name, cell), look)


def _same(old: Calculation, new: Calculation, sheet: Sheet, other: Sheet, cell: Cell) -> bool:
    one, two = old.value(sheet.name, cell), new.value(other.name, cell)
    return alike(one, two)


def alike(one: Value, two: Value, close: float = _CLOSE) -> bool:
    """Whether two values are the same; numbers but for a share ``close`` of the larger one."""
    if isinstance(one, Error) and isinstance(two, Error):
        return one.code == two.code
    if isinstance(one, float) and isinstance(two, float):
        return abs(one - two) <= close * max(abs(one), abs(two))
    return type(one) is type(two) and one == two
