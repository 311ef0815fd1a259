"""The JSON interface for scripts: described by its OpenAPI page, nothing stored."""

from fastapi import APIRouter

from dreieck.api.check import CheckAnswer, CheckRequest, check_answer
from dreieck.api.evaluate import EvaluateAnswer, EvaluateRequest, evaluate_answer
from dreieck.api.locks import LocksAnswer, LocksRequest, locks_answer
from dreieck.api.shift import ShiftAnswer, ShiftRequest, shift_answer
from dreieck.web.api import uploads
from dreieck.web.api.telling import refusals_told

router = APIRouter(prefix="/api/v1", tags=["formulas"])


@router.post("/shift", summary="Where every reference of a filled formula lands")
def shift(request: ShiftRequest) -> ShiftAnswer:
    """Fill a formula from one cell to an area and list what each reference becomes."""
    with refusals_told():
        return shift_answer(request)


@router.post("/evaluate", summary="The values of a small workbook")
def evaluate(request: EvaluateRequest) -> EvaluateAnswer:
    """Work the workbook out and answer with the cells that are asked for."""
    with refusals_told():
        return evaluate_answer(request)


@router.post("/check", summary="What is in doubt or broken in a small workbook")
def check(request: CheckRequest) -> CheckAnswer:
    """Check every block of filled formulas, and the pattern of every sheet."""
    with refusals_told():
        return check_answer(request)


@router.post("/locks", summary="The likely locks of a formula that is going to be filled")
def locks(request: LocksRequest) -> LocksAnswer:
    """Weigh the locks that a fill could have; nothing is filled."""
    with refusals_told():
        return locks_answer(request)


router.include_router(uploads.router)
