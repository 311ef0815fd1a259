"""Sets of drills: one link, one file; taken drill by drill, with a result at the end."""

from __future__ import annotations

from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Form, HTTPException, Query, Request, UploadFile
from starlette.responses import RedirectResponse, Response

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.catalogue import again, question, skill_of
from dreieck.core.practice.codes import KINDS, Code
from dreieck.core.practice.judging import MISTAKES, Verdict, judge
from dreieck.core.practice.question import Question
from dreieck.core.practice.sets import AFTER, BEFORE, DrillSet, before_and_after, drawn_set
from dreieck.core.practice.skills import SKILLS
from dreieck.files.drills import (
    MAX_BYTES,
    AnswerFile,
    ResultFile,
    read_result,
    read_set,
    set_text,
    signed,
)
from dreieck.store import Practised, Taking
from dreieck.web.answers import RowNumber, TheForm, ThePerson, ThePractised, page, signed_in
from dreieck.web.practice.drill import Answer, Where, answer_page, drill_page

router = APIRouter(include_in_schema=False)

Title = Annotated[str, Query(max_length=200)]
Codes = Annotated[str, Query(max_length=4_000)]


def link(drills: DrillSet) -> str:
    """The address of a set: all of it is in there."""
    asked: dict[str, str] = {"title": drills.title, "drills": ",".join(drills.texts)}
    if drills.is_test:
        asked["test"] = "1"
    return "/practice/set?" + urlencode(asked, safe=",")


def set_of(title: str, drills: str, test: int) -> DrillSet:
    """The set that a title and codes tell, set apart by commas or blanks."""
    try:
        codes = drills.replace(",", " ").split()
        return DrillSet.of(title, codes, is_test=bool(test))
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None


def described(drills: DrillSet) -> list[tuple[str, str, str]]:
    """The drills of a set: code, kind and level, skill."""
    return [
        (
            code.text,
            f"{KINDS[code.kind][0]}, level {code.level}",
            SKILLS[skill_of(code)].name,
        )
        for code in drills.codes
    ]


@router.get("/practice/set")
def show_set(request: Request, title: Title = "", drills: Codes = "", test: int = 0) -> Response:
    """A set, before it is begun."""
    found = set_of(title, drills, test)
    return page(request, "drill_set.html", drills=found, lines=described(found), link=link(found))


@router.get("/practice/set/file")
def set_file(title: Title = "", drills: Codes = "", test: int = 0) -> Response:
    """A set as a file."""
    return _download(set_text(set_of(title, drills, test)), "drills.json")


@router.get("/practice/set/drawn")
def draw_set(
    kinds: Annotated[list[str], Query(max_length=20)],
    level: Annotated[int, Query(ge=1, le=3)] = 2,
    count: Annotated[int, Query(ge=1, le=60)] = 12,
    seed: Annotated[int, Query(ge=0, le=999_999_999)] = 1,
) -> Response:
    """A set made by a seed: the same seed gives the same set."""
    try:
        made = drawn_set(seed, [kind for kind in kinds if kind in KINDS], level, count)
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None
    return RedirectResponse(link(made), 303)


@router.post("/practice/set/open")
def open_set(request: Request, file: UploadFile) -> Response:
    """A set from a file."""
    try:
        drills = read_set(file.file.read(MAX_BYTES + 1))
    except DreieckError as error:
        raise HTTPException(422, str(error)) from None
    return RedirectResponse(link(drills), 303)


@router.post("/practice/sets")
def begin(
    person: ThePerson,
    practised: ThePractised,
    title: Annotated[str, Form(max_length=200)],
    drills: Annotated[str, Form(max_length=4_000)],
    test: Annotated[int, Form()] = 0,
) -> Response:
    """Begin a set."""
    made = practised.begin(person, set_of(title, drills, test))
    return RedirectResponse(f"/practice/sets/{made}/1", 303)


@router.get("/practice/test/{seed}/{which}")
def test_of_ten(seed: int, which: str) -> Response:
    """The test of ten before, or the one after: the same questions with other numbers."""
    if which not in ("before", "after"):
        raise HTTPException(404, "There is a test before and one after.")
    before, after = before_and_after(seed)
    return RedirectResponse(link(before if which == "before" else after), 303)


def _taken(practised: Practised, person: int, id: int) -> Taking:
    try:
        return practised.taking(person, id)
    except KeyError:
        raise HTTPException(404, "There is no such set among yours.") from None


def _placed(taking: Taking, place: int) -> tuple[Code, Question]:
    if not 1 <= place <= len(taking.drills.codes):
        raise HTTPException(404, f"This set has {len(taking.drills.codes)} drills.")
    code = taking.drills.codes[place - 1]
    return code, question(code)


def _onward(taking: Taking) -> str:
    """Where the first drill without an answer is, or the result."""
    left = taking.next
    return f"/practice/sets/{taking.id}/{'result' if left is None else left + 1}"


def _where(taking: Taking, place: int, code: Code) -> Where:
    count, home = len(taking.drills.codes), f"/practice/sets/{taking.id}"
    left = [n for n, text in enumerate(taking.drills.texts, 1) if not taking.answer(text)]
    onward = next((n for n in left if n > place), next((n for n in left if n != place), None))
    return Where(
        f"{home}/{place}", f"{taking.drills.title}, {place} of {count}",
        f"{home}/{onward or 'result'}", "Next" if onward else "The result",
        again="" if taking.drills.is_test else f"/practice/drills/{again(code).text}",
        code=code.text, is_test=taking.drills.is_test and not taking.finished,
        back=f"{home}/result", back_says="All of the set",
    )  # fmt: skip


@router.get("/practice/sets/{taking_id}/result")
def result(
    request: Request, taking_id: RowNumber, person: ThePerson, practised: ThePractised
) -> Response:
    """What was answered to a set: to be printed, or kept as a file."""
    taking = _taken(practised, person, taking_id)
    return page(request, "drill_result.html", who=_name(request), **_result(practised, taking))


def _name(request: Request) -> str:
    """The name of who is signed in, where people are."""
    person = signed_in(request)
    return person.name if person else ""


def _result(practised: Practised, taking: Taking) -> dict[str, Any]:
    hidden = taking.drills.is_test and not taking.finished
    lines = [
        (n, code, kind, skill, None if hidden else taking.answer(code))
        for n, (code, kind, skill) in enumerate(described(taking.drills), 1)
    ]
    earlier = next(
        (
            other
            for other in practised.takings(taking.person)
            if other.finished
            and other.id < taking.id
            and [again(code) for code in other.drills.codes] == list(taking.drills.codes)
        ),
        None,
    )
    is_before = taking.finished and taking.drills.title == BEFORE
    following = DrillSet(AFTER, tuple(again(code) for code in taking.drills.codes), True)
    return {
        "taking": taking, "lines": lines, "hidden": hidden, "earlier": earlier,
        "mistakes": MISTAKES, "onward": _onward(taking),
        "after": link(following) if is_before else "",
    }  # fmt: skip


@router.get("/practice/sets/{taking_id}/result.json")
def result_file(
    request: Request,
    taking_id: RowNumber,
    person: ThePerson,
    practised: ThePractised,
    who: Annotated[str, Query(max_length=80)] = "",
) -> Response:
    """The result as a file, signed, so that a change to it is seen."""
    taking = _taken(practised, person, taking_id)
    if not taking.finished:
        raise HTTPException(409, "Answer all of the set first; then there is a result.")
    answers = [
        AnswerFile(
            drill=each.code, right=each.is_right, hints=each.hints, mistake=each.mistake,
            choice=each.given.choice, cell=each.given.cell, formula=each.given.formula, at=each.at,
        )
        for each in taking.answers
    ]  # fmt: skip
    held = ResultFile(
        who=_name(request) or who,
        title=taking.drills.title,
        test=taking.drills.is_test,
        begun=taking.begun,
        finished=taking.finished,
        answers=answers,
    )
    return _download(signed(held, practised.signing_key()), "drill-results.json")


@router.get("/practice/results")
def ask_result(request: Request) -> Response:
    """Where a result that was brought is looked at."""
    return page(request, "drill_check.html", result=None, is_genuine=False, problem="")


@router.post("/practice/results")
def check_result(request: Request, file: UploadFile, practised: ThePractised) -> Response:
    """Whether a result is as it was signed, and what it says."""
    try:
        data = file.file.read(MAX_BYTES + 1)
        found, is_genuine = read_result(data, practised.signing_key())
    except DreieckError as error:
        return page(
            request, "drill_check.html", result=None, is_genuine=False, problem=str(error),
            status_code=422,
        )  # fmt: skip
    return page(
        request, "drill_check.html", result=found, is_genuine=is_genuine, problem="",
        mistakes=MISTAKES,
    )  # fmt: skip


@router.get("/practice/sets/{taking_id}/{place}")
def drill_in_set(
    request: Request, taking_id: RowNumber, place: int, person: ThePerson, practised: ThePractised
) -> Response:
    """A drill of a set that was begun: to be answered, or with what was answered."""
    taking = _taken(practised, person, taking_id)
    code, found = _placed(taking, place)
    where, known = _where(taking, place, code), taking.answer(code.text)
    if known is None:
        return drill_page(request, found, where)
    if where.is_test:
        return RedirectResponse(_onward(taking), 303)
    answer = Answer(known.given, known.hints)
    return drill_page(request, found, where, answer, judge(found, known.given))


@router.post("/practice/sets/{taking_id}/{place}")
def answer_in_set(
    request: Request,
    taking_id: RowNumber,
    place: int,
    form: TheForm,
    person: ThePerson,
    practised: ThePractised,
) -> Response:
    """An answer to a drill of a set; only the first one counts."""
    taking = _taken(practised, person, taking_id)
    code, found = _placed(taking, place)
    where = _where(taking, place, code)

    def keep(verdict: Verdict, answer: Answer) -> Response:
        hints = 0 if where.is_test else answer.hints
        practised.record(person, code.text, found.skill, verdict, answer.given, hints, taking.id)
        here = f"/practice/sets/{taking.id}/{place}"
        onward = _onward(_taken(practised, person, taking_id)) if where.is_test else here
        return RedirectResponse(onward, 303)

    return answer_page(request, found, where, form, keep)


def _download(text: str, name: str) -> Response:
    return Response(
        text, media_type="application/json",
        headers={"content-disposition": f'attachment; filename="{name}"'},
    )  # fmt: skip
