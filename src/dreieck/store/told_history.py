"""The history of a workbook as it is told in a file, and taken from one, distrusted."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import replace
from typing import Annotated, Any, NamedTuple

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from sqlmodel import Session, col, select

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import Edit
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.workbook import Workbook
from dreieck.store.encoding import edits_of, edits_text
from dreieck.store.history import MAX_CHANGES
from dreieck.store.shapes import Shapes
from dreieck.store.tables import ChangeRow, ShapeRow, WorkbookRow

_MAX_TEXT = 200


class ToldChange(BaseModel):
    """One action: its number, name and moment, what it does, and what takes it back."""

    model_config = ConfigDict(extra="forbid")

    number: Annotated[int, Field(ge=1, le=10**9)]
    label: Annotated[str, Field(max_length=_MAX_TEXT)]
    at: Annotated[str, Field(max_length=40)]
    forward: list[dict[str, Any]]
    backward: list[dict[str, Any]]


class ToldHistory(BaseModel):
    """The changes that can be taken back or made again; ``done`` is the last that is done.

    Edits name sheets by number and formulas by their place in ``shapes``, from 1 on; each is
    told as it is written in a cell. ``sheets`` are the numbers of the sheets, in their order.
    """

    model_config = ConfigDict(extra="forbid")

    done: Annotated[int, Field(ge=0, le=10**9)]
    sheets: list[int]
    shapes: list[tuple[str, str]]
    changes: Annotated[list[ToldChange], Field(max_length=MAX_CHANGES)]

    @classmethod
    def of(cls, said: object) -> ToldHistory | None:
        """A history that a file tells; None where it is none."""
        try:
            return cls.model_validate(said)
        except ValidationError:
            return None


class Kept(NamedTuple):
    """A change that can be kept."""

    number: int
    label: str
    at: str
    forward: str
    backward: str

    def row(self, workbook_id: int) -> ChangeRow:
        """It as a row."""
        size = len(self.forward) + len(self.backward)
        return ChangeRow(workbook_id=workbook_id, size=size, **self._asdict())


def told_history(session: Session, workbook_id: int, workbook: Workbook) -> dict[str, Any]:
    """The history of a workbook, to be told in a file."""
    row = session.get(WorkbookRow, workbook_id)
    owned = select(ShapeRow).where(col(ShapeRow.workbook_id) == workbook_id)
    shapes = [
        (each.formula, Cell(each.column, each.row).text)
        for each in session.exec(owned.order_by(col(ShapeRow.number)))
    ]
    changes = select(ChangeRow).where(col(ChangeRow.workbook_id) == workbook_id)
    return {
        "done": row.done if row else 0,
        "sheets": [sheet.id for sheet in workbook.sheets],
        "shapes": shapes,
        "changes": [
            {
                "number": each.number,
                "label": each.label,
                "at": each.at,
                "forward": json.loads(each.forward),
                "backward": json.loads(each.backward),
            }
            for each in session.exec(changes.order_by(col(ChangeRow.number)))
        ],
    }


def changes_of(
    told: ToldHistory,
    workbook: Workbook,
    numbers: list[int],
    new_sheet: Callable[[], int],
    shapes: Shapes,
) -> list[Kept] | None:
    """The changes of a history, for sheets with other numbers.

    None where taking all of them back, and making them again, does not lead to the workbook.
    """
    if len(told.sheets) != len(numbers):
        return None
    try:
        known = [Shape.parse(text, Cell.parse(at)) for text, at in told.shapes]
        decoded = [(each, _edits(each.forward, known), _edits(each.backward, known))
                   for each in told.changes]  # fmt: skip
        own = dict(zip(told.sheets, (sheet.id for sheet in workbook.sheets), strict=True))
        if not _leads_back(told, decoded, workbook, own):
            return None
    except (DreieckError, LookupError, TypeError, ValueError, AttributeError, AssertionError):
        return None
    places = dict(zip(told.sheets, numbers, strict=True))

    def placed(edits: list[Edit]) -> str:
        moved = [_moved(edit, places, new_sheet) for edit in edits]
        return edits_text(moved, shapes.number_of)

    return [
        Kept(each.number, each.label, each.at, placed(forward), placed(backward))
        for each, forward, backward in decoded
    ]


def _edits(said: list[dict[str, Any]], known: list[Shape]) -> list[Edit]:
    def shape_of(number: int) -> Shape:
        if number < 1:
            raise LookupError(number)
        return known[number - 1]

    return edits_of(json.dumps(said), shape_of)


def _moved(edit: Edit, places: dict[int, int], new_sheet: Callable[[], int]) -> Edit:
    """The edit for a sheet under its number here; one that is gone gets a number of its own."""
    before = getattr(edit, "sheet_id", None)
    if before is None:
        return edit
    if before not in places:
        places[before] = new_sheet()
    return replace(edit, sheet_id=places[before])  # type: ignore[arg-type]


def _leads_back(
    told: ToldHistory,
    decoded: list[tuple[ToldChange, list[Edit], list[Edit]]],
    workbook: Workbook,
    own: dict[int, int],
) -> bool:
    """Whether taking all changes back and making them again ends where it began."""
    numbers = [each.number for each, *_ in decoded]
    if numbers != sorted(set(numbers)):
        return False
    tried = workbook.copy(*workbook.sheets)
    # Sheets that are gone must not be taken for others.
    behind = max((sheet.id for sheet in workbook.sheets), default=0)

    def apply(edits: list[Edit]) -> None:
        for edit in edits:
            before = getattr(edit, "sheet_id", None)
            if before is not None and before not in own:
                own[before] = behind + len(own) + 1
            _moved(edit, own, lambda: 0).apply(tried)

    done = [each for each in decoded if each[0].number <= told.done]
    undone = [each for each in decoded if each[0].number > told.done]
    for _, _, backward in reversed(done):
        apply(backward)
    for _, forward, _ in done:
        apply(forward)
    same = _told(tried) == _told(workbook)
    for _, forward, _ in undone:
        apply(forward)
    for _, _, backward in reversed(undone):
        apply(backward)
    return same and _told(tried) == _told(workbook)


def _told(workbook: Workbook) -> object:
    return (
        [(sheet.name, _cells(sheet), sheet.layout) for sheet in workbook.sheets],
        {key: (each.name, each.shape) for key, each in workbook.names.items()},
        workbook.feeds,
        workbook.proofs,
        workbook.sweeps,
        workbook.answers,
        workbook.seed,
        workbook.locale,
    )


def _cells(sheet: Sheet) -> list[object]:
    """What a sheet holds, in runs that do not depend on how it was written."""
    found: list[Any] = []
    for run in sheet.all_runs():
        before = found[-1] if found else None
        alike = before and (before[0], before[2] + 1) == (run.column, run.top)
        kind = type(run.content)
        if before and alike and before[3:] == (kind, run.content, run.look):
            found[-1] = (before[0], before[1], run.bottom, *before[3:])
        else:
            found.append((run.column, run.top, run.bottom, kind, run.content, run.look))
    return found
