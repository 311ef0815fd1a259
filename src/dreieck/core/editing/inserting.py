"""Inserting and deleting rows and columns, with everything that refers to them following.

Every reference is adjusted, locked or not: it goes on reading the cells that it read. A range
stretches when lines are inserted inside it and shrinks when some of its lines are deleted; a
reference whose cells are all deleted becomes ``#REF!`` for good. A range to the very end of the
sheet, such as that of a growing name, stays one.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from dreieck.core.calculate.blocks import patches
from dreieck.core.editing.naming import follow
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import CellReference, Part, Reference, Span
from dreieck.core.formula.tree import Lost, Node
from dreieck.core.grid import Area, Axis, Cell, Lines, Slide
from dreieck.core.sheet.edits import DeleteLines, Edit, InsertLines, SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN, Look

MOST = 200_000
"""How many filled cells can be deleted with their lines."""


@dataclass(frozen=True)
class Following:
    """Formulas that change with the lines: where they stood and stand, and what they become."""

    sheet: Sheet
    before: Area
    after: Area
    shape: Shape

    @property
    def loses(self) -> bool:
        """Whether a reference is lost."""
        held = self.sheet.content(self.before.first)
        assert isinstance(held, Shape)
        return len(self.shape.references) < len(held.references)


def inserted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Insert rows or columns. Raises DreieckError where something would fall off the sheet."""
    if sheet.end(lines.axis) >= lines.first and sheet.end(lines.axis) + lines.count > lines.limit:
        raise DreieckError(
            f"There is no room for {lines.count:,} more {lines.axis}s: the last {lines.axis} of"
            " the sheet is in use. Clear or delete something at its end first."
        )
    looks = tuple(_looks_between(sheet, lines))
    slide = Slide(lines, comes=True)
    return [InsertLines(sheet.id, lines, looks), *_followed(workbook, sheet, slide)]


def deleted(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Edit]:
    """Delete rows or columns. Raises DreieckError where they hold too much."""
    if sheet.count(lines.area) > MOST:
        raise DreieckError(f"At most {MOST:,} filled cells can be deleted at once.")
    slide = Slide(lines, comes=False)
    return [DeleteLines(sheet.id, lines), *_followed(workbook, sheet, slide)]


def losing(workbook: Workbook, sheet: Sheet, lines: Lines) -> list[Following]:
    """The formulas that would lose a reference if lines were deleted."""
    return [each for each in _following(workbook, sheet, Slide(lines, comes=False)) if each.loses]


def _followed(workbook: Workbook, sheet: Sheet, slide: Slide) -> Iterator[Edit]:
    """Edits of the formulas and names that follow, for when the lines have come or gone."""
    runs: dict[int, list[Run]] = {}
    for each in _following(workbook, sheet, slide):
        columns = each.after.left - each.before.left
        rows = each.after.top - each.before.top
        for run in each.sheet.runs(each.before):
            moved = Run(
                run.column + columns, run.top + rows, run.bottom + rows, each.shape, run.look
            )
            runs.setdefault(each.sheet.id, []).append(moved)
    yield from (SetCells(id, tuple(of_sheet)) for id, of_sheet in runs.items())

    def change(reference: Reference) -> Node:
        if reference.sheet is None or not _names(reference.sheet, sheet):
            return reference
        parts = reference.parts()[0 if slide.lines.axis == "column" else 1]
        # What a name says by position is worked out where it is used; it has no place to follow.
        return adjusted(reference, slide, 0, 0) if all(p.locked for p in parts) else reference

    yield from follow(workbook, change)


def _following(workbook: Workbook, sheet: Sheet, slide: Slide) -> Iterator[Following]:
    """The formulas that change, in pieces that change alike."""
    axis = slide.lines.axis
    for home in workbook.sheets:
        for patch in patches(home):
            reads = [_names(r.sheet or home.name, sheet) for r in patch.shape.references]
            if home is not sheet and not any(reads):
                continue
            for first, last in _pieces(patch.shape, patch.area, slide, home is sheet, reads):
                here = slide.moved(first) if home is sheet else first
                if here is None:
                    continue
                shape = _shape(patch.shape, home, sheet, slide, first, here)
                if shape is not patch.shape:
                    before = _along(patch.area, axis, first, last)
                    after = _along(patch.area, axis, here, here + last - first)
                    yield Following(home, before, after, shape)


def _pieces(
    shape: Shape, area: Area, slide: Slide, moves: bool, reads: list[bool]
) -> Iterator[tuple[int, int]]:
    """An area's coordinates on the axis, in stretches whose formulas change alike."""
    lines = slide.lines
    by_row = lines.axis == "row"
    low, high = (area.top, area.bottom) if by_row else (area.left, area.right)
    # Where the rule for a coordinate changes; the ends of a range stop at these places.
    pushed = lines.limit - lines.count + 1
    edges = {lines.first, lines.last + 1, pushed, lines.limit, lines.limit + 1}
    stops = range(pushed, lines.limit + 1) if slide.comes else range(lines.first, lines.last + 1)
    cuts = set(edges) if moves else set()
    for reference, is_read in zip(shape.references, reads, strict=True):
        if not is_read:
            continue
        parts = reference.parts()[1 if by_row else 0]
        held = [part.at for part in parts if part.locked]
        for part in parts:
            if part.locked:
                continue
            cuts.update(edge - part.at for edge in edges)
            if not isinstance(reference, CellReference):
                near = range(max(stops.start, low + part.at), min(stops.stop, high + part.at + 1))
                # The corners change places where a free one passes one that is locked.
                for at in (*near, *held):
                    cuts.update((at - part.at, at - part.at + 1))
    starts = [low, *sorted(cut for cut in cuts if low < cut <= high)]
    yield from zip(starts, [*(start - 1 for start in starts[1:]), high], strict=True)


def _shape(
    shape: Shape, home: Sheet, sheet: Sheet, slide: Slide, before: int, after: int
) -> Shape:
    """What a formula becomes that stood at one coordinate and stands at another."""

    def change(reference: Reference) -> Node:
        is_read = _names(reference.sheet or home.name, sheet)
        return adjusted(reference, slide, before, after, is_read=is_read)

    return shape.changed(change)


def adjusted(
    reference: Reference, slide: Slide, before: int, after: int, *, is_read: bool = True
) -> Node:
    """The reference that reads the same from another coordinate, and lines that have moved."""
    by_row = slide.lines.axis == "row"
    if isinstance(reference, CellReference):
        part = reference.row if by_row else reference.column
        at = part.coordinate(before)
        to = slide.moved(at) if is_read else at
        if to is None:
            return Lost()
        part = Part.seen_from(after, to, locked=part.locked)
        return replace(reference, row=part) if by_row else replace(reference, column=part)
    span = reference.rows if by_row else reference.columns
    if span is None:
        return reference
    low, high = span.ordered(before)
    ends = low.coordinate(before), high.coordinate(before)
    there = slide.span(*ends) if is_read else ends
    if there is None:
        return Lost()
    first, last = there
    span = Span.of(
        Part.seen_from(after, first, locked=low.locked),
        Part.seen_from(after, last, locked=high.locked),
    )
    return replace(reference, rows=span) if by_row else replace(reference, columns=span)


def _looks_between(sheet: Sheet, lines: Lines) -> Iterator[Run]:
    """The looks of lines that come: as the line before, or the one behind if that is a heading."""
    before, behind = lines.first - 1, lines.first
    if lines.axis == "column":
        looks = {
            at: [each for each in sheet.looks_of(at) if _is_of_body(each[2])]
            for at in (before, behind)
        }
        for column in range(lines.first, lines.last + 1):
            for top, bottom, look in looks[before] or looks[behind]:
                yield Run(column, top, bottom, None, look)
        return
    for column in sheet.dressed():
        pair = [sheet.look(Cell(column, row)) for row in (before, behind)]
        look = next((each for each in pair if _is_of_body(each)), PLAIN)
        if look != PLAIN:
            yield Run(column, lines.first, lines.last, None, look)


def _is_of_body(look: Look) -> bool:
    return look.role not in ("title", "heading")


def _along(area: Area, axis: Axis, first: int, last: int) -> Area:
    """An area with other ends on one axis."""
    if axis == "row":
        return area._replace(top=first, bottom=last)
    return area._replace(left=first, right=last)


def _names(name: str, sheet: Sheet) -> bool:
    return name.casefold() == sheet.name.casefold()
