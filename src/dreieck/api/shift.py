"""What a fill makes of the references of a formula."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from dreieck.core.budget import spend
from dreieck.core.editing.target import check_target
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.shift import Shift, shift_log
from dreieck.core.grid import Area, Cell

MAX_LANDINGS = 50_000
"""How many landings one answer lists."""
MAX_MOVES = 250_000
"""How many moves of references one answer lists."""
_MOVE_STEPS = 10


class ShiftRequest(BaseModel):
    """A formula, the cell that it is written in, and where it is filled to."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [{"formula": "=$B5*C$4", "from": "C5", "to": "C5:F10"}],
        },
        extra="forbid",
    )

    formula: Annotated[str, Field(max_length=100_000)]
    start: Annotated[str, Field(alias="from", max_length=40)]
    to: Annotated[str, Field(max_length=40)]


class CornerMove(BaseModel):
    """How far one corner of a reference moved, and which of its parts are locked."""

    columns: int
    rows: int
    column_locked: bool
    row_locked: bool


class ReferenceMove(BaseModel):
    """One reference at the start and here.

    ``columns`` and ``rows`` are those of the corner that moved furthest, to the right and
    down; a part is locked where it is locked in every corner. ``here`` is ``#REF!`` where
    the reference fell off the sheet.
    """

    tag: str
    start: str
    here: str
    columns: int
    rows: int
    column_locked: bool
    row_locked: bool
    corners: list[CornerMove]


class LandingMoves(BaseModel):
    """A landing, the formula in it, and its references in the order of the text."""

    cell: str
    formula: str
    references: list[ReferenceMove]


class ShiftAnswer(BaseModel):
    """Every landing, row by row."""

    landings: list[LandingMoves]


def shift_answer(request: ShiftRequest) -> ShiftAnswer:
    """The answer to a request. Raises DreieckError where it cannot be used."""
    start, area = Cell.parse(request.start), Area.parse(request.to)
    if not request.formula.startswith("="):
        raise DreieckError("The formula has to begin with “=”.")
    check_target(area)
    if area.size > MAX_LANDINGS:
        raise DreieckError(
            f"{area.text} has {area.size:,} cells; an answer lists {MAX_LANDINGS:,} at most."
        )
    shape = Shape.parse(request.formula, start)
    count = area.size * len(shape.references)
    if count > MAX_MOVES:
        raise DreieckError(
            f"{area.size:,} landings with {len(shape.references):,} references each are too many:"
            f" an answer lists {MAX_MOVES:,} moves at most. Ask for fewer landings at once."
        )
    return ShiftAnswer(
        landings=[
            LandingMoves(
                cell=landing.text,
                formula=shape.text(landing),
                references=moves(shape, start, landing),
            )
            for landing in _counted(area, len(shape.references))
        ]
    )


def moves(shape: Shape, start: Cell, landing: Cell) -> list[ReferenceMove]:
    """What becomes of the references of a shape from its start to a landing."""
    return [_move(shift) for shift in shift_log(shape, start, landing)]


def _counted(area: Area, references: int) -> Iterator[Cell]:
    """The landings of an area; the work for each is counted."""
    for landing in area.cells():
        spend((references + 1) * _MOVE_STEPS)
        yield landing


def _move(shift: Shift) -> ReferenceMove:
    return ReferenceMove(
        tag=shift.tag,
        start=shift.start,
        here=shift.here,
        columns=shift.columns,
        rows=shift.rows,
        column_locked=shift.column_locked,
        row_locked=shift.row_locked,
        corners=[
            CornerMove(
                columns=corner.columns,
                rows=corner.rows,
                column_locked=corner.locks.column,
                row_locked=corner.locks.row,
            )
            for corner in shift.corners
        ],
    )
