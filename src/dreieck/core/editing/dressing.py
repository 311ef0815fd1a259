"""Giving looks to cells: number formats, letters, tones, edges, roles; taking one over."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace
from typing import Literal

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area
from dreieck.core.sheet.edits import LookRun, SetLooks, joined_runs
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values.formats import format_named
from dreieck.core.values.look import MAX_DECIMALS, Look, Role
from dreieck.core.values.style import Edges, Line, Style

Change = Callable[[Look], Look]
Where = Literal["around", "between", "above", "below", "none"]
"""Which edges of the cells of an area get a line."""
_MANY_COLUMNS = 1_000
_MAX_RUNS = 100_000
"""So many runs of looks can be given at once."""
_BESIDE = 20
"""Whole rows are dressed so far beyond what the sheet holds."""


def dressed(sheet: Sheet, areas: Iterable[Area], change: Change) -> list[SetLooks]:
    """Let the cells of areas look otherwise. Raises DreieckError for too many looks."""
    found: list[SetLooks] = []
    count = 0
    for area in areas:
        runs: list[LookRun] = []
        for column in _columns(sheet, area):
            for top, bottom, look in sheet.looks_between(column, area.top, area.bottom):
                wanted = change(look)
                if wanted != look:
                    runs.append(LookRun(column, top, bottom, wanted))
                    count += 1
            if count > _MAX_RUNS:
                raise DreieckError("So many cells cannot be dressed at once. Select fewer.")
        if runs:
            found.append(SetLooks(sheet.id, tuple(joined_runs(runs))))
    return found


def _columns(sheet: Sheet, area: Area) -> range:
    """The columns of an area; of whole rows those that are used, and some more."""
    if area.width < _MANY_COLUMNS:
        return range(area.left, area.right + 1)
    used = sheet.used()
    return range(area.left, min(area.right, (used.right if used else 0) + _BESIDE) + 1)


def given(source: Sheet, taken: Area, target: Sheet, area: Area) -> list[SetLooks]:
    """Give the looks of an area to another one, over and over as far as it goes.

    Looks of several cells take as much room as they had. Raises DreieckError.
    """
    if area.size == 1:
        area = Area(*area.first, *area.first.offset(taken.width - 1, taken.height - 1))
    if not area.last.on_sheet or taken.size > _MAX_RUNS:
        raise DreieckError("The look of so many cells has no room there. Take that of fewer.")
    found: list[SetLooks] = []
    for column in _columns(target, area):
        like = taken.left + (column - area.left) % taken.width
        looks = list(source.looks_between(like, taken.top, taken.bottom))
        for top in range(area.top, area.bottom + 1, taken.height):
            for first, last, look in looks:
                begin, end = top + first - taken.top, min(top + last - taken.top, area.bottom)
                if begin <= end:
                    strip = Area(column, begin, column, end)
                    found.extend(dressed(target, [strip], _taken_over(look)))
            if len(found) > _MAX_RUNS:
                raise DreieckError("So many cells cannot be dressed at once. Select fewer.")
    runs = joined_runs(run for edit in found for run in edit.looks)
    return [SetLooks(target.id, tuple(runs))] if found else []


def _taken_over(wanted: Look) -> Change:
    return lambda look: wanted


def looks_in(sheet: Sheet, areas: Sequence[Area]) -> Iterator[Look]:
    """The looks of the cells of areas, in runs."""
    for area in areas:
        for column in _columns(sheet, area):
            for _, _, look in sheet.looks_between(column, area.top, area.bottom):
                yield look


def with_style(**told: object) -> Change:
    """The change that dresses in some way, such as ``bold=True`` or ``ink="rose"``."""
    return lambda look: replace(look, style=replace(look.style, **told))  # type: ignore[arg-type]


def switched(sheet: Sheet, areas: Sequence[Area], **told: object) -> list[SetLooks]:
    """Dress cells in some way, or as usual where all of them are dressed so already."""
    (name, value), usual = next(iter(told.items())), Style()
    all_are = all(getattr(look.style, name) == value for look in looks_in(sheet, areas))
    wanted = getattr(usual, name) if all_are else value
    return dressed(sheet, areas, with_style(**{name: wanted}))


def with_role(sheet: Sheet, areas: Sequence[Area], role: Role) -> list[SetLooks]:
    """Mark cells, such as inputs, or take the mark away where all have it."""
    all_are = all(look.role == role for look in looks_in(sheet, areas))
    wanted: Role = "plain" if all_are else role
    return dressed(sheet, areas, lambda look: replace(look, role=wanted))


def with_format(form: str) -> Change:
    """The change to a number format, with the decimals that are its own."""
    decimals = format_named(form).own_decimals
    return lambda look: look if look.form == form else replace(look, form=form, decimals=decimals)


def grouped(look: Look) -> Look:
    """With thousands set apart, or without if they are."""
    if look.form == "grouped":
        return replace(look, form="general" if look.decimals is None else "number")
    return replace(look, form="grouped")


def with_decimals(count: int) -> Change:
    """The change to so many decimals, where numbers are shown as such."""
    wanted = min(max(count, 0), MAX_DECIMALS)

    def change(look: Look) -> Look:
        if look.form == "general":
            return replace(look, form="number", decimals=wanted)
        takes_them = format_named(look.form).takes_decimals
        return replace(look, decimals=wanted) if takes_them else look

    return change


def edged(sheet: Sheet, areas: Iterable[Area], where: Where, line: Line) -> list[SetLooks]:
    """Draw lines around areas, between their cells, above or below them; or take all away."""
    found: list[SetLooks] = []
    for area in areas:
        if where == "none":
            found.extend(_without_edges(sheet, area))
            continue
        for part in _parts(area):
            sides = _sides(area, part, where)
            if sides:
                found.extend(dressed(sheet, [part], _with_edges(dict.fromkeys(sides, line))))
    return found


def _parts(area: Area) -> Iterator[Area]:
    """An area in at most nine parts: its corners, its sides, its middle."""

    def pieces(first: int, last: int) -> list[tuple[int, int]]:
        if last - first < 2:
            return [(at, at) for at in range(first, last + 1)]
        return [(first, first), (first + 1, last - 1), (last, last)]

    for left, right in pieces(area.left, area.right):
        for top, bottom in pieces(area.top, area.bottom):
            yield Area(left, top, right, bottom)


def _sides(area: Area, part: Area, where: Where) -> list[str]:
    """The sides on which the cells of a part of an area get a line."""
    at_border = {
        "left": part.left == area.left,
        "top": part.top == area.top,
        "right": part.right == area.right,
        "bottom": part.bottom == area.bottom,
    }
    if where == "around":
        return [side for side, is_there in at_border.items() if is_there]
    if where == "between":
        return [side for side in ("right", "bottom") if not at_border[side]]
    side = "top" if where == "above" else "bottom"
    return [side] if at_border[side] else []


def _with_edges(lines: dict[str, Line]) -> Change:
    return lambda look: with_style(edges=replace(look.style.edges, **lines))(look)


def _without_edges(sheet: Sheet, area: Area) -> Iterator[SetLooks]:
    """Take the lines of an area away, with those that its neighbours draw along it."""
    yield from dressed(sheet, [area], with_style(edges=Edges()))
    beside: list[tuple[Area, str]] = [
        (area._replace(left=area.left - 1, right=area.left - 1), "right"),
        (area._replace(left=area.right + 1, right=area.right + 1), "left"),
        (area._replace(top=area.top - 1, bottom=area.top - 1), "bottom"),
        (area._replace(top=area.bottom + 1, bottom=area.bottom + 1), "top"),
    ]
    for neighbours, side in beside:
        if neighbours.first.on_sheet and neighbours.last.on_sheet:
            yield from dressed(sheet, [neighbours], _with_edges({side: "none"}))
