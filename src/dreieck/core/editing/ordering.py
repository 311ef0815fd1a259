"""Ordering rows by columns: cells move, keep what they read, and are followed.

The rule is that of a moved formula, row by row: a reference to cells of one row goes where that
row goes, a range over all rows stays. A range over some of them cannot follow, and reads other
rows afterwards; such strays are told before anything is done.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from dreieck.core.calculate import Calculation
from dreieck.core.charts.proposing import around, is_headed
from dreieck.core.charts.strands import SheetArea
from dreieck.core.editing.following import (
    followed,
    followed_names,
    followed_statements,
    same_sheet,
)
from dreieck.core.editing.readers import MAX_MOVED_CELLS, Reader, readers_after, readers_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Part, Reference
from dreieck.core.grid import LAST, Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.lines import without_closing
from dreieck.core.values import Error, Place, Value
from dreieck.core.values.look import Look

MAX_KEYS = 3
_MAX_STRAYS = 200
_Cells = dict[Cell, tuple[Content | None, Look]]


class Key(NamedTuple):
    """A column that rows are ordered by, upwards or ``down``."""

    column: int
    down: bool = False


class Stray(NamedTuple):
    """Formulas of one shape that read other rows of the area than their own.

    The first of them stands ``at`` a cell and says ``before``; afterwards it stands ``there``
    and says ``after``. They ``follow`` where they go on reading the same cells, which stand in
    another row than before, seen from them; else they read other rows afterwards.
    """

    sheet: str
    areas: tuple[Area, ...]
    at: Cell
    before: str
    there: Cell
    after: str
    follows: bool


@dataclass(frozen=True)
class Ordered:
    """Rows in their new order by their numbers now, what makes it so, and who strays."""

    rows: tuple[int, ...]
    edits: tuple[Edit, ...]
    strays: tuple[Stray, ...]

    @property
    def moved(self) -> int:
        """How many rows stand elsewhere afterwards."""
        first = min(self.rows, default=0)
        return sum(row != at for at, row in enumerate(self.rows, first))


@dataclass(frozen=True)
class _Order:
    """Rows of an area that change places."""

    sheet: str
    area: Area
    there: dict[int, int]
    _steady: dict[tuple[Shape, int], bool] = field(default_factory=dict)

    def where(self, sheet: str, area: Area) -> tuple[str, Area]:
        """Where an area stands afterwards; one of several rows stays."""
        if not same_sheet(sheet, self.sheet) or not self.follows(area):
            return sheet, area
        row = self.there[area.top]
        return sheet, area._replace(top=row, bottom=row)

    def follows(self, area: Area) -> bool:
        """Whether an area goes where its row goes."""
        return area.height == 1 and area.within(self.area)

    def keeps(self, shape: Shape, column: int) -> bool:
        """Whether a formula in a column of the area stays as it is, whatever row it comes to.

        It does if it reads its own row, or what does not move.
        """
        key = shape, column
        if key not in self._steady:
            at = Cell(column, self.area.top)
            self._steady[key] = all(self._is_steady(each, at) for each in shape.references)
        return self._steady[key]

    def _is_steady(self, reference: Reference, at: Cell) -> bool:
        rows, area = reference.on("row"), reference.area(at)
        is_here = same_sheet(reference.sheet or self.sheet, self.sheet)
        if area is None:
            return False
        if all(part.locked for part in rows):
            return not is_here or not area.common(self.area) or self.spans(area)
        own = all(part == Part(False, 0) for part in rows)
        return own and is_here and area.within(self.area)

    def scatters(self, area: Area) -> bool:
        """Whether some of an area changes places with what is not in it."""
        common = area.common(self.area)
        return bool(common) and common != self.area and not self.spans(area)

    def spans(self, area: Area) -> bool:
        """Whether an area takes all rows in."""
        return area.top <= self.area.top and area.bottom >= self.area.bottom


def table_of(sheet: Sheet, area: Area) -> Area:
    """What is meant by a selection: one cell stands for all that hangs together with it."""
    used = sheet.used()
    if area.size == 1:
        area = around(sheet, area.first)
    elif used and (area.height == LAST["row"] or area.width == LAST["column"]):
        area = area.common(used) or area
    return area


def has_headings(calculation: Calculation, sheet: Sheet, table: Area) -> bool:
    """Whether the first row of a table looks like one of headings."""
    return table.height > 1 and is_headed(calculation, [SheetArea(sheet, table)], "row")


def rows_of(sheet: Sheet, table: Area, *, headed: bool) -> Area:
    """The rows of a table that can change places: without headings, and without totals below."""
    if headed and table.height > 1:
        table = table._replace(top=table.top + 1)
    return without_closing(sheet, table, "row")


def ordered(calculation: Calculation, sheet: Sheet, area: Area, keys: Sequence[Key]) -> Ordered:
    """Order the rows of an area. Raises DreieckError."""
    if area.height < 2:
        raise DreieckError("Select two rows at least to put them in order.")
    if not keys or len(keys) > MAX_KEYS:
        raise DreieckError(f"Rows can be ordered by one to {MAX_KEYS} columns.")
    if any(not area.left <= key.column <= area.right for key in keys):
        raise DreieckError("Rows can be ordered by columns of the selection.")
    if area.size > MAX_MOVED_CELLS:
        raise DreieckError(f"At most {MAX_MOVED_CELLS:,} cells can be put in order at once.")
    if fans := calculation.fans_in(sheet.name, area):
        start = fans[0].first.text
        raise DreieckError(
            f"{fans[0].text} is filled by the formula in {start}, which keeps its own order:"
            " order what it reads, use SORT there, or put its values in their place first."
        )
    rows = list(range(area.top, area.bottom + 1))
    for column, down in reversed(keys):
        values = {row: calculation.value(sheet.name, Cell(column, row)) for row in rows}
        # What is empty comes last in any order.
        rows.sort(key=lambda row: _rank(values[row], down=down), reverse=down)
    there = {row: area.top + at for at, row in enumerate(rows)}
    order = _Order(sheet.name, area, there)
    changed: dict[int, _Cells] = {sheet.id: _rearranged(sheet, order)}
    workbook = calculation.workbook
    readers = list(readers_of(workbook, sheet.name, area))
    for home, cell, shape in readers_after(readers, sheet, area, order):
        changed.setdefault(home.id, {})[cell] = (shape, home.look(cell))
    edits: list[Edit] = [
        *followed_names(workbook, order),
        *followed_statements(workbook, order),
    ]
    edits += [SetCells.of(id, cells) for id, cells in changed.items() if cells]
    return Ordered(tuple(rows), tuple(edits), tuple(_strays(readers, sheet, order)))


def _rank(value: Value, *, down: bool) -> tuple[bool, int, object, object]:
    """What values are ordered by: numbers, texts, logical values, errors; what is empty last."""
    if value is None or value == "":
        return (not down, 0, 0, 0)
    if isinstance(value, Error):
        return (down, 3, value.code, 0)
    if isinstance(value, bool):
        return (down, 2, value, 0)
    if isinstance(value, str):
        return (down, 1, *_spelled(value))
    return (down, 0, value, 0)


def _spelled(text: str) -> tuple[list[str | int], str]:
    """A text as it is looked up: accents and case count last, numbers inside as numbers."""
    plain = unicodedata.normalize("NFKD", text.casefold())
    plain = "".join(letter for letter in plain if not unicodedata.combining(letter))
    parts = re.split("([0-9]{1,15})", plain)
    return [int(part) if at % 2 else part for at, part in enumerate(parts)], text


def _rearranged(sheet: Sheet, order: _Order) -> _Cells:
    """The cells of the area afterwards; lines around cells stay where they are."""
    found: _Cells = {}
    for cell in order.area.cells():
        there = cell._replace(row=order.there[cell.row])
        content, look, edges = sheet.content(cell), sheet.look(cell), sheet.look(there).style.edges
        if isinstance(content, Shape) and not order.keeps(content, cell.column):
            before, after = Place(sheet.name, cell), Place(sheet.name, there)
            content = followed(content, order, before, after)
        elif there == cell:
            continue
        if look.style.edges != edges:
            look = replace(look, style=replace(look.style, edges=edges))
        found[there] = (content, look)
    return found


def _strays(readers: Iterable[Reader], sheet: Sheet, order: _Order) -> Iterator[Stray]:
    """The formulas with a reference to other rows of the area than their own."""
    found: dict[tuple[str, Shape, bool], dict[Cell, Cell]] = {}
    for home, cell, shape in readers:
        inside = home is sheet and order.area.holds(cell)
        if inside and order.keeps(shape, cell.column):
            continue
        to = cell._replace(row=order.there[cell.row]) if inside else cell
        kinds = {
            kind
            for reference in shape.references
            if (kind := _strays_by(order, home, cell, to, reference)) is not None
        }
        if kinds:
            found.setdefault((home.name, shape, kinds == {True}), {})[cell] = to
        if len(found) >= _MAX_STRAYS:
            break
    # Those that cannot follow are told first.
    for (name, shape, follows), cells in sorted(found.items(), key=lambda each: each[0][2]):
        at, there = next(iter(cells.items()))
        after = followed(shape, order, Place(name, at), Place(name, there)).text(there)
        areas = joined(Area.of(cell) for cell in cells)
        yield Stray(name, areas, at, shape.text(at), there, after, follows)


def _strays_by(
    order: _Order, home: Sheet, cell: Cell, to: Cell, reference: Reference
) -> bool | None:
    """Whether a reference follows that reads another row afterwards; None where it need not."""
    area = reference.area(cell)
    if area is None or not same_sheet(reference.sheet or home.name, order.sheet):
        return None
    if order.follows(area):
        apart = order.there[area.top] - to.row != area.top - cell.row
        is_alone = not same_sheet(home.name, order.sheet) or not order.area.holds(cell)
        return True if apart and not is_alone else None
    return False if order.scatters(area) else None
