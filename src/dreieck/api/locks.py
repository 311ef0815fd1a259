"""The likely locks of a formula that is going to be filled."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from dreieck.api.asked import place
from dreieck.api.evaluate import SmallWorkbook
from dreieck.core.calculate import Calculation
from dreieck.core.checking.likely import likely_locks
from dreieck.core.editing.target import check_target
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.formula.printer import split_sheet
from dreieck.core.grid import Area
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values import Place

MOST = 5
"""How many proposals an answer has at most."""


class LocksRequest(SmallWorkbook):
    """A small workbook, the cell with the formula, and where it is filled to.

    Without ``formula`` the one that the cell holds is meant.
    """

    model_config = ConfigDict(
        json_schema_extra={
            "examples": [
                {
                    "sheets": {
                        "Loads": {
                            "C4": "420", "D4": "280", "B5": "0.12", "B6": "0.08", "C5": "=B5*C4",
                        }
                    },
                    "from": "Loads!C5",
                    "to": "C5:D6",
                }
            ]
        },
        extra="forbid",
    )  # fmt: skip

    start: Annotated[str, Field(alias="from", max_length=200)]
    to: Annotated[str, Field(max_length=200)]
    formula: Annotated[str | None, Field(max_length=100_000)] = None


class Proposal(BaseModel):
    """The formula with a choice of locks, what its far corner reads, and the rules it breaks."""

    formula: str
    says: str
    findings: list[str]


class LocksAnswer(BaseModel):
    """Choices of locks, the likeliest first."""

    proposals: list[Proposal]


def locks_answer(request: LocksRequest) -> LocksAnswer:
    """The answer to a request. Raises DreieckError where it cannot be used."""
    workbook = request.made()
    at = place(workbook, request.start)
    target = _target(at, request.to)
    shape = _shape(workbook, at, request.formula)
    sheet = workbook.sheet(at.sheet)
    found = likely_locks(Calculation(workbook), sheet, at.cell, shape, target, MOST)
    return LocksAnswer(
        proposals=[
            Proposal(
                formula=each.formula,
                says=each.why,
                findings=list(dict.fromkeys(finding.rule for finding in each.findings)),
            )
            for each in found
        ]
    )


def _target(at: Place, text: str) -> Area:
    """The area that is filled, with the start in it."""
    sheet, address = split_sheet(text)
    if sheet is not None and sheet.casefold() != at.sheet.casefold():
        raise DreieckError(f"The fill has to stay on “{at.sheet}”, where its formula stands.")
    area = Area.parse(address.replace("$", "")).around(Area.of(at.cell))
    check_target(area)
    return area


def _shape(workbook: Workbook, at: Place, formula: str | None) -> Shape:
    if formula is not None and not formula.startswith("="):
        raise DreieckError("The formula has to begin with “=”.")
    content = workbook.content(at.sheet, at.cell)
    if formula is not None:
        content = workbook.read_entry(formula, at.cell).content
        if not isinstance(content, Shape):
            # What cannot be read says where.
            return Shape.parse(formula, at.cell)
    if not isinstance(content, Shape):
        raise DreieckError(f"{at.cell.text} holds no formula that could be filled.")
    return content
