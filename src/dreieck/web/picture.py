"""The picture of a fill in small: cells framed by rails, ties from the start and a landing."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate import Calculation, look_at
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import reads_on
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Error
from dreieck.core.values.look import shown_text
from dreieck.web.ties import Frame, Line, Rail, Tied, lines

_SIZES: dict[Axis, float] = {"column": 92, "row": 26}
_HEAD: dict[Axis, float] = {"column": 40, "row": 22}
_ROOM = 13


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


def picture(
    calculation: Calculation,
    sheet: Sheet,
    parts: tuple[Area, ...],
    shape: Shape,
    start: Cell,
    landing: Cell,
) -> Picture:
    """The start of a fill of some areas, a landing, and what both read on their sheet."""
    distinct = [shape.references[index] for index in shape.distinct]
    reads = [
        (letter, reference, reference.area(start), reference.area(landing))
        for letter, reference in enumerate(distinct)
        if reads_on(reference, sheet.name)
    ]
    areas = [area for *_, one, two in reads for area in (one, two) if area]
    shown = {
        axis: lines(
            axis, [*parts, *areas], [Area.of(start), Area.of(landing), *areas], _HEAD[axis],
            lambda of, _: _SIZES[of],
        )
        for axis in AXES
    }  # fmt: skip
    frame = Frame(shown["column"], shown["row"])
    rails: list[Rail] = []
    ties: list[Tied] = []
    for index, reference, one, two in reads:
        for at, area in ((start, one), (landing, two)):
            if area:
                rails += frame.rails(reference, index, at, area)
        if one and two and landing != start:
            ties.append(frame.tie(index, start, one, landing, two))
    return Picture(
        frame.width,
        frame.height,
        frame.columns,
        frame.rows,
        _cells(frame, calculation, sheet, parts, (start, landing)),
        rails,
        ties,
        f"What {start.text} and {landing.text} read",
    )


def _cells(
    frame: Frame,
    calculation: Calculation,
    sheet: Sheet,
    parts: tuple[Area, ...],
    ends: tuple[Cell, Cell],
) -> list[Drawn]:
    """The cells with what they show; ``ends`` are the start and the landing."""
    found: list[Drawn] = []
    for row in frame.rows:
        for column in frame.columns:
            if not row.at or not column.at:
                continue
            cell = Cell(column.at, row.at)
            look = look_at(sheet, cell)
            value = calculation.value(sheet.name, cell)
            kinds = ["number" if isinstance(value, float) else "text"]
            if isinstance(value, Error):
                kinds.append("error")
            if cell in ends:
                kinds.append("start" if cell == ends[0] else "here")
            elif any(part.holds(cell) for part in parts):
                kinds.append("landing")
            text = shown_text(value, look, _ROOM, calculation.workbook.locale)
            text = text if len(text) <= _ROOM else text[: _ROOM - 1] + "…"
            found.append(
                Drawn(text, " ".join(kinds), column.begin, row.begin, column.size, row.size)
            )
    return found
