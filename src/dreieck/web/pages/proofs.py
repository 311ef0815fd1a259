"""The page of proofs: whether they hold, since when not, and which could be made."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.budget import current
from dreieck.core.checking.proofs.proposing import Proposal
from dreieck.core.checking.proofs.since import Since
from dreieck.core.checking.proofs.verdict import Verdict
from dreieck.core.editing.proving import proven
from dreieck.core.editing.stating import NEW, first_area, stated, without
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet.edits import SetStated
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import Proof
from dreieck.core.words.phrases import Phrase
from dreieck.core.words.proving import stated as stated_in_words
from dreieck.core.words.proving import statement_said
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.navigation import Entry
from dreieck.web.proof_picture import Drawing, drawing
from dreieck.web.turns import in_time
from dreieck.web.workbench.proof_cache import proposed, sinces, verdicts_of

router = APIRouter(include_in_schema=False)
ENTRY = Entry(5, "proofs", "Proofs", "/workbooks/{workbook}/proofs")


@dataclass(frozen=True)
class ProofCard:
    """A proof on the page; ``sheet`` is the number of the sheet that it is about."""

    proof: Proof
    phrases: list[Phrase]
    verdict: Verdict
    drawing: Drawing | None
    since: Since | None
    sheet: int


@dataclass(frozen=True)
class ProposalCard:
    """A proof that could be made."""

    proposal: Proposal
    says: str


@router.get("/workbooks/{workbook_id}/proofs")
def proofs(request: Request, opened: TheWorkbook, told: str = "") -> Response:
    """The page of proofs."""
    with opened.lock:
        return in_time(lambda: _proofs_page(request, opened, notice=told[:300]))


@router.post("/workbooks/{workbook_id}/proofs")
def change(request: Request, opened: TheWorkbook, form: TheForm) -> Response:
    """Keep a proof that is stated, or take one away."""
    workbook = opened.workbook
    typed = str(form.get("states", ""))[:10_000]
    number = whole_number(form, "delete")

    def edit() -> tuple[str, SetStated]:
        if number > NEW:
            return "deleting a proof", without(workbook, "proofs", number)
        home = _home(opened, whole_number(form, "sheet"))
        made = proven(workbook, stated(typed, home))
        return f"proof: {statement_said(workbook, made.stated[-1])}"[:200], made

    with opened.lock:
        return _changed(request, opened, whole_number(form, "revision"), edit, typed)


def _changed(
    request: Request,
    opened: OpenWorkbook,
    revision: int,
    edit: Callable[[], tuple[str, SetStated]],
    typed: str,
) -> Response:
    try:
        label, made = edit()
        opened.change(label, [made], revision)
    except (DreieckError, StoreError) as refusal:
        problem = str(refusal)
        return in_time(lambda: _proofs_page(request, opened, problem=problem, typed=typed))
    gone = label.startswith("deleting")
    told = "gone" if gone else "kept"
    return RedirectResponse(f"/workbooks/{opened.id}/proofs?told={told}", 303)


def _home(opened: OpenWorkbook, number: int) -> Sheet:
    """The sheet of cells that are stated without one."""
    sheets = opened.workbook.sheets
    return next((sheet for sheet in sheets if sheet.id == number), opened.last_sheet())


def _proofs_page(request: Request, opened: OpenWorkbook, **told: Any) -> Response:
    verdicts, since = verdicts_of(opened), sinces(opened)
    cards = [
        ProofCard(
            proof,
            stated_in_words(opened.workbook, proof),
            verdict,
            drawing(verdict.picture) if verdict.picture else None,
            since.get(proof.number),
            found[0].id if found else opened.workbook.sheets[0].id,
        )
        for proof in opened.workbook.proofs
        for verdict, found in [(verdicts[proof.number], first_area(opened.workbook, proof))]
    ]
    cards.sort(key=lambda card: not card.verdict.fails)
    could = [
        ProposalCard(each, statement_said(opened.workbook, Proof(NEW, each.shape)))
        for each in proposed(opened)
    ]
    return page(
        request, "proofs.html", opened=opened, cards=cards, proposals=could,
        failing=sum(card.verdict.fails for card in cards), hurried=current().hurried,
        sheet_shown=opened.last_sheet(), **told,
    )  # fmt: skip
