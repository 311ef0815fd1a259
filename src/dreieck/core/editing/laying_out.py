"""Widths, heights, hidden rows and columns, and headings that stay in view."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Axis, Lines
from dreieck.core.sheet.edits import SetLayout
from dreieck.core.sheet.layout import (
    MAX_HEADINGS,
    MAX_SIZE,
    MIN_SIZE,
    Headings,
    LineLook,
    LineRun,
)
from dreieck.core.sheet.sheet import Sheet


def resized(sheet: Sheet, lines: Sequence[Lines], size: int | None) -> SetLayout:
    """Give rows or columns a size in pixels, None for the usual one; hidden ones show again."""
    return _changed(sheet, lines, lambda look: _of_size(size))


def fitted(sheet: Sheet, lines: Sequence[Lines], sizes: Mapping[int, int | None]) -> SetLayout:
    """Give each of some rows or columns a size of its own, and the usual one to those without."""
    layout, axis = resized(sheet, lines, None).layout, lines[0].axis
    runs = (LineRun(at, at, _of_size(size)) for at, size in sizes.items())
    return SetLayout(sheet.id, layout.with_lines(axis, layout.on(axis).put(runs)))


def _of_size(size: int | None) -> LineLook:
    return LineLook(None if size is None else min(max(size, MIN_SIZE), MAX_SIZE))


def hidden(sheet: Sheet, lines: Sequence[Lines]) -> SetLayout:
    """Hide rows or columns. Raises DreieckError where nothing would be left to see."""
    edit = _changed(sheet, lines, lambda look: replace(look, hidden=True))
    axis, last = lines[0].axis, lines[0].limit
    if edit.layout.on(axis).next_shown(1, 1) > last:
        raise DreieckError(f"One {axis} at least has to be seen. Select fewer of them.")
    return edit


def hidden_around(sheet: Sheet, lines: Lines) -> list[Lines]:
    """The hidden rows or columns among some of them and next to them."""
    return [
        Lines.between(lines.axis, first, last)
        for first, last in sheet.layout.on(lines.axis).hidden
        if first <= lines.last + 1 and last >= lines.first - 1
    ]


def shown(sheet: Sheet, lines: Sequence[Lines]) -> SetLayout:
    """Let hidden rows or columns be seen again, at the size that they had."""
    return _changed(sheet, lines, lambda look: replace(look, hidden=False))


def with_headings(sheet: Sheet, headings: Headings) -> SetLayout:
    """Let the first columns and rows stay in view. Raises DreieckError for too many."""
    if max(headings.columns, headings.rows) > MAX_HEADINGS:
        raise DreieckError(
            f"At most {MAX_HEADINGS} columns and {MAX_HEADINGS} rows can stay in view."
        )
    return SetLayout(sheet.id, replace(sheet.layout, headings=headings))


def _changed(
    sheet: Sheet, lines: Sequence[Lines], change: Callable[[LineLook], LineLook]
) -> SetLayout:
    layout = sheet.layout
    for each in lines:
        axis: Axis = each.axis
        looks = layout.on(axis)
        runs = [
            run._replace(look=change(run.look)) for run in looks.between(each.first, each.last)
        ]
        layout = layout.with_lines(axis, looks.put(runs))
    return SetLayout(sheet.id, layout)
