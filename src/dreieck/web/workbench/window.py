"""Which columns and rows are in view, and how large they are."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import NamedTuple

from pydantic import BaseModel

from dreieck.core.grid import AXES, LAST, Area, Axis
from dreieck.core.sheet.layout import Layout
from dreieck.web.workbench.page_state import PageState, View

HEAD = 40
"""The width of the row headings, in pixels."""
USUAL_SIZES: dict[Axis, int] = {"column": 110, "row": 29}
"""The usual width of a column and height of a row, in pixels."""
_FORMULA_WIDTH = 168
"""The least width of a column that shows formulas."""
_FORMULA_LINE = 15
"""So much higher are rows that show values and formulas."""
_FIXED_SHARE = 0.67
"""How much of the view headings can take."""
_BAR = 12
"""So many pixels at the far end of the view lie under a scroll bar."""
_BEYOND = 12
"""So many lines before those in view are told of, for scrolling back."""


def own_size(axis: Axis, view: View, shown: int) -> int:
    """The size of a line that is shown so large in a view."""
    return shown - _FORMULA_LINE if axis == "row" and view == "both" else shown


class LineShown(BaseModel):
    """A column or row in view, with its size in pixels.

    ``gap`` says that it follows on one that is hidden.
    """

    number: int
    size: int
    gap: bool


class AxisShown(BaseModel):
    """The columns, or the rows, in view: first so many that are ``fixed``, then others.

    ``before`` are the nearest lines that can be scrolled back to.
    """

    lines: list[LineShown]
    fixed: int
    before: list[int]

    @property
    def stretches(self) -> list[tuple[int, int]]:
        """The first and the last number of lines in view that follow each other."""
        found: list[tuple[int, int]] = []
        for line in self.lines:
            if found and found[-1][1] + 1 == line.number:
                found[-1] = (found[-1][0], line.number)
            else:
                found.append((line.number, line.number))
        return found


class Window(NamedTuple):
    """All that is in view."""

    columns: AxisShown
    rows: AxisShown

    def areas(self) -> list[Area]:
        """All cells in view, as areas that do not overlap."""
        return [
            Area(left, top, right, bottom)
            for left, right in self.columns.stretches
            for top, bottom in self.rows.stretches
        ]


class Box(NamedTuple):
    """Where something lies in the part of the grid that shows cells, in pixels.

    So much of it as ``cut_left`` and ``cut_top`` say lies under headings that stay in view.
    """

    x: int
    y: int
    width: int
    height: int
    cut_left: int
    cut_top: int


def box_of(state: PageState, layout: Layout, shown: Window, area: Area) -> Box | None:
    """Where an area lies in a window; None where it is out of view."""
    spans = [
        _View(layout, axis, state).span(axis_shown, *area.on(axis))
        for axis, axis_shown in zip(AXES, shown, strict=True)
    ]
    (x, width, cut_left), (y, height, cut_top) = spans
    room = state.width - HEAD, state.height
    is_seen = cut_left < width and cut_top < height and x < room[0] and y < room[1]
    return Box(x, y, width, height, cut_left, cut_top) if is_seen else None


def window(state: PageState, layout: Layout) -> Window:
    """What is in view; moves the view to what is to be revealed."""
    area = Area.parse(state.reveal) if state.reveal else None
    found: list[AxisShown] = []
    for axis in AXES:
        first = state.left if axis == "column" else state.top
        shown = _View(layout, axis, state).shown(first, area.on(axis) if area else ())
        found.append(shown)
    columns, rows = found
    state.left, state.top = columns.lines[columns.fixed].number, rows.lines[rows.fixed].number
    return Window(columns, rows)


class _View:
    """One axis of the window."""

    def __init__(self, layout: Layout, axis: Axis, state: PageState) -> None:
        self.axis = axis
        self.looks = layout.on(axis)
        self.headings = layout.headings.on(axis)
        self.view = state.view
        self.room = max(state.width - HEAD, 1) if axis == "column" else state.height

    def shown(self, first: int, targets: Sequence[int]) -> AxisShown:
        """What is shown from a line on; of both ends to be revealed the first one for certain."""
        fixed = self.fixed()
        least = fixed[-1].number + 1 if fixed else 1
        if self.seen(least) < least:
            # All that could be scrolled is hidden.
            fixed, least = [], 1
        room = self.room - sum(line.size for line in fixed)
        first = self.seen(min(max(first, least), LAST[self.axis]))
        for target in reversed(targets):
            if target >= least:
                first = self.revealing(first, self.seen(target), room)
        lines = list(self.covering(first, room))
        return AxisShown(
            lines=fixed + lines, fixed=len(fixed), before=list(self.before(first, least))
        )

    def fixed(self) -> list[LineShown]:
        """The headings that stay, unless they would leave too little room."""
        found: list[LineShown] = []
        taken = 0
        for line in self.lines(1):
            taken += line.size
            if line.number > self.headings or taken > self.room * _FIXED_SHARE:
                break
            found.append(line)
        return found

    def revealing(self, first: int, target: int, room: int) -> int:
        """The first line in view when the target is wholly in view."""
        first = min(first, target)
        room -= self.size(target) + _BAR
        earliest = target
        while earliest > first:
            before = self.looks.next_shown(earliest - 1, -1)
            room -= self.size(before)
            if room < 0:
                break
            earliest = before
        return max(first, earliest)

    def covering(self, first: int, room: int) -> Iterator[LineShown]:
        for line in self.lines(first):
            yield line
            room -= line.size
            if room <= 0:
                break

    def before(self, number: int, least: int) -> Iterator[int]:
        """Some lines before one of them, the nearest first."""
        for _ in range(_BEYOND):
            number = self.looks.next_shown(number - 1, -1)
            if number < least:
                break
            yield number

    def lines(self, number: int) -> Iterator[LineShown]:
        """The lines that can be seen from one of them on."""
        number = self.looks.next_shown(number, 1)
        while number <= LAST[self.axis]:
            yield self.line(number)
            number = self.looks.next_shown(number + 1, 1)

    def line(self, number: int) -> LineShown:
        gap = number > 1 and self.looks.at(number - 1).hidden
        return LineShown(number=number, size=self.size(number), gap=gap)

    def seen(self, number: int) -> int:
        """A line, or the nearest one to it that is not hidden."""
        ahead = self.looks.next_shown(number, 1)
        return ahead if ahead <= LAST[self.axis] else self.looks.next_shown(number, -1)

    def span(self, shown: AxisShown, first: int, last: int) -> tuple[int, int, int]:
        """Where lines begin in a window, how long they are, and how much headings hide of them."""
        length = self.length(first, last)
        fixed = shown.lines[: shown.fixed]
        if fixed and first <= fixed[-1].number:
            return self.length(1, first - 1), length, 0
        border = sum(line.size for line in fixed)
        begin = shown.lines[shown.fixed].number
        ahead = self.length(begin, first - 1) - self.length(first, begin - 1)
        return border + ahead, length, max(-ahead, 0)

    def length(self, first: int, last: int) -> int:
        """How long lines are together; hidden ones take no room."""
        runs = self.looks.between(first, last)
        seen = (run for run in runs if not run.look.hidden)
        return sum((run.last - run.first + 1) * self.size(run.first) for run in seen)

    def size(self, number: int) -> int:
        size = self.looks.at(number).size or USUAL_SIZES[self.axis]
        if self.axis == "column":
            return size if self.view == "values" else max(size, _FORMULA_WIDTH)
        return size + _FORMULA_LINE if self.view == "both" else size
