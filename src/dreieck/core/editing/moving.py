"""Cut and paste: cells move, keep what they read, and are followed by those that read them.

The rule is that of a moved formula: references of moved cells keep the cells that they read,
and a reference to cells that all move goes along with them, in every formula of the workbook.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.read_map import ReadMap
from dreieck.core.editing.fill import check_target
from dreieck.core.editing.naming import follow
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, Part, Reference, Span
from dreieck.core.formula.tree import Node
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import Content
from dreieck.core.sheet.edits import SetCells, SetName
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN, Look

MOST = 200_000
"""How many cells can be moved at once, and how many formulas can follow."""

_Change = Callable[[Part, int], Part]
_Cells = dict[Cell, tuple[Content | None, Look]]


@dataclass(frozen=True)
class _Move:
    source: Sheet
    area: Area
    target: Sheet
    columns: int
    rows: int

    def takes(self, sheet: str, area: Area) -> bool:
        """Whether all of an area moves."""
        return (
            sheet.casefold() == self.source.name.casefold() and self.area.around(area) == self.area
        )


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


def moved(
    calculation: Calculation, source: Sheet, area: Area, target: Sheet, at: Cell
) -> list[SetCells | SetName]:
    """Move an area so that its first cell comes to ``at``. Raises DreieckError."""
    columns, rows = at.column - area.left, at.row - area.top
    place = Area(at.column, at.row, at.column + area.width - 1, at.row + area.height - 1)
    check_target(place)
    if area.size > MOST and source.count(area) > MOST:
        raise DreieckError(f"At most {MOST:,} cells can be moved at once.")
    move = _Move(source, area, target, columns, rows)
    changed: dict[int, _Cells] = {}
    _let_follow(calculation, move, changed)
    gone, come = changed.setdefault(source.id, {}), changed.setdefault(target.id, {})
    held: _Cells = {cell: (content, source.look(cell)) for cell, content in source.filled(area)}
    held |= {cell: (source.content(cell), look) for cell, look in source.looked(area)}
    for cell in held:
        gone[cell] = (None, PLAIN)
    for cell, _ in (*target.filled(place), *target.looked(place)):
        come[cell] = (None, PLAIN)
    for cell, (content, look) in held.items():
        to = cell.moved(columns, rows)
        kept = _kept(content, move, cell) if isinstance(content, Shape) else content
        come[to] = (kept, look)
    edits: list[SetCells | SetName] = list(_names_follow(calculation, move))
    return edits + [SetCells.of(id, cells) for id, cells in changed.items() if cells]


def _names_follow(calculation: Calculation, move: _Move) -> Iterator[SetName]:
    """Change the names that stand for what moves."""

    def change(reference: Reference) -> Node:
        columns, rows = reference.parts()
        held = all(part.locked for parts in (columns, rows) for part in parts)
        area = reference.area(Cell(1, 1)) if held else None
        if not area or not reference.sheet or not move.takes(reference.sheet, area):
            return reference
        return _shifted(reference, move.columns, move.rows).on_sheet(move.target.name)

    return follow(calculation.workbook, change)


def _let_follow(calculation: Calculation, move: _Move, changed: dict[int, _Cells]) -> None:
    """Change the formulas outside that read what moves."""
    count = 0
    mentions = ReadMap(_Mentions(calculation.workbook))
    for reading in mentions.reading(move.source.name, move.area):
        sheet = calculation.workbook.sheet(reading.sheet)
        for cell, shape in sheet.formulas(reading.area):
            if sheet is move.source and move.area.holds(cell):
                continue
            followed = _followed(shape, move, sheet.name, cell)
            if followed is not shape:
                changed.setdefault(sheet.id, {})[cell] = (followed, sheet.look(cell))
                count += 1
                if count > MOST:
                    raise DreieckError(f"More than {MOST:,} formulas read these cells.")


def _followed(shape: Shape, move: _Move, home: str, cell: Cell) -> Shape:
    """A formula that stays where it is, its references to what moves going along."""

    def change(reference: Reference) -> Node:
        area = reference.area(cell)
        if area is None or not move.takes(reference.sheet or home, area):
            return reference
        there = _shifted(reference, move.columns, move.rows)
        if move.target is not move.source:
            there = there.on_sheet(move.target.name)
        return there

    return shape.changed(change)


def _kept(shape: Shape, move: _Move, cell: Cell) -> Shape:
    """A formula that moves: it reads the same cells, or where these have gone."""

    def change(reference: Reference) -> Node:
        area = reference.area(cell)
        if area is None:
            return reference
        if move.takes(reference.sheet or move.source.name, area):
            there = _locked_shifted(reference, move.columns, move.rows)
            return there.on_sheet(move.target.name) if reference.sheet else there
        there = _freely_shifted(reference, -move.columns, -move.rows)
        if reference.sheet is None and move.target is not move.source:
            there = there.on_sheet(move.source.name)
        return there

    return shape.changed(change)


def _shifted(reference: Reference, columns: int, rows: int) -> Reference:
    """A reference to cells so much further, from the same formula."""
    return _each(reference, lambda part, steps: replace(part, at=part.at + steps), columns, rows)


def _locked_shifted(reference: Reference, columns: int, rows: int) -> Reference:
    """The same for a formula that moves along: its free parts move by themselves."""
    return _each(
        reference,
        lambda part, steps: replace(part, at=part.at + steps) if part.locked else part,
        columns,
        rows,
    )


def _freely_shifted(reference: Reference, columns: int, rows: int) -> Reference:
    """A reference to the same cells, from a formula that has moved."""
    return _each(
        reference,
        lambda part, steps: part if part.locked else replace(part, at=part.at + steps),
        columns,
        rows,
    )


def _each(reference: Reference, change: _Change, columns: int, rows: int) -> Reference:
    if isinstance(reference, CellReference):
        return replace(
            reference, column=change(reference.column, columns), row=change(reference.row, rows)
        )
    return replace(
        reference,
        columns=_span(reference.columns, change, columns),
        rows=_span(reference.rows, change, rows),
    )


def _span(span: Span | None, change: _Change, steps: int) -> Span | None:
    if span is None:
        return None
    first, second = span.typed()
    return Span.of(change(first, steps), change(second, steps))
