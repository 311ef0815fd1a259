"""One drill: by its code, or about one's own sheet."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, HTTPException, Query, Request
from starlette.responses import Response

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Cell
from dreieck.core.practice.catalogue import again, question
from dreieck.core.practice.codes import KINDS, MAX_SEED, Code
from dreieck.core.practice.judging import Verdict
from dreieck.core.practice.own import own_question
from dreieck.core.practice.question import Question
from dreieck.store import OpenWorkbook
from dreieck.web.answers import BesideWorkbook, TheForm, ThePerson, ThePractised, TheWorkbook
from dreieck.web.practice.drill import Answer, Where, answer_page, drill_page
from dreieck.web.turns import in_time

router = APIRouter(include_in_schema=False)


def of(beside: OpenWorkbook | None) -> str:
    """The end of an address that keeps the bar of a workbook."""
    return f"?of={beside.id}" if beside else ""


def _code(text: str) -> Code:
    try:
        return Code.parse(text)
    except DreieckError as error:
        raise HTTPException(404, str(error)) from None


def _by_code(code: Code, beside: OpenWorkbook | None) -> Where:
    tail = of(beside)
    return Where(
        f"/practice/drills/{code.text}{tail}", f"{KINDS[code.kind][0]}, level {code.level}",
        f"/practice/next{tail}", again=f"/practice/drills/{again(code).text}{tail}",
        code=code.text, back=f"/practice{tail}",
    )  # fmt: skip


@router.get("/practice/drills/{code}")
def drill(request: Request, code: str, beside: BesideWorkbook) -> Response:
    """A drill by its code."""
    asked = _code(code)
    return drill_page(request, question(asked), _by_code(asked, beside), beside=beside)


@router.post("/practice/drills/{code}")
def answer_drill(
    request: Request,
    code: str,
    form: TheForm,
    person: ThePerson,
    practised: ThePractised,
    beside: BesideWorkbook,
) -> Response:
    """An answer to a drill, or a hint, or what the formula is with other locks."""
    asked = _code(code)
    found = question(asked)

    def keep(verdict: Verdict, answer: Answer) -> None:
        practised.record(person, asked.text, found.skill, verdict, answer.given, answer.hints)

    return answer_page(request, found, _by_code(asked, beside), form, keep, beside=beside)


OwnSeed = Annotated[int, Query(ge=0, le=MAX_SEED)]
OwnCell = Annotated[str, Query(max_length=20)]


@router.get("/workbooks/{workbook_id}/sheets/{sheet_id}/practice")
def own_drill(
    request: Request, opened: TheWorkbook, sheet_id: int, at: OwnCell = "A1", seed: OwnSeed = 0
) -> Response:
    """A drill about a block of one's own sheet."""
    with opened.lock:
        found = in_time(lambda: _own(opened, sheet_id, at, seed))
        return drill_page(
            request, found, _of_own(opened, sheet_id, at, seed), opened=opened,
            sheet=opened.workbook.sheet_by_id(sheet_id),
        )  # fmt: skip


@router.post("/workbooks/{workbook_id}/sheets/{sheet_id}/practice")
def answer_own(
    request: Request,
    opened: TheWorkbook,
    sheet_id: int,
    form: TheForm,
    person: ThePerson,
    practised: ThePractised,
    at: OwnCell = "A1",
    seed: OwnSeed = 0,
) -> Response:
    """An answer to a drill about one's own sheet."""
    with opened.lock:
        found = in_time(lambda: _own(opened, sheet_id, at, seed))
        sheet = opened.workbook.sheet_by_id(sheet_id)
        code = f"own-{opened.id}-{sheet_id}-{found.exercise.start.text}-{seed}"

        def keep(verdict: Verdict, answer: Answer) -> None:
            practised.record(person, code, found.skill, verdict, answer.given, answer.hints)

        where = _of_own(opened, sheet_id, at, seed)
        return answer_page(request, found, where, form, keep, opened=opened, sheet=sheet)


def _own(opened: OpenWorkbook, sheet_id: int, at: str, seed: int) -> Question:
    try:
        sheet = opened.workbook.sheet_by_id(sheet_id)
        return own_question(opened.calculation, sheet, Cell.parse(at), seed)
    except DreieckError as error:
        raise HTTPException(404, str(error)) from None


def _of_own(opened: OpenWorkbook, sheet_id: int, at: str, seed: int) -> Where:
    home = f"/workbooks/{opened.id}/sheets/{sheet_id}"
    cell = Cell.parse(at).text
    following = f"{home}/practice?at={cell}&seed={(seed + 1) % MAX_SEED}"
    return Where(
        f"{home}/practice?at={cell}&seed={seed}", "From my own sheet", following,
        "Another question about it", back=f"{home}?at={cell}", back_says="Back to the sheet",
    )  # fmt: skip
