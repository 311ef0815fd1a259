"""Rails and ties: where lines, cells, what is read and what belongs together lie on a picture."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass

from dreieck.core.formula.reference import Reference
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Axis, Cell, column_letters
from dreieck.web.colours import colour_of

_GAP = 18
_MOST = {"column": 9, "row": 18}
Size = Callable[[Axis, int], float]
"""How wide a column or high a row is."""


@dataclass(frozen=True)
class Line:
    """A column or row of the picture, where it begins, and how long it is; a gap has no name."""

    at: int
    name: str
    begin: float
    size: float


@dataclass(frozen=True)
class Rail:
    """An edge of what a reference reads: solid where it is locked."""

    colour: int
    is_solid: bool
    x1: float
    y1: float
    x2: float
    y2: float


@dataclass(frozen=True)
class Tied:
    """A reference from the start and from a landing, and the surface between both lines."""

    colour: int
    tag: str
    start: tuple[float, float, float, float]
    here: tuple[float, float, float, float]
    surface: str


def lines(
    axis: Axis, all_of: list[Area], needed: list[Area], begin: float, size: Size
) -> list[Line]:
    """The columns or rows that are drawn: all between the ends, or those that are needed."""
    ends = [area.on(axis) for area in all_of]
    first, last = min(low for low, _ in ends), max(high for _, high in ends)
    # What stands beside may name what is read.
    first = max(first - 1, 1)
    if last - first < _MOST[axis]:
        numbers: Iterable[int] = range(first, last + 1)
    else:
        wanted = {n for area in needed for end in area.on(axis) for n in (end - 1, end, end + 1)}
        inside = sorted(number for number in wanted if first <= number <= last)
        half = _MOST[axis] // 2
        numbers = inside if len(inside) <= 2 * half else inside[:half] + inside[-half:]
    found: list[Line] = []
    before: int | None = None
    for number in numbers:
        if before is not None and number > before + 1:
            found.append(Line(0, "", begin, _GAP))
            begin += _GAP
        name = column_letters(number) if axis == "column" else str(number)
        found.append(Line(number, name, begin, size(axis, number)))
        begin += found[-1].size
        before = number
    return found


class Frame:
    """Where cells are on a picture."""

    def __init__(self, columns: list[Line], rows: list[Line], across: float = 0.5) -> None:
        """``across`` is where ties begin and end, as a share of the width of what is read."""
        self.columns, self.rows, self.across = columns, rows, across
        self.width = columns[-1].begin + columns[-1].size + 1
        self.height = rows[-1].begin + rows[-1].size + 1

    def box(self, area: Area) -> tuple[float, float, float, float]:
        """The left, upper, right and lower edge of an area, as far as it is drawn."""
        left, right = _ends(self.columns, area.left, area.right)
        top, bottom = _ends(self.rows, area.top, area.bottom)
        return left, top, right, bottom

    def rails(self, reference: Reference, index: int, at: Cell, area: Area) -> list[Rail]:
        """The four edges of what a reference reads."""
        left, top, right, bottom = self.box(area)
        first, last = reference.corners(at)[0], reference.corners(at)[-1]
        inset = 1.5 + index % 3
        x1, y1, x2, y2 = left + inset, top + inset, right - inset, bottom - inset
        edges = (
            (first.column, x1, y1, x1, y2), (first.row, x1, y1, x2, y1),
            (last.column, x2, y1, x2, y2), (last.row, x1, y2, x2, y2),
        )  # fmt: skip
        return [Rail(colour_of(index), solid, *ends) for solid, *ends in edges]

    def tie(self, index: int, start: Cell, one: Area, landing: Cell, two: Area) -> Tied:
        """The lines of a reference, low in the cells."""
        ends = [self.low(Area.of(start)), self.low(one), self.low(Area.of(landing)),
                self.low(two)]  # fmt: skip
        corners = (ends[0], ends[1], ends[3], ends[2])
        surface = " ".join(f"{x:g},{y:g}" for x, y in corners)
        return Tied(
            colour_of(index), tag(index), (*ends[0], *ends[1]), (*ends[2], *ends[3]), surface
        )

    def low(self, area: Area) -> tuple[float, float]:
        """Where the ties of an area begin and end: low in it, beside what stands there."""
        left, _, right, bottom = self.box(area)
        return left + self.across * (right - left), bottom - 5


def _ends(lines: list[Line], first: int, last: int) -> tuple[float, float]:
    """Where a stretch of columns or rows begins and ends on the picture."""
    inside = [line for line in lines if line.at and first <= line.at <= last]
    if not inside:
        before = [line for line in lines if line.at and line.at < first]
        edge = before[-1].begin + before[-1].size if before else lines[0].begin
        return edge, edge + 1
    return inside[0].begin, inside[-1].begin + inside[-1].size
