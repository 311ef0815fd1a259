"""The page of sweeps: those that are kept, and a new one."""

from __future__ import annotations

from dataclasses import dataclass

from fastapi import APIRouter, Request
from starlette.datastructures import FormData
from starlette.responses import RedirectResponse, Response

from dreieck.core.checking.sweeps.asked import asked, place_of
from dreieck.core.checking.sweeps.proposing import results_for, values_for
from dreieck.core.editing.lifting import input_cells
from dreieck.core.editing.stating import NEW, kept, stated, without
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import place_text
from dreieck.core.functions.sweeping import DRAWN, OVER, SWEEP
from dreieck.core.sheet.stated import Stated
from dreieck.core.values import Place
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.navigation import Entry
from dreieck.web.turns import in_time

router = APIRouter(include_in_schema=False)
ENTRY = Entry(6, "sweeps", "Sweeps", "/workbooks/{workbook}/sweeps")

_FIELDS = ("input", "from", "to", "step", "values", "count", "seed")
_MAX_INPUTS = 30


@dataclass(frozen=True)
class SweepLine:
    """A sweep in the list: what it says, or why it cannot be run."""

    sweep: Stated
    inputs: str
    seen: str
    count: int
    problem: str


@router.get("/workbooks/{workbook_id}/sweeps")
def sweeps(request: Request, opened: TheWorkbook, input: str = "", change: int = NEW) -> Response:
    """The page of sweeps; with ``input`` a new one is laid out for that cell.

    With ``change`` the one with that number is written on in.
    """
    with opened.lock:
        typed = _laid_out(opened, input[:200]) if input else {}
        for each in opened.workbook.sweeps:
            if each.number == change:
                typed = {"states": each.text, "number": str(change)}
        return in_time(lambda: _page(request, opened, typed))


@router.post("/workbooks/{workbook_id}/sweeps")
def change(request: Request, opened: TheWorkbook, form: TheForm) -> Response:
    """Keep a sweep, or take one away."""
    workbook = opened.workbook
    number, changed = whole_number(form, "delete"), max(whole_number(form, "number"), NEW)
    with opened.lock:
        try:
            if number > NEW:
                edit = without(workbook, "sweeps", number)
                label = "deleting a sweep"
            else:
                text = str(form.get("states", ""))[:10_000] or _written(form)
                shape = stated(text, opened.last_sheet())
                asked(opened.calculation, shape)
                edit = kept(workbook, "sweeps", shape, changed)
                label = "sweep"
            opened.change(label, [edit], whole_number(form, "revision"))
        except (DreieckError, StoreError) as refusal:
            typed = {key: str(value)[:10_000] for key, value in form.items()}
            problem = str(refusal)
            return in_time(lambda: _page(request, opened, typed, problem))
        at = f"/workbooks/{opened.id}/sweeps"
        if number > NEW:
            return RedirectResponse(at, 303)
        made = changed or edit.stated[-1].number
        return RedirectResponse(f"{at}/{made}", 303)


def _written(form: FormData) -> str:
    """The sweep that a form says, as it is written. Raises DreieckError."""
    inputs = [_input(form, suffix) for suffix in ("", "_2") if str(form.get("input" + suffix, ""))]
    if not inputs:
        raise DreieckError("Say which input is to run over values, such as B4 or a name.")
    results = str(form.get("results", "")).strip()
    if not results:
        raise DreieckError("Say which results are to be seen, such as F13 or C4:C15.")
    return f"={SWEEP}({','.join(inputs)},{results[:2_000]})"


def _input(form: FormData, suffix: str) -> str:
    said = {each: str(form.get(each + suffix, "")).strip()[:2_000] for each in _FIELDS}
    if said["values"]:
        listed = said["values"]
        if "," in listed or ";" in listed or ("{" not in listed and not _is_reference(listed)):
            listed = "{" + listed.strip("{}").replace(",", ";") + "}"
        return f"{OVER}({said['input']},{listed})"
    if not said["from"] or not said["to"]:
        raise DreieckError(f"Say from where to where {said['input']} is to run, or which values.")
    ends = f"{said['input']},{said['from']},{said['to']}"
    if said["count"]:
        return f"{DRAWN}({ends},{said['count']},{said['seed'] or '1'})"
    if not said["step"]:
        raise DreieckError(f"Say by which steps {said['input']} is to run, or how many are drawn.")
    return f"{OVER}({ends},{said['step']})"


def _is_reference(text: str) -> bool:
    return any(each.isalpha() for each in text)


def _laid_out(opened: OpenWorkbook, input: str) -> dict[str, str]:
    """What a new sweep of an input would be."""
    try:
        place = place_of(opened.calculation, input, opened.last_sheet())
    except DreieckError:
        return {"input": input}
    values = values_for(opened.calculation, place)
    results = results_for(opened.calculation, place)
    return {
        "input": input, "from": values.low, "to": values.high, "step": values.step,
        "results": ",".join(results),
    }  # fmt: skip


def _page(
    request: Request, opened: OpenWorkbook, typed: dict[str, str], problem: str = ""
) -> Response:
    inputs = [
        place_text(Place(sheet.name, cell))
        for sheet in opened.workbook.sheets
        for cell in input_cells(sheet)
    ][:_MAX_INPUTS]
    return page(
        request, "sweeps.html", opened=opened, typed=typed, problem=problem, inputs=inputs,
        lines=[_line(opened, each) for each in opened.workbook.sweeps],
        home_sheet=opened.last_sheet(),
    )  # fmt: skip


def _line(opened: OpenWorkbook, sweep: Stated) -> SweepLine:
    try:
        found = asked(opened.calculation, sweep.shape)
    except DreieckError as refusal:
        return SweepLine(sweep, "", "", 0, str(refusal))
    return SweepLine(
        sweep,
        " and ".join(each.label for each in found.inputs),
        ", ".join(each.label for each in found.seen),
        found.count,
        "",
    )
