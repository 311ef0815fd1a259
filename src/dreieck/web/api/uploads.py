"""The questions of scripts about files that come with the request; nothing is stored."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, File, Form, Query, UploadFile
from starlette.responses import Response

from dreieck.api.asked import enter, log_of
from dreieck.api.check import CheckAnswer, workbook_answer
from dreieck.api.diff import DiffAnswer, diff_answer
from dreieck.api.evaluate import EvaluateAnswer, evaluate_workbook
from dreieck.api.shift import ShiftAnswer
from dreieck.core.budget import working
from dreieck.core.calculate import Calculation
from dreieck.core.sheet.workbook import Workbook
from dreieck.files import Arrived, Wish, named, read, write
from dreieck.files.formats import shown_name, written_ones
from dreieck.files.progress import Within
from dreieck.web.api.telling import refusals_told

router = APIRouter(prefix="/files")
Upload = Annotated[UploadFile, File(description="A file of any format that can be opened.")]
_TO = f"One of {', '.join(each.name for each in written_ones())}"


def _arrived(file: UploadFile) -> Arrived:
    progress = Within()
    with working(progress):
        return read(file.file.read(), file.filename or "", progress)


def _workbook(file: UploadFile) -> Workbook:
    return _arrived(file).workbook


@router.post("/calc", summary="The values of a file, also with other entries")
def calc(
    file: Upload,
    cell: Annotated[list[str] | None, Form()] = None,
    set: Annotated[list[str] | None, Form()] = None,
) -> EvaluateAnswer:
    """Work a file out: the cells that are asked for, or all filled ones."""
    with refusals_told():
        workbook = _workbook(file)
        enter(workbook, set or [])
        return evaluate_workbook(workbook, cell or [])


@router.post("/check", summary="What is in doubt or broken in a file")
def check(file: Upload) -> CheckAnswer:
    """Check every block of filled formulas, and the pattern of every sheet."""
    with refusals_told():
        return workbook_answer(_workbook(file))


@router.post("/shift", summary="The shift log of a block in a file")
def shift(file: Upload, cell: Annotated[str, Form()]) -> ShiftAnswer:
    """List what each reference became in every landing of the block of a cell."""
    with refusals_told():
        return log_of(_workbook(file), cell)


@router.post("/diff", summary="What differs between two files")
def diff(old: Upload, new: Upload) -> DiffAnswer:
    """List what changed, by block."""
    with refusals_told():
        return diff_answer(_workbook(old), _workbook(new))


@router.post("/convert", summary="A file in another format", response_class=Response)
def convert(
    file: Upload,
    to: Annotated[str, Query(description=_TO)],
    sheet: str = "",
    formulas: bool = False,
) -> Response:
    """Write a file in another format; what that does not hold is told in ``X-Left-Out``."""
    with refusals_told():
        format = named(to)
        arrived = _arrived(file)
        workbook = arrived.workbook
        wish = Wish(workbook.sheet(sheet) if sheet else None, formulas)
        made = write(Calculation(workbook), format, wish, Within())
    left_out = (*arrived.left_out, *made.left_out)
    said = "; ".join(each.says for each in left_out).encode("ascii", "replace").decode()
    called = "".join(
        c if c.isascii() and c.isalnum() else "-" for c in shown_name(file.filename or "")
    )
    headers = {"Content-Disposition": f'attachment; filename="{called}{format.ending}"'}
    if said:
        headers["X-Left-Out"] = said[:2_000]
    return Response(made.data, media_type=format.media_type, headers=headers)
