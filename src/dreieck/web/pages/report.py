"""The fill report of a block: a page that prints, to be handed in or filed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import islice
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Request
from pydantic import BaseModel, Field
from starlette.responses import Response

from dreieck.core.budget import current
from dreieck.core.calculate import Block
from dreieck.core.checking.findings import Finding
from dreieck.core.formula.reference import Locks, Reference
from dreieck.core.formula.shift import shifts_by_letter
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import Edit, SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.values import Place
from dreieck.core.words.phrases import Phrase
from dreieck.core.words.reading import reading
from dreieck.store import OpenWorkbook
from dreieck.web.answers import TheWorkbook, page
from dreieck.web.colours import colour_of
from dreieck.web.pages.log import Asked as AskedLog
from dreieck.web.pages.log import block_of, landings_of, lines_of, names_of
from dreieck.web.picture import Picture, picture
from dreieck.web.turns import in_time
from dreieck.web.workbench.findings_shown import States, shown, states_of

router = APIRouter(include_in_schema=False)
MAX_LANDINGS = 1_500
"""How many landings a report lists."""
_SHORT = 4
_TILES = 40


class Asked(BaseModel):
    """Which block, and how much of its log; with a name of who hands it in."""

    cell: str = "A1"
    log: Literal["short", "whole"] = "short"
    by: str = Field("", max_length=120)


@dataclass(frozen=True)
class Mended:
    """A mend that was made: when, what it did, the formula before and after."""

    at: str
    says: str
    before: str
    after: str


@dataclass(frozen=True)
class Locked:
    """A reference of the start, in words."""

    tag: str
    colour: int
    text: str
    says: str


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/report")
def report(
    request: Request, opened: TheWorkbook, sheet_id: int, asked: Annotated[Asked, Query()]
) -> Response:
    """The report of the block that a cell belongs to."""
    with opened.lock:
        return in_time(lambda: _page(request, opened, sheet_id, asked))


def _page(request: Request, opened: OpenWorkbook, sheet_id: int, asked: Asked) -> Response:
    sheet, block, findings = block_of(opened, sheet_id, asked.cell, "report")
    states = states_of(opened.calculation, sheet.name, block.parts, findings)
    listed = _listed(block, states, asked)
    lines = [line for cell in listed for line in lines_of(opened, sheet, block, states, cell, -1)]
    return page(
        request, "report.html", opened=opened, sheet=sheet, block=block, asked=asked, lines=lines,
        left=block.size - len(listed), phrases=_reading(opened, sheet, block),
        references=_references(block), names=names_of(opened, block),
        counts=states.counted(block.parts), tiles=_tiles(block, states),
        found=[shown(each, opened.workbook.locale) for each in findings],
        mended=_mended(opened, sheet, block),
        picture=_picture(opened, sheet, block, findings),
        today=datetime.now(UTC).date().isoformat(), hurried=current().hurried,
    )  # fmt: skip


def _listed(block: Block, states: States, asked: Asked) -> list[Cell]:
    """The landings that are listed: all, or the first, the last and those that are not sound."""
    every = landings_of(block, states, AskedLog.model_validate({}))
    if asked.log == "whole":
        return list(islice(every, MAX_LANDINGS))
    wrong: list[Cell] = []
    for state in ("broken", "doubt"):
        wrong += islice(landings_of(block, states, _all(state)), _SHORT)
    first = list(islice(every, _SHORT))
    chosen = dict.fromkeys([*first, *wrong, block.stepped(block.start, -1)])
    return sorted(chosen, key=lambda cell: (cell.row, cell.column))


def _all(state: str) -> AskedLog:
    """The question for all landings in a state."""
    return AskedLog.model_validate({"state": state})


def _reading(opened: OpenWorkbook, sheet: Sheet, block: Block) -> list[Phrase]:
    return reading(opened.workbook, Place(sheet.name, block.start), block.shape)


def _references(block: Block) -> list[Locked]:
    shifts = shifts_by_letter(block.shape, block.start, block.start)
    return [
        Locked(shift.tag, colour_of(letter), shift.start, _says(shift.reference, block.start))
        for letter, shift in enumerate(shifts)
    ]


def _says(reference: Reference, at: Cell) -> str:
    """What of a reference stays and what moves."""
    corners = [_corner(each) for each in reference.corners(at)]
    if len(set(corners)) == 1:
        return corners[0]
    return f"first corner: {corners[0]}; last corner: {corners[-1]}"


def _corner(locks: Locks) -> str:
    if locks.column == locks.row:
        return "stays" if locks.column else "moves along"
    stays, moves = ("column", "row") if locks.column else ("row", "column")
    return f"{stays} stays, {moves} moves"


def _tiles(block: Block, states: States) -> list[list[str]]:
    """The states of the landings, row by row; empty where the block is too large for tiles."""
    area = block.area
    if area.width > _TILES or area.height > _TILES:
        return []

    def tile(cell: Cell) -> str:
        if not block.holds(cell):
            return "gap"
        return states.of_cell(cell) + " start" * (cell == block.start)

    return [[tile(cell) for cell in row.cells()] for row in area.lines("row")]


def _picture(
    opened: OpenWorkbook, sheet: Sheet, block: Block, findings: tuple[Finding, ...]
) -> Picture:
    """The picture of a landing that is not sound, or of the last one."""
    worst = next(
        (each.areas[0].first for each in findings if each.state != "note" and each.areas), None
    )
    last = block.stepped(block.start, -1)
    landing = worst if worst and block.holds(worst) and worst != block.start else last
    parts, shape, start = block.parts, block.shape, block.start
    return picture(opened.calculation, sheet, parts, shape, start, landing)


def _mended(opened: OpenWorkbook, sheet: Sheet, block: Block) -> list[Mended]:
    """The mends of this block that are in the history."""
    found: list[Mended] = []
    for change in opened.done_changes("mend: "):
        for forward in change.forward:
            if not isinstance(forward, SetCells) or forward.sheet_id != sheet.id:
                continue
            run = next((run for run in forward.runs if run.area.common(block.area)), None)
            if not isinstance(run, Run):
                continue
            before = _before(opened, change.backward, sheet, run)
            at = Cell(run.column, run.top)
            after = opened.workbook.typed(run.content, at)
            says = change.label.removeprefix("mend: ")
            found.append(Mended(change.at[:10], says, before, after))
            break
    return found


def _before(opened: OpenWorkbook, backward: list[Edit], sheet: Sheet, run: Run) -> str:
    """What stood in the first cell of a run."""
    at = Cell(run.column, run.top)
    for edit in backward:
        if isinstance(edit, SetCells) and edit.sheet_id == sheet.id:
            for each in edit.runs:
                if isinstance(each, Run) and each.area.holds(at):
                    return opened.workbook.typed(each.content, at)
    return ""
