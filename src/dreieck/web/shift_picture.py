"""The picture of a shift log: for each reference, an arrow from every landing to what it reads."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice

from dreieck.core.calculate import Block
from dreieck.core.formula.printer import reference_text
from dreieck.core.formula.reference import Reference, reads_on
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import cells_of
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.words.reading import where
from dreieck.web.colours import colour_of
from dreieck.web.small_sheet import Rect, SmallSheet

_WIDTH, _HEIGHT, _HEAD = 380.0, 230.0, 24.0
_MOST_ARROWS = 240
_MOST_LINES = 60


@dataclass(frozen=True)
class Arrow:
    """From a landing to what it reads; ``is_start`` where the landing is the start."""

    landing: str
    x1: float
    y1: float
    x2: float
    y2: float
    is_start: bool


@dataclass(frozen=True)
class Arrows:
    """One reference: its letter, what of it moves, and its arrows over the sheet in small.

    Without ``small`` it reads another sheet, or too far away to be drawn.
    """

    tag: str
    colour: int
    text: str
    says: str
    small: SmallSheet | None
    block: list[Rect]
    reads: Rect | None
    arrows: list[Arrow]
    is_part: bool = False
    """Whether there are more landings than are drawn."""


def arrows(sheet: Sheet, block: Block) -> list[Arrows]:
    """The arrows of all references of a block, equal ones once."""
    return [
        _of(sheet, block, letter, block.shape.references[index])
        for letter, index in enumerate(block.shape.distinct)
    ]


def _of(sheet: Sheet, block: Block, letter: int, reference: Reference) -> Arrows:
    start = block.start
    read, says = reference.area(start), where(reference, start)
    if not reads_on(reference, sheet.name):
        says += f", on {reference.sheet}"
        ends = []
    else:
        reads = ((cell, area) for cell in cells_of(block.parts) if (area := reference.area(cell)))
        ends = list(islice(reads, _MOST_ARROWS))
    told = tag(letter), colour_of(letter), reference_text(reference, start), says
    around = Area.of(start)
    for cell, area in ends:
        around = around.around(Area.of(cell)).around(area)
    if not ends or around.width > _MOST_LINES or around.height > 10 * _MOST_LINES:
        return Arrows(*told, None, [], None, [])
    # A column and a row more show what stands beside.
    shown = Area(max(around.left - 1, 1), max(around.top - 1, 1), around.right, around.bottom)
    small = SmallSheet(shown, _WIDTH, _HEIGHT, _HEAD)
    return Arrows(
        *told, small,
        [rect for part in block.parts if (rect := small.rect(part))],
        small.rect(read) if read else None,
        [_arrow(small, cell, area, cell == start) for cell, area in ends],
        block.size > len(ends),
    )  # fmt: skip


def _arrow(small: SmallSheet, cell: Cell, area: Area, is_start: bool) -> Arrow:
    near = Cell(
        min(max(cell.column, area.left), area.right), min(max(cell.row, area.top), area.bottom)
    )
    return Arrow(cell.text, *small.middle(cell), *small.middle(near), is_start)
