"""Cut and paste: cells move, keep what they read, and are followed by those that read them.

The rule is that of a moved formula: references of moved cells keep the cells that they read,
and a reference to cells that all move goes along with them, in every formula of the workbook.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.read_map import ReadMap
from dreieck.core.editing.fill import check_target
from dreieck.core.editing.following import followed, followed_layouts, followed_names, same_sheet
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.values.look import PLAIN, Look

MAX_MOVED_CELLS = 200_000
"""How many cells can be moved at once, and how many formulas can follow."""

_Cells = dict[Cell, tuple[Content | None, Look]]


@dataclass(frozen=True)
class _Cut:
    """An area that moves; what reads only some of it does not go along."""

    source: Sheet
    area: Area
    target: Sheet
    columns: int
    rows: int

    def where(self, sheet: str, area: Area) -> tuple[str, Area]:
        """Where an area stands afterwards."""
        if not same_sheet(sheet, self.source.name) or not area.within(self.area):
            return sheet, area
        return self.target.name, area.offset(self.columns, self.rows)


@dataclass
class _Mentions:
    """What formulas refer to, also where only the place of it counts, as in ``ROW(B4)``."""

    workbook: Workbook

    def references(self, shape: Shape) -> Iterator[Reference]:
        """All references of a formula; names follow by themselves."""
        return iter(shape.references)

    def reads_anywhere(self, shape: Shape) -> bool:
        """What no reference tells cannot follow."""
        return False


def cut_to(
    calculation: Calculation, source: Sheet, area: Area, target: Sheet, at: Cell
) -> list[Edit]:
    """Move an area so that its first cell comes to ``at``. Raises DreieckError."""
    columns, rows = at.column - area.left, at.row - area.top
    place = area.offset(columns, rows)
    check_target(place)
    if area.size > MAX_MOVED_CELLS and source.count(area) > MAX_MOVED_CELLS:
        raise DreieckError(f"At most {MAX_MOVED_CELLS:,} cells can be moved at once.")
    cut = _Cut(source, area, target, columns, rows)
    changed: dict[int, _Cells] = {}
    _let_follow(calculation, cut, changed)
    gone, come = changed.setdefault(source.id, {}), changed.setdefault(target.id, {})
    held: _Cells = {cell: (content, source.look(cell)) for cell, content in source.filled(area)}
    held |= {cell: (source.content(cell), look) for cell, look in source.looked(area)}
    for cell in held:
        gone[cell] = (None, PLAIN)
    for cell, _ in (*target.filled(place), *target.looked(place)):
        come[cell] = (None, PLAIN)
    for cell, (content, look) in held.items():
        to = cell.offset(columns, rows)
        if isinstance(content, Shape):
            before, after = Place(source.name, cell), Place(target.name, to)
            come[to] = (followed(content, cut, before, after), look)
        else:
            come[to] = (content, look)
    workbook = calculation.workbook
    edits: list[Edit] = [*followed_names(workbook, cut), *followed_layouts(workbook, cut)]
    return edits + [SetCells.of(id, cells) for id, cells in changed.items() if cells]


def _let_follow(calculation: Calculation, cut: _Cut, changed: dict[int, _Cells]) -> None:
    """Change the formulas outside that read what moves."""
    count = 0
    mentions = ReadMap(_Mentions(calculation.workbook))
    for reading in mentions.reading(cut.source.name, cut.area):
        sheet = calculation.workbook.sheet(reading.sheet)
        for cell, shape in sheet.formulas(reading.area):
            if sheet is cut.source and cut.area.holds(cell):
                continue
            here = Place(sheet.name, cell)
            after = followed(shape, cut, here, here)
            if after is not shape:
                changed.setdefault(sheet.id, {})[cell] = (after, sheet.look(cell))
                count += 1
                if count > MAX_MOVED_CELLS:
                    raise DreieckError(f"More than {MAX_MOVED_CELLS:,} formulas read these cells.")
