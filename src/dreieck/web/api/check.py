"""The findings about a small workbook that comes with the request."""

from __future__ import annotations

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel, ConfigDict

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import Checked, Finding, State, check_workbook
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.formula.shift import tag
from dreieck.core.grid.areas import cells_of
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.web.api.evaluate import SmallWorkbook

router = APIRouter()

MAX_CELLS = 1_000
"""How many cells of a finding are listed; ``count`` tells how many there are."""


class CheckRequest(SmallWorkbook):
    """A small workbook whose fills are checked."""

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "sheets": {
                        "Loads": {
                            "A1": "Carrying price", "B1": "1.80", "A3": "Item", "B3": "Weight",
                            "B4": "50.4", "B5": "33.6", "C4": "=B4*B1", "C5": "=B5*B2",
                        }
                    }
                }
            ]
        },
        extra="forbid",
    )  # fmt: skip


class MendAnswer(BaseModel):
    """A proposed repair, and the formula or entry before and after it."""

    says: str
    before: str
    after: str


class FindingAnswer(BaseModel):
    """One thing in doubt or broken, or a note.

    ``reference`` is the tag of the reference that it is about, if it is about one; ``cells``
    are the first cells that it is about, ``count`` how many there are. ``because`` is what
    speaks for it, ``causes`` what comes of it.
    """

    rule: str
    state: State
    reference: str | None
    cells: list[str]
    count: int
    says: str
    why: str
    because: list[str]
    causes: list[str]
    mends: list[MendAnswer]


class BlockAnswer(BaseModel):
    """A block: its area, its first cell, how many landings it has, and its findings."""

    area: str
    start: str
    landings: int
    findings: list[FindingAnswer]


class CheckAnswer(BaseModel):
    """All blocks; ``findings`` are those about the pattern of a sheet, outside of blocks."""

    blocks: list[BlockAnswer]
    findings: list[FindingAnswer]


@router.post("/check", summary="What is in doubt or broken in a small workbook")
def check(request: CheckRequest) -> CheckAnswer:
    """Check every block of filled formulas, and the pattern of every sheet."""
    try:
        return check_answer(request)
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None


def check_answer(request: CheckRequest) -> CheckAnswer:
    """The answer to a request. Raises DreieckError where it cannot be used."""
    return workbook_answer(request.made())


def workbook_answer(workbook: Workbook) -> CheckAnswer:
    """What is in doubt or broken in a workbook."""
    calculation = Calculation(workbook)
    blocks: list[BlockAnswer] = []
    others: list[FindingAnswer] = []
    for checked in check_workbook(calculation):
        if checked.block:
            blocks.append(_block(checked))
        else:
            others.extend(_finding(each) for each in checked.findings)
    return CheckAnswer(blocks=blocks, findings=others)


def _block(checked: Checked) -> BlockAnswer:
    assert checked.block is not None
    sheet = checked.sheet
    return BlockAnswer(
        area=area_text(checked.block.area, sheet.name),
        start=place_text(Place(sheet.name, checked.block.start)),
        landings=checked.block.size,
        findings=[_finding(each) for each in checked.findings],
    )


def _finding(finding: Finding) -> FindingAnswer:
    cells: list[str] = []
    for cell in cells_of(finding.areas):
        if len(cells) == MAX_CELLS:
            break
        cells.append(place_text(Place(finding.sheet, cell)))
    return FindingAnswer(
        rule=finding.rule,
        state=finding.state,
        reference=None if finding.reference is None else tag(finding.reference),
        cells=cells,
        count=finding.count,
        says=finding.says,
        why=finding.why,
        because=list(finding.because),
        causes=list(finding.causes),
        mends=[MendAnswer(says=m.says, before=m.before, after=m.after) for m in finding.mends],
    )
