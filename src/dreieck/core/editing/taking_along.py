"""Formulas taken along into lines that were inserted, as if the fill had gone over them."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from dreieck.core.analysis.totalling import is_total
from dreieck.core.budget import spend
from dreieck.core.calculate.blocks import patches_in
from dreieck.core.editing.following import followed
from dreieck.core.editing.following_lines import LinesMovement
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference, with_free_parts_of
from dreieck.core.grid import CROSSING, Area, Axis, Cell, LineChange, Lines
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Place


def same_shape(sheet: Sheet, areas: Iterable[Area], shape: Shape) -> SetCells:
    """The edit that puts one formula into areas as a fill would; looks stay."""
    each = list(areas)
    whole = SetCells.with_content(sheet, [area for area in each if shape.fits(area)], shape)
    single = {
        cell: (shape.landed(cell), sheet.look(cell))
        for area in each
        if not shape.fits(area)
        for cell in area.cells()
    }
    return SetCells(sheet.id, (*whole.runs, *SetCells.of(sheet.id, single).runs))


def taken_along(sheet: Sheet, lines: Lines) -> list[SetCells]:
    """The edits that fill empty lines, inserted into a table, with the formulas around them.

    Where a block goes on behind the lines it is whole again: also formulas beside them that
    were stretched, such as those of a running total, get its shape. Where a block ended before
    the lines it goes on over them, unless it is one of totals.
    """
    found: dict[Shape, list[Area]] = {}
    for before, length in _stretches(sheet, lines):
        whole = _across(sheet, lines, before, length) or _at_the_end(sheet, lines, before)
        if whole:
            shape, area = whole
            found.setdefault(shape, []).append(area)
    return [same_shape(sheet, joined(areas), shape) for shape, areas in found.items()]


def _stretches(sheet: Sheet, lines: Lines) -> Iterator[tuple[Area, int]]:
    """The cells right before the lines that hold one formula, and behind which nothing stands.

    With each, how many cells on the axis hold it up to there.
    """
    axis, crossing = lines.axis, CROSSING[lines.axis]
    if lines.first == 1:
        return
    edge = lines.area.spanning(axis, lines.first - 1, lines.first - 1)
    for _, patch in patches_in(sheet, edge):
        shared = patch.area.common(edge)
        for line in shared.lines(crossing) if shared else ():
            if not sheet.count(line.spanning(axis, lines.first, lines.last)):
                yield line, patch.area.length(axis)


def _across(sheet: Sheet, lines: Lines, before: Area, length: int) -> tuple[Shape, Area] | None:
    """The formula of a block that went over the place of the lines, and where it has to stand.

    What it reads far away, of another part of the sheet, is not as far away as before: then
    nothing is taken along.
    """
    axis, first = lines.axis, before.first
    behind = first.step(axis, lines.count + 1)
    one, other = sheet.content(first), sheet.content(behind)
    if not isinstance(one, Shape) or not isinstance(other, Shape):
        return None
    old = _before_the_lines(sheet, lines, first, one)
    if old.plain is not _before_the_lines(sheet, lines, behind, other).plain:
        return None
    shape = _by_position(one, old)
    length += next(p.area.length(axis) for _, p in patches_in(sheet, Area.of(behind)))
    if shape is not one and any(_is_far(each, axis, length) for each in old.references):
        return None
    low = _undisturbed(sheet, lines, first, shape, old, -1)
    high = _undisturbed(sheet, lines, behind, shape, old, 1)
    return shape, before.spanning(axis, low, high)


def _undisturbed(
    sheet: Sheet, lines: Lines, cell: Cell, shape: Shape, old: Shape, step: int
) -> int:
    """The last line, from a cell on, in which a formula of a block was stretched by the lines."""
    axis, reached = lines.axis, lines.first if step < 0 else lines.last
    while cell.on_sheet:
        spend(1)
        content = sheet.content(cell)
        if not isinstance(content, Shape) or content.plain is shape.plain:
            break
        if _before_the_lines(sheet, lines, cell, content).plain is not old.plain:
            break
        reached, cell = cell.on(axis), cell.step(axis, step)
    return reached


def _at_the_end(sheet: Sheet, lines: Lines, before: Area) -> tuple[Shape, Area] | None:
    """The formula of a block that ended before the lines, and the lines."""
    first = before.first
    held, above = sheet.content(first), sheet.content(first.step(lines.axis, -1))
    if not isinstance(held, Shape) or not isinstance(above, Shape):
        return None
    if held.plain is not above.plain or is_total(held, first):
        return None
    return held, before.spanning(lines.axis, lines.first, lines.last)


def _before_the_lines(sheet: Sheet, lines: Lines, cell: Cell, shape: Shape) -> Shape:
    """What a formula was before the lines came."""
    change = LineChange(lines, comes=False)
    there = change.area(Area.of(cell))
    assert there is not None
    movement = LinesMovement(sheet.name, change)
    return followed(shape, movement, Place(sheet.name, cell), Place(sheet.name, there.first))


def _is_far(reference: Reference, axis: Axis, length: int) -> bool:
    """Whether a reference reads what lies farther away than a block is long."""
    return any(not part.locked and abs(part.at) >= length for part in reference.on(axis))


def _by_position(shape: Shape, old: Shape) -> Shape:
    """A formula whose locked parts have followed, and whose others are as far away as before."""
    olds: Sequence[Reference] = old.references
    for number, reference in enumerate(shape.references):
        if number < len(olds):
            shape = shape.with_reference(number, with_free_parts_of(reference, olds[number]))
    return shape
