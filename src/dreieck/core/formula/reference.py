"""A reference, its locks, and what becomes of it when its formula moves.

A reference is kept the way a shape needs it: for column and row it says either
*locked at* a coordinate or *so far from* the cell that holds the formula. Moving a
formula therefore changes nothing in here. Where a reference lands is worked out by
``CellReference.area`` and ``RangeReference.area``: that is the place to read if you
ask how a reference shifts when it is filled or copied.

The rules are those of OpenFormula (OpenDocument part 4), 5.8 and 6.3.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import NamedTuple

from dreieck.core.grid import AXES, MAX_COLUMN, MAX_ROW, Area, Axis, Cell, column_letters


@dataclass(frozen=True, slots=True)
class Part:
    """One coordinate of a reference: a column or a row.

    ``at`` is the coordinate itself where the part is locked, else the distance from
    the column or row of the formula's cell.
    """

    locked: bool
    at: int

    @classmethod
    def seen_from(cls, base: int, coordinate: int, *, locked: bool) -> Part:
        """The part that reads ``coordinate`` in a formula that stands at ``base``."""
        return cls(True, coordinate) if locked else cls(False, coordinate - base)

    def coordinate(self, base: int) -> int:
        """Where the part points when the formula stands at ``base``; may be off the sheet."""
        return self.at if self.locked else base + self.at

    def with_lock(self, base: int, *, locked: bool) -> Part:
        """The part that points to the same place from ``base``, locked or free."""
        return Part.seen_from(base, self.coordinate(base), locked=locked)


@dataclass(frozen=True, slots=True)
class Span:
    """The two coordinates of a range on one axis.

    Both orders mean the same range, so the parts are kept in one order and compared in
    it; ``turned`` only remembers how they were typed.
    """

    one: Part
    two: Part
    turned: bool = field(default=False, compare=False)

    @classmethod
    def of(cls, first: Part, second: Part) -> Span:
        """The span of two parts, typed in this order."""
        swap = (not first.locked, first.at) > (not second.locked, second.at)
        return cls(second, first, True) if swap else cls(first, second)

    def typed(self) -> tuple[Part, Part]:
        """Both parts in the order in which they were typed."""
        return (self.two, self.one) if self.turned else (self.one, self.two)

    def ordered(self, base: int) -> tuple[Part, Part]:
        """Both parts, the lower coordinate first; each keeps its own lock."""
        first, second = self.typed()
        if first.coordinate(base) > second.coordinate(base):
            return second, first
        return first, second


class Locks(NamedTuple):
    """Which parts of one corner stay when the formula is filled."""

    column: bool
    row: bool

    def on(self, axis: Axis) -> bool:
        """Whether the part on an axis stays."""
        return self.row if axis == "row" else self.column


@dataclass(frozen=True, slots=True)
class CellReference:
    """A reference to one cell; ``sheet`` is None for the sheet that holds the formula."""

    column: Part
    row: Part
    sheet: str | None = None

    def area(self, at: Cell) -> Area | None:
        """What the reference reads in a formula at ``at``; None where it fell off the sheet."""
        cell = Cell(self.column.coordinate(at.column), self.row.coordinate(at.row))
        return Area.of(cell) if cell.on_sheet else None

    def text(self, at: Cell) -> str:
        """The reference as it is written in a formula at ``at``, without its sheet."""
        return _column_text(self.column, at) + _row_text(self.row, at)

    def corners(self, at: Cell) -> tuple[Locks, ...]:
        """The locks of the only corner."""
        return (Locks(self.column.locked, self.row.locked),)

    def with_locks(self, at: Cell, corners: tuple[Locks, ...]) -> CellReference:
        """The reference that reads the same in a formula at ``at`` with other locks."""
        return replace(
            self,
            column=self.column.with_lock(at.column, locked=corners[0].column),
            row=self.row.with_lock(at.row, locked=corners[0].row),
        )

    def reading(self, area: Area, before: Cell, after: Cell) -> CellReference:
        """The reference that reads the first cell of an area in a formula at ``after``.

        Locks stay as they are in a formula at ``before``.
        """
        return replace(
            self,
            column=Part.seen_from(after.column, area.left, locked=self.column.locked),
            row=Part.seen_from(after.row, area.top, locked=self.row.locked),
        )

    def on(self, axis: Axis) -> tuple[Part, ...]:
        """Its part on an axis."""
        return (self.row,) if axis == "row" else (self.column,)

    def on_sheet(self, name: str) -> CellReference:
        """The reference to the same place on a named sheet."""
        return replace(self, sheet=name)

    def on_own_sheet(self) -> CellReference:
        """The reference to the same place on the sheet of its formula."""
        return replace(self, sheet=None)


@dataclass(frozen=True, slots=True)
class RangeReference:
    """A reference to a range; each corner has locks of its own.

    ``columns`` is None for whole rows (``4:4``), ``rows`` for whole columns (``B:B``).
    """

    columns: Span | None
    rows: Span | None
    sheet: str | None = None

    def area(self, at: Cell) -> Area | None:
        """What the range reads in a formula at ``at``; None where a corner fell off the sheet."""
        left, right = _coordinates(self.columns, at.column, MAX_COLUMN)
        top, bottom = _coordinates(self.rows, at.row, MAX_ROW)
        area = Area(left, top, right, bottom)
        return area if area.first.on_sheet and area.last.on_sheet else None

    def text(self, at: Cell) -> str:
        """The range as it is written in a formula at ``at``, the right way round."""
        corners = ["", ""]
        for index in range(2):
            if self.columns:
                corners[index] += _column_text(self.columns.ordered(at.column)[index], at)
            if self.rows:
                corners[index] += _row_text(self.rows.ordered(at.row)[index], at)
        return ":".join(corners)

    def corners(self, at: Cell) -> tuple[Locks, ...]:
        """The locks of both corners as written at ``at``; a whole axis counts as locked."""
        columns = self.columns.ordered(at.column) if self.columns else None
        rows = self.rows.ordered(at.row) if self.rows else None
        return tuple(
            Locks(
                columns[index].locked if columns else True,
                rows[index].locked if rows else True,
            )
            for index in range(2)
        )

    def with_locks(self, at: Cell, corners: tuple[Locks, ...]) -> RangeReference:
        """The range that reads the same in a formula at ``at`` with other locks."""

        def relocked(axis: Axis, span: Span) -> Span:
            base = at.on(axis)
            low, high = span.ordered(base)
            return Span.of(
                low.with_lock(base, locked=corners[0].on(axis)),
                high.with_lock(base, locked=corners[1].on(axis)),
            )

        return self._with_spans(relocked)

    def reading(self, area: Area, before: Cell, after: Cell) -> RangeReference:
        """The range that reads an area in a formula at ``after``.

        The corners keep the locks that they have in a formula at ``before``.
        """

        def aimed(axis: Axis, span: Span) -> Span:
            low, high = span.ordered(before.on(axis))
            first, last = area.on(axis)
            return Span.of(
                Part.seen_from(after.on(axis), first, locked=low.locked),
                Part.seen_from(after.on(axis), last, locked=high.locked),
            )

        return self._with_spans(aimed)

    def _with_spans(self, change: Callable[[Axis, Span], Span]) -> RangeReference:
        return replace(
            self,
            columns=self.columns and change("column", self.columns),
            rows=self.rows and change("row", self.rows),
        )

    def on(self, axis: Axis) -> tuple[Part, ...]:
        """Its parts on an axis; none where the range takes in the whole of it."""
        span = self.rows if axis == "row" else self.columns
        return (span.one, span.two) if span else ()

    def on_sheet(self, name: str) -> RangeReference:
        """The reference to the same place on a named sheet."""
        return replace(self, sheet=name)

    def on_own_sheet(self) -> RangeReference:
        """The reference to the same place on the sheet of its formula."""
        return replace(self, sheet=None)


Reference = CellReference | RangeReference


def never_moves(reference: Reference) -> bool:
    """Whether every part is locked, so that the reference never moves."""
    return all(part.locked for axis in AXES for part in reference.on(axis))


def with_free_parts_of(reference: Reference, other: Reference) -> Reference:
    """A reference whose locked parts are its own, and the others as far away as in another one."""
    if isinstance(reference, CellReference) and isinstance(other, CellReference):
        return replace(
            reference,
            column=_free_of(reference.column, other.column),
            row=_free_of(reference.row, other.row),
        )
    if isinstance(reference, RangeReference) and isinstance(other, RangeReference):
        return replace(
            reference,
            columns=_span_free_of(reference.columns, other.columns),
            rows=_span_free_of(reference.rows, other.rows),
        )
    return reference


def _free_of(part: Part, other: Part) -> Part:
    return part if part.locked else other


def _span_free_of(span: Span | None, other: Span | None) -> Span | None:
    if span is None or other is None:
        return span
    return Span.of(*map(_free_of, span.typed(), other.typed()))


def ends_apart(reference: Reference) -> bool:
    """Whether one end of a range is locked and the other moves, so that it grows or shrinks."""
    return any(len({part.locked for part in reference.on(axis)}) > 1 for axis in AXES)


def staying(area: Area, sheet: str) -> Reference:
    """The reference that reads an area of a sheet wherever its formula stands."""

    def part(coordinate: int) -> Part:
        return Part(True, coordinate)

    if area.size == 1:
        return CellReference(part(area.left), part(area.top), sheet)
    columns = Span(part(area.left), part(area.right))
    rows = Span(part(area.top), part(area.bottom))
    if area.height == MAX_ROW:
        return RangeReference(columns, None, sheet)
    return RangeReference(None if area.width == MAX_COLUMN else columns, rows, sheet)


def moving(area: Area, start: Cell, sheet: str | None) -> Reference:
    """The reference without locks that reads an area in a formula at ``start``."""

    def part(axis: Axis, at: int) -> Part:
        return Part.seen_from(start.on(axis), at, locked=False)

    if area.size == 1:
        return CellReference(part("column", area.left), part("row", area.top), sheet)
    return RangeReference(
        Span.of(part("column", area.left), part("column", area.right)),
        Span.of(part("row", area.top), part("row", area.bottom)),
        sheet,
    )


def _coordinates(span: Span | None, base: int, limit: int) -> tuple[int, int]:
    if span is None:
        return 1, limit
    low, high = span.ordered(base)
    return low.coordinate(base), high.coordinate(base)


def _column_text(part: Part, at: Cell) -> str:
    return "$" * part.locked + column_letters(part.coordinate(at.column))


def _row_text(part: Part, at: Cell) -> str:
    return "$" * part.locked + str(part.coordinate(at.row))


def lettered(references: Iterable[Reference]) -> tuple[int, ...]:
    """The number of each reference's letter tag, counted from 0: equal ones share a letter."""
    letters: dict[Reference, int] = {}
    return tuple(letters.setdefault(each, len(letters)) for each in references)


def firsts(letters: Sequence[int]) -> tuple[int, ...]:
    """The first reference with each letter tag, by its number; they come in their order."""
    found: dict[int, int] = {}
    for index, letter in enumerate(letters):
        found.setdefault(letter, index)
    return tuple(found.values())


def reads_on(reference: Reference, sheet: str) -> bool:
    """Whether a reference of a formula on a sheet reads that sheet."""
    return reference.sheet is None or reference.sheet.casefold() == sheet.casefold()
