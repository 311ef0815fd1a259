"""The picture of a fill on paper: cells framed by rails, ties from the start and a landing."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from dreieck.core.calculate import Block, look_at
from dreieck.core.formula.reference import Reference, reads_on
from dreieck.core.formula.shift import tag
from dreieck.core.grid import AXES, Area, Axis, Cell, column_letters
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error
from dreieck.core.values.look import shown_text
from dreieck.store import OpenWorkbook
from dreieck.web.colours import colour_of

WIDTH, HEIGHT = 92, 26
_HEAD_WIDTH, _HEAD_HEIGHT, _GAP = 40, 22, 18
_MOST = {"column": 9, "row": 18}
_ROOM = 13


@dataclass(frozen=True)
class Line:
    """A column or row of the picture, where it begins, and how long it is; a gap has no name."""

    at: int
    name: str
    begin: float
    size: float


@dataclass(frozen=True)
class Drawn:
    """A cell as it is drawn."""

    text: str
    kind: str
    x: float
    y: float
    width: float
    height: float


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


@dataclass(frozen=True)
class Picture:
    """All of it, with its size."""

    width: float
    height: float
    columns: list[Line]
    rows: list[Line]
    cells: list[Drawn]
    rails: list[Rail]
    ties: list[Tied]
    says: str


def picture(opened: OpenWorkbook, sheet: Sheet, block: Block, landing: Cell) -> Picture:
    """The start of a block, one of its landings, and what both read on their sheet."""
    distinct = [block.shape.references[index] for index in block.shape.distinct]
    reads = [
        (letter, reference, reference.area(block.start), reference.area(landing))
        for letter, reference in enumerate(distinct)
        if reads_on(reference, sheet.name)
    ]
    areas = [area for *_, one, two in reads for area in (one, two) if area]
    lines = {
        axis: _lines(axis, [block.area, *areas], [Area.of(block.start), Area.of(landing), *areas])
        for axis in AXES
    }
    frame = _Frame(lines["column"], lines["row"])
    rails: list[Rail] = []
    ties: list[Tied] = []
    for index, reference, one, two in reads:
        for at, area in ((block.start, one), (landing, two)):
            if area:
                rails += frame.rails(reference, index, at, area)
        if one and two and landing != block.start:
            ties.append(frame.tie(index, block.start, one, landing, two))
    return Picture(
        frame.width,
        frame.height,
        lines["column"],
        lines["row"],
        frame.cells(opened, sheet, block, landing),
        rails,
        ties,
        f"What {block.start.text} and {landing.text} read",
    )


def _lines(axis: Axis, all_of: list[Area], needed: list[Area]) -> list[Line]:
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
    lines: list[Line] = []
    size = WIDTH if axis == "column" else HEIGHT
    begin = float(_HEAD_WIDTH if axis == "column" else _HEAD_HEIGHT)
    before: int | None = None
    for number in numbers:
        if before is not None and number > before + 1:
            lines.append(Line(0, "", begin, _GAP))
            begin += _GAP
        name = column_letters(number) if axis == "column" else str(number)
        lines.append(Line(number, name, begin, size))
        begin += size
        before = number
    return lines


class _Frame:
    """Where cells are on the picture."""

    def __init__(self, columns: list[Line], rows: list[Line]) -> None:
        self.columns, self.rows = columns, rows
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
        ends = [self._low(Area.of(start)), self._low(one), self._low(Area.of(landing)),
                self._low(two)]  # fmt: skip
        corners = (ends[0], ends[1], ends[3], ends[2])
        surface = " ".join(f"{x:g},{y:g}" for x, y in corners)
        return Tied(
            colour_of(index), tag(index), (*ends[0], *ends[1]), (*ends[2], *ends[3]), surface
        )

    def cells(
        self, opened: OpenWorkbook, sheet: Sheet, block: Block, landing: Cell
    ) -> list[Drawn]:
        """The cells with what they show."""
        found: list[Drawn] = []
        for row in self.rows:
            for column in self.columns:
                if not row.at or not column.at:
                    continue
                cell = Cell(column.at, row.at)
                look = look_at(sheet, cell)
                value = opened.calculation.value(sheet.name, cell)
                kinds = ["number" if isinstance(value, float) else "text"]
                if isinstance(value, Error):
                    kinds.append("error")
                if cell in (block.start, landing):
                    kinds.append("start" if cell == block.start else "here")
                elif block.holds(cell):
                    kinds.append("landing")
                text = shown_text(value, look, _ROOM, opened.workbook.locale)
                text = text if len(text) <= _ROOM else text[: _ROOM - 1] + "…"
                found.append(
                    Drawn(text, " ".join(kinds), column.begin, row.begin, column.size, row.size)
                )
        return found

    def _low(self, area: Area) -> tuple[float, float]:
        left, _, right, bottom = self.box(area)
        return (left + right) / 2, bottom - 5


def _ends(lines: list[Line], first: int, last: int) -> tuple[float, float]:
    """Where a stretch of columns or rows begins and ends on the picture."""
    inside = [line for line in lines if line.at and first <= line.at <= last]
    if not inside:
        before = [line for line in lines if line.at and line.at < first]
        edge = before[-1].begin + before[-1].size if before else lines[0].begin
        return edge, edge + 1
    return inside[0].begin, inside[-1].begin + inside[-1].size
