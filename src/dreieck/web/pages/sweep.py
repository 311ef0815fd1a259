"""The page of one sweep: how far it is, what came out, and what can be done with that."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.checking.sweeps.asked import Asked, number_format
from dreieck.core.checking.sweeps.patterns import Pattern, pattern
from dreieck.core.checking.sweeps.running import Outcome
from dreieck.core.checking.sweeps.sheets import as_formulas, as_values
from dreieck.core.checking.sweeps.solving import Solved, solved
from dreieck.core.editing.stating import numbered
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula.printer import place_text
from dreieck.core.sheet.content import read_entry
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.stated import STANDS, Stated
from dreieck.core.values import Place, Value
from dreieck.core.values.locales import NEUTRAL
from dreieck.core.values.look import Look, shown_text
from dreieck.files.delimited.sweeps import sweep_text
from dreieck.store import OpenWorkbook, StoreError
from dreieck.web.answers import TheForm, TheWorkbook, page, whole_number
from dreieck.web.sweep_picture import lines_of, maps_of
from dreieck.web.sweeping import Sweeping, Sweepings
from dreieck.web.turns import in_time

router = APIRouter(include_in_schema=False)

MAX_ROWS = 200
"""So many runs are listed on the page."""
_MAX_COLUMNS = 12


@dataclass(frozen=True)
class Row:
    """A run as it is listed: its inputs, and for each result its value, difference and ratio."""

    inputs: list[str]
    cells: list[tuple[str, str, str]]
    along: str
    """What the steps of a chain do in this run."""


@router.get("/workbooks/{workbook_id}/sweeps/{number}")
def sweep(request: Request, opened: TheWorkbook, number: int) -> Response:
    """The page of a sweep; it is begun, or goes on, if it is not done."""
    with opened.lock:
        found = _found(opened, number)
        return in_time(lambda: _page(request, opened, found))


@router.get("/workbooks/{workbook_id}/sweeps/{number}/text")
def as_text(request: Request, opened: TheWorkbook, number: int) -> Response:
    """What came out, as CSV."""
    with opened.lock:
        known = _sweepings(request).known(opened, _found(opened, number))
        if known is None or known.outcome is None:
            raise HTTPException(404, "This sweep has not been run to its end.")
        outcome = known.outcome
    headers = {"Content-Disposition": f'attachment; filename="sweep-{number}.csv"'}
    return Response(sweep_text(outcome), media_type="text/csv", headers=headers)


@router.post("/workbooks/{workbook_id}/sweeps/{number}/run")
def run_anew(request: Request, opened: TheWorkbook, number: int) -> Response:
    """Run a sweep from the beginning."""
    with opened.lock:
        try:
            _sweepings(request).gone_on(opened, _found(opened, number), anew=True)
        except DreieckError as refusal:
            return _refused(request, opened, number, str(refusal))
    return RedirectResponse(f"/workbooks/{opened.id}/sweeps/{number}", 303)


@router.post("/workbooks/{workbook_id}/sweeps/{number}/stop")
def stop(request: Request, opened: TheWorkbook, number: int) -> Response:
    """Make no more runs."""
    with opened.lock:
        _sweepings(request).stop(opened, _found(opened, number))
    return RedirectResponse(f"/workbooks/{opened.id}/sweeps/{number}", 303)


@router.post("/workbooks/{workbook_id}/sweeps/{number}/sheet")
def to_sheet(request: Request, opened: TheWorkbook, number: int, form: TheForm) -> Response:
    """Put what came out on a new sheet, as values or as formulas."""
    with opened.lock:
        known = _sweepings(request).known(opened, _found(opened, number))
        try:
            if known is None or known.outcome is None or known.is_old(opened):
                raise DreieckError("Run the sweep again first: it is out of date, or not done.")
            make = as_formulas if form.get("formulas") else as_values
            edit = make(opened.calculation, known.outcome, opened.new_sheet_id())
            label = f"sheet {edit.name}"
            opened.change(label, [edit], whole_number(form, "revision"))
        except (DreieckError, StoreError) as refusal:
            return _refused(request, opened, number, str(refusal))
        return RedirectResponse(f"/workbooks/{opened.id}/sheets/{edit.sheet_id}", 303)


@router.post("/workbooks/{workbook_id}/sweeps/{number}/solve")
def solve(request: Request, opened: TheWorkbook, number: int, form: TheForm) -> Response:
    """Find the input that gives a result, or put one in."""
    with opened.lock:
        found = _found(opened, number)
        known = _sweepings(request).known(opened, found)
        typed = {key: str(value)[:200] for key, value in form.items()}
        try:
            if known is None or known.outcome is None:
                raise DreieckError("Run the sweep to its end first.")
            wanted = known.outcome.asked
            input = wanted.inputs[0].place
            if put := typed.get("put"):
                return _put(opened, input, put, whole_number(form, "revision"))
            at = max(whole_number(form, "result"), 0)
            result = wanted.results[min(at, len(wanted.results) - 1)]
            low, high, goal = (_number(opened, typed, each) for each in ("low", "high", "wanted"))
            answer = solved(opened.calculation, input, result, goal, low, high)
        except (DreieckError, StoreError) as refusal:
            return _refused(request, opened, number, str(refusal), typed)
        return in_time(lambda: _page(request, opened, found, typed=typed, solved=answer))


def _put(opened: OpenWorkbook, place: Place, found: str, revision: int) -> Response:
    value = read_entry(found, STANDS, NEUTRAL).content
    if not isinstance(value, float):
        raise DreieckError(f"“{found[:60]}” is no number.")
    sheet = opened.workbook.sheet(place.sheet)
    edit = SetCells.of(sheet.id, {place.cell: (value, sheet.look(place.cell))})
    opened.change(f"solution in {place_text(place)}", [edit], revision)
    return RedirectResponse(f"/workbooks/{opened.id}/sheets/{sheet.id}?at={place.cell.text}", 303)


def _number(opened: OpenWorkbook, typed: dict[str, str], name: str) -> float:
    entry = opened.workbook.read_entry(typed.get(name, ""), STANDS)
    if not isinstance(entry.content, float):
        raise DreieckError(f"“{typed.get(name, '')[:60]}” is no number.")
    return entry.content


def _refused(
    request: Request,
    opened: OpenWorkbook,
    number: int,
    problem: str,
    typed: dict[str, str] | None = None,
) -> Response:
    found = _found(opened, number)
    return in_time(lambda: _page(request, opened, found, problem=problem, typed=typed or {}))


def _found(opened: OpenWorkbook, number: int) -> Stated:
    try:
        return numbered(opened.workbook, "sweeps", number)
    except DreieckError as refusal:
        raise HTTPException(404, str(refusal)) from None


def _sweepings(request: Request) -> Sweepings:
    found: Sweepings = request.app.state.sweepings
    return found


def _page(
    request: Request,
    opened: OpenWorkbook,
    sweep: Stated,
    *,
    problem: str = "",
    typed: dict[str, str] | None = None,
    solved: Solved | None = None,
) -> Response:
    told: dict[str, Any] = {}
    sweepings = _sweepings(request)
    state = sweepings.known(opened, sweep)
    try:
        # What is out of date is shown until it is run anew.
        if state is None or state.running:
            state = sweepings.gone_on(opened, sweep)
        told = _told(opened, state)
    except DreieckError as refusal:
        problem = problem or str(refusal)
    return page(
        request, "sweep.html", opened=opened, sweep=sweep, state=state, problem=problem,
        typed=typed or {}, solved=solved,
        solutions=_solutions(opened, state, solved), **told,
    )  # fmt: skip


def _solutions(
    opened: OpenWorkbook, state: Sweeping | None, solved: Solved | None
) -> list[tuple[str, str]]:
    if not solved or not state or not state.outcome:
        return []
    look = Look(number_format(opened.calculation, state.outcome.asked.inputs[0].place).form)
    return [(repr(each), _said(opened, each, look)) for each in solved.inputs]


def _told(opened: OpenWorkbook, state: Sweeping) -> dict[str, Any]:
    """What the page tells of what came out."""
    outcome = state.outcome
    if outcome is None:
        return {}
    asked = outcome.asked
    two = len(asked.inputs) == 2
    columns = [cells.only_numbers() for cells in outcome.columns[:_MAX_COLUMNS]]
    patterns = [] if two else [pattern(each) for each in columns]

    def tell(place: Place, number: float) -> str:
        return _said(opened, number, number_format(opened.calculation, place))

    return {
        "asked": asked,
        "is_old": state.is_old(opened),
        "labels": asked.labels[:_MAX_COLUMNS],
        "patterns": patterns,
        "lines": [] if two else lines_of(outcome, tell),
        "maps": maps_of(outcome, tell) if two else [],
        "rows": _rows(opened, outcome, patterns),
        "count": asked.count,
        "places": [place_text(each) for each in asked.results],
        "ends": _ends(opened, asked),
    }


def _ends(opened: OpenWorkbook, asked: Asked) -> tuple[str, str]:
    """The smallest and the largest value of the first input, for a solution between them."""
    numbers = [each for each in asked.inputs[0].values.only_numbers() if each is not None]
    if not numbers:
        return "", ""
    look = number_format(opened.calculation, asked.inputs[0].place)
    return _said(opened, min(numbers), look), _said(opened, max(numbers), look)


def _rows(opened: OpenWorkbook, outcome: Outcome, patterns: list[Pattern]) -> list[Row]:
    asked = outcome.asked
    given = asked.given(0, MAX_ROWS)
    inputs = []
    for swept, cells in zip(asked.inputs, given, strict=True):
        look = number_format(opened.calculation, swept.place)
        inputs.append([_said(opened, value, look) for value in cells.values()])
    results: list[list[tuple[str, str, str]]] = []
    for number, place in enumerate(asked.results[:_MAX_COLUMNS]):
        look = number_format(opened.calculation, place)
        values = outcome.columns[number].taken(slice(0, MAX_ROWS)).values()
        told = patterns[number] if patterns else None
        results.append([
            (
                _said(opened, value, look),
                _said(opened, told.differences[at], look) if told else "",
                _said(opened, told.ratios[at], Look("number", 4)) if told else "",
            )
            for at, value in enumerate(values)
        ])  # fmt: skip
    chain = _chain(outcome)
    return [
        Row(
            [each[at] for each in inputs],
            [each[at] for each in results],
            pattern([column[at] for column in chain]).says if chain else "",
        )
        for at in range(min(asked.count, MAX_ROWS))
    ]


def _chain(outcome: Outcome) -> list[list[float | None]]:
    """The steps of a chain, if that is all that is seen."""
    seen = outcome.asked.seen
    if len(seen) > 1 or len(seen[0].places) == 1:
        return []
    return [cells.taken(slice(0, MAX_ROWS)).only_numbers() for cells in outcome.columns]


def _said(opened: OpenWorkbook, value: Value, look: Look) -> str:
    return shown_text(value, look, 14, opened.workbook.locale)
