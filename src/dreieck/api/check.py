"""The findings about a small workbook that comes with the request."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import islice

from pydantic import BaseModel, ConfigDict, Field

from dreieck.api.evaluate import SmallWorkbook, Text
from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import Checked, Finding, State, check_workbook
from dreieck.core.checking.proofs.judging import judged
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import MAX_STATED, stated
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area
from dreieck.core.sheet.stated import Proof
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place
from dreieck.core.words.proving import statement_said

MAX_CELLS = 1_000
"""How many cells of a finding are listed; ``count`` tells how many there are."""


class CheckRequest(SmallWorkbook):
    """A small workbook whose fills are checked; ``proofs`` are statements about its cells.

    Cells without a sheet are those of the first one.
    """

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "sheets": {
                        "Loads": {
                            "A1": "Carrying price", "B1": "1.80", "A3": "Item", "B3": "Weight",
                            "B4": "50.4", "B5": "33.6", "C4": "=B4*B1", "C5": "=B5*B2",
                        }
                    },
                    "proofs": ["=ADDS.UP(B4:B5,84)"],
                }
            ]
        },
        extra="forbid",
    )  # fmt: skip

    proofs: list[Text] = Field(default=[], max_length=MAX_STATED)


class MendAnswer(BaseModel):
    """A proposed repair, and the formula or entry before and after it."""

    says: str
    before: str
    after: str


class FindingAnswer(BaseModel):
    """One thing in doubt or broken, or a note.

    ``reference`` is the tag of the reference that it is about, if it is about one; ``cells``
    are the first cells that it is about, ``count`` how many there are. ``because`` is what
    speaks for it, ``causes`` what comes of it, ``meant`` the reason why it is meant, if somebody
    answered so.
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
    meant: str = ""


class BlockAnswer(BaseModel):
    """A block: its area, its first cell, how many landings it has, and its findings."""

    area: str
    start: str
    landings: int
    findings: list[FindingAnswer]


class ProofAnswer(BaseModel):
    """A proof: the statement as it is written and in words, whether it holds, and why.

    ``cells`` are the first ones to blame where it fails, ``count`` how many there are.
    """

    states: str
    says: str
    holds: bool
    outcome: str
    cells: list[str]
    count: int


class CheckAnswer(BaseModel):
    """All blocks; ``findings`` are those about the pattern of a sheet, outside of blocks."""

    blocks: list[BlockAnswer]
    findings: list[FindingAnswer]
    proofs: list[ProofAnswer]


def check_answer(request: CheckRequest) -> CheckAnswer:
    """The answer to a request. Raises DreieckError where it cannot be used."""
    workbook = request.made()
    prove(workbook, request.proofs)
    return workbook_answer(workbook)


def prove(workbook: Workbook, statements: Iterable[str]) -> None:
    """Let a workbook have further proofs. Raises DreieckError where one is none."""
    for text in statements:
        try:
            proven(workbook, stated(text, workbook.sheets[0])).apply(workbook)
        except DreieckError as refusal:
            raise DreieckError(f"{text[:80]}: {refusal}") from None


def workbook_answer(workbook: Workbook) -> CheckAnswer:
    """What is in doubt or broken in a workbook, and whether its proofs hold."""
    calculation = Calculation(workbook)
    blocks: list[BlockAnswer] = []
    others: list[FindingAnswer] = []
    for checked in check_workbook(calculation):
        if checked.block:
            blocks.append(_block(checked))
        else:
            others.extend(_finding(each) for each in checked.findings)
    proofs = [_proof(calculation, each) for each in workbook.proofs]
    return CheckAnswer(blocks=blocks, findings=others, proofs=proofs)


def _proof(calculation: Calculation, proof: Proof) -> ProofAnswer:
    verdict = judged(calculation, proof)
    return ProofAnswer(
        states=proof.text,
        says=statement_said(calculation.workbook, proof),
        holds=verdict.state == "holds",
        outcome=verdict.says,
        cells=_listed(verdict.wrong),
        count=sum(area.size for _, area in verdict.wrong),
    )


def _listed(areas: Iterable[tuple[str, Area]]) -> list[str]:
    """The first cells of areas, by their addresses."""
    cells = (Place(sheet, cell) for sheet, area in areas for cell in area.cells())
    return [place_text(each) for each in islice(cells, MAX_CELLS)]


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
    return FindingAnswer(
        rule=finding.rule,
        state=finding.state,
        reference=None if finding.reference is None else tag(finding.reference),
        cells=_listed((finding.sheet, area) for area in finding.areas),
        count=finding.count,
        says=finding.says,
        why=finding.why,
        because=list(finding.because),
        causes=list(finding.causes),
        mends=[MendAnswer(says=m.says, before=m.before, after=m.after) for m in finding.mends],
        meant=finding.meant,
    )
