"""Groups: made and joined; what is handed out, who handed in what, which mistakes are common."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Annotated, Any
from urllib.parse import parse_qs, urlsplit

from fastapi import APIRouter, Form, HTTPException, Query, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.catalogue import question
from dreieck.core.practice.codes import KINDS
from dreieck.core.practice.judging import MISTAKES
from dreieck.core.practice.sets import DrillSet
from dreieck.store import Group, Groups, Handout, Practised, Taking
from dreieck.web.answers import (
    RowNumber,
    TheGroups,
    TheLibrary,
    ThePeople,
    ThePerson,
    ThePractised,
    page,
)
from dreieck.web.gate import wait_said
from dreieck.web.pages.drill_sets import set_of
from dreieck.web.pages.printing import Asked
from dreieck.web.pages.sharing import Shared, everybodys, read_page
from dreieck.web.practice.mistaken import Mistaken, drawn_findings, findings_of, mistaken

router = APIRouter(include_in_schema=False)
Text = Annotated[str, Form(max_length=5_000)]
Number = Annotated[int, Form(ge=0, lt=2**63)]


def _not_there() -> HTTPException:
    return HTTPException(404, "There is no such group or handout among yours.")


@contextmanager
def _theirs() -> Iterator[None]:
    """What is not theirs is not there."""
    try:
        yield
    except KeyError:
        raise _not_there() from None


def _group(groups: Groups, person: int, id: int, *, leads: bool = False) -> Group:
    with _theirs():
        return groups.led(person, id) if leads else groups.group(person, id)


def _handout(group: Group, id: int) -> Handout:
    with _theirs():
        return group.handout(id)


@router.get("/groups")
def mine(request: Request, person: ThePerson, groups: TheGroups) -> Response:
    """The groups that one leads or is in."""
    return _mine(request, person, groups)


def _mine(
    request: Request, person: int, groups: Groups, problem: str = "", status: int = 200
) -> Response:
    return page(
        request, "groups.html", groups=groups.of(person), problem=problem, status_code=status
    )


@router.post("/groups")
def make(request: Request, person: ThePerson, groups: TheGroups, title: Text = "") -> Response:
    """Make a group that one leads."""
    try:
        return RedirectResponse(f"/groups/{groups.make(person, title)}", 303)
    except DreieckError as refusal:
        return _mine(request, person, groups, str(refusal), 422)


@router.post("/groups/join")
def join(request: Request, person: ThePerson, groups: TheGroups, code: Text = "") -> Response:
    """Join the group that has a code."""
    tries, who = request.app.state.tries.codes, str(person)
    if pause := tries.begin(who):
        return _mine(request, person, groups, wait_said(pause), 429)
    try:
        joined = groups.join(person, code)
        tries.give_back(who)
        return RedirectResponse(f"/groups/{joined}", 303)
    except DreieckError as refusal:
        return _mine(request, person, groups, str(refusal), 422)


@router.get("/groups/{group_id}")
def show(
    request: Request,
    group_id: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    practised: ThePractised,
    library: TheLibrary,
) -> Response:
    """A group: as its leader sees it, or one of its members."""
    return _show(request, _group(groups, person, group_id), person, groups, practised, library)


def _show(
    request: Request,
    group: Group,
    person: int,
    groups: Groups,
    practised: Practised,
    library: TheLibrary,
    problem: str = "",
) -> Response:
    lines = [(each, _done(each, groups, practised)) for each in group.handouts]
    own = {each.id: done.get(person) for each, done in lines}
    return page(
        request, "group.html", group=group, lines=lines, own=own, problem=problem,
        workbooks=library.listed() if group.leads else [],
        status_code=422 if problem else 200,
    )  # fmt: skip


def _done(handout: Handout, groups: Groups, practised: Practised) -> dict[int, Any]:
    """What each member did with something handed out, in words."""
    if handout.drills:
        count = len(handout.drills.codes)
        return {
            each.person: (
                f"{each.right} of {count} right" if each.finished
                else f"{len(each.answers)} of {count} answered",
                bool(each.finished),
            )
            for each in practised.handed_in(handout.id)
        }  # fmt: skip
    copies = groups.copied(handout.id)
    return {
        each.person: ("handed in" if each.is_done else "at work", each.is_done)
        for each in copies.values()
    }


@router.post("/groups/{group_id}/hand-out")
def hand_out(
    request: Request,
    group_id: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    practised: ThePractised,
    library: TheLibrary,
    drills: Text = "",
    title: Text = "",
    workbook: Number = 0,
) -> Response:
    """Hand out a set, by its link or by codes, or one of one's workbooks."""
    group = _group(groups, person, group_id, leads=True)
    try:
        if workbook:
            opened = library.open(workbook)
            groups.hand_out(person, group_id, workbook, opened.workbook.name)
        else:
            groups.hand_out(person, group_id, _told_set(drills, title), "")
    except KeyError:
        raise HTTPException(404, "There is no such workbook among yours.") from None
    except (DreieckError, HTTPException) as refusal:
        said = refusal.detail if isinstance(refusal, HTTPException) else str(refusal)
        return _show(request, group, person, groups, practised, library, str(said))
    return RedirectResponse(f"/groups/{group_id}", 303)


def _told_set(told: str, title: str) -> DrillSet:
    """The set that a link or codes tell."""
    asked = parse_qs(urlsplit(told.strip()).query)
    if "drills" in asked:
        titled = title or asked.get("title", [""])[0]
        return set_of(titled, asked["drills"][0], int("test" in asked))
    return set_of(title, told, 0)


@router.post("/groups/{group_id}/members/{member}/remove")
def remove(
    group_id: RowNumber, member: RowNumber, person: ThePerson, groups: TheGroups
) -> Response:
    """Take somebody out of a group; whoever is in it may leave."""
    group = _group(groups, person, group_id)
    if not group.leads and member != person:
        raise _not_there()
    groups.leave(member, group_id)
    return RedirectResponse(f"/groups/{group_id}" if group.leads else "/groups", 303)


@router.post("/groups/{group_id}/delete")
def delete(group_id: RowNumber, person: ThePerson, groups: TheGroups) -> Response:
    """Delete a group."""
    with _theirs():
        groups.delete(person, group_id)
    return RedirectResponse("/groups", 303)


@router.post("/groups/{group_id}/handouts/{handout_id}/take-back")
def take_back(
    group_id: RowNumber, handout_id: RowNumber, person: ThePerson, groups: TheGroups
) -> Response:
    """Take back what was handed out."""
    with _theirs():
        groups.take_back(person, group_id, handout_id)
    return RedirectResponse(f"/groups/{group_id}", 303)


@router.post("/groups/{group_id}/handouts/{handout_id}/begin")
def begin(
    request: Request,
    group_id: RowNumber,
    handout_id: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    practised: ThePractised,
    library: TheLibrary,
) -> Response:
    """Begin a set that was handed out, or take a copy of a workbook; or go on with it."""
    handout = _handout(_group(groups, person, group_id), handout_id)
    if handout.drills:
        begun = practised.begun(person, handout_id)
        if begun is not None:
            return RedirectResponse(f"/practice/sets/{begun}/result", 303)
        made = practised.begin(person, handout.drills, handout_id)
        return RedirectResponse(f"/practice/sets/{made}/1", 303)
    known = groups.copied(handout_id).get(person)
    if known is None:
        if not handout.workbook:
            raise HTTPException(404, "The workbook that was handed out has been deleted.")
        opened = everybodys(request).open(handout.workbook)
        made = library.copy_of(opened, handout.title)
        groups.keep_copy(handout_id, person, made)
        return RedirectResponse(f"/workbooks/{made}", 303)
    return RedirectResponse(f"/workbooks/{known.workbook}", 303)


@router.post("/groups/{group_id}/handouts/{handout_id}/hand-in")
def hand_in(
    group_id: RowNumber,
    handout_id: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    done: Annotated[str, Form(max_length=10)] = "yes",
) -> Response:
    """Hand one's copy in, or take it back."""
    _handout(_group(groups, person, group_id), handout_id)
    try:
        groups.hand_in(handout_id, person, is_done=done == "yes")
    except KeyError:
        raise HTTPException(404, "Take a copy first, then hand it in.") from None
    return RedirectResponse(f"/groups/{group_id}", 303)


@router.get("/groups/{group_id}/handouts/{handout_id}")
def handout(
    request: Request,
    group_id: RowNumber,
    handout_id: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    practised: ThePractised,
) -> Response:
    """Who handed in what, and which kinds of mistake are common."""
    group = _group(groups, person, group_id, leads=True)
    found = _handout(group, handout_id)
    members = {each.id: each.name for each in group.members}
    if found.drills is None:
        copies = [each for each in groups.copied(handout_id).values() if each.person in members]
        done = [each for each in copies if each.is_done]
        told = findings_of([everybodys(request).open(each.workbook) for each in done])
        origin = everybodys(request).open(found.workbook) if found.workbook else None
        return page(
            request, "handed_workbook.html", group=group, handout=found, members=members,
            copies={each.person: each for each in copies}, found=told,
            drawn=drawn_findings(origin, told) if origin else [],
        )  # fmt: skip
    takings = [each for each in practised.handed_in(handout_id) if each.person in members]
    return page(
        request, "handed_set.html", group=group, handout=found, members=members,
        takings={each.person: each for each in takings}, drills=_drills(found.drills, takings),
        common=_common(takings), mistakes=MISTAKES,
    )  # fmt: skip


def _common(takings: list[Taking]) -> list[tuple[str, int]]:
    """The mistakes of all answers, the commonest first."""
    counted = Counter(
        each.mistake for taking in takings for each in taking.answers if each.mistake in MISTAKES
    )
    return [(MISTAKES[mistake], count) for mistake, count in counted.most_common()]


def _drills(drills: DrillSet, takings: list[Taking]) -> list[tuple[int, str, str, int, int]]:
    """The drills of a set: place, code, kind, how many answered, how many rightly."""
    found = []
    for place, code in enumerate(drills.codes, 1):
        answers = [each for taking in takings if (each := taking.answer(code.text))]
        right = sum(each.is_right for each in answers)
        kind = f"{KINDS[code.kind][0]}, level {code.level}"
        found.append((place, code.text, kind, len(answers), right))
    return found


@router.get("/groups/{group_id}/handouts/{handout_id}/drills/{place}")
def drill(
    request: Request,
    group_id: RowNumber,
    handout_id: RowNumber,
    place: int,
    person: ThePerson,
    groups: TheGroups,
    practised: ThePractised,
) -> Response:
    """The answers of a group to one drill, drawn over its table."""
    group = _group(groups, person, group_id, leads=True)
    found = _handout(group, handout_id)
    if found.drills is None or not 1 <= place <= len(found.drills.codes):
        raise _not_there()
    code = found.drills.codes[place - 1]
    inside = {each.id for each in group.members}
    answers = [
        each
        for taking in practised.handed_in(handout_id)
        if taking.person in inside and (each := taking.answer(code.text))
    ]
    told: Mistaken = mistaken(question(code), answers)
    return page(
        request, "mistaken.html", group=group, handout=found, place=place, code=code.text,
        told=told, grids=told.grids, mistakes=MISTAKES,
    )  # fmt: skip


@router.get("/groups/{group_id}/handouts/{handout_id}/of/{member}")
def read_copy(
    request: Request,
    group_id: RowNumber,
    handout_id: RowNumber,
    member: RowNumber,
    person: ThePerson,
    groups: TheGroups,
    people: ThePeople,
    asked: Annotated[Asked, Query()],
    sheet: Annotated[int, Query(ge=0, lt=2**63)] = 0,
) -> Response:
    """A copy that a member handed in, to read."""
    group = _group(groups, person, group_id, leads=True)
    _handout(group, handout_id)
    copy = groups.copied(handout_id).get(member)
    name = next((each.name for each in group.members if each.id == member), None)
    if copy is None or not copy.is_done or name is None:
        raise _not_there()
    opened = everybodys(request).open(copy.workbook)
    back = f"/groups/{group_id}/handouts/{handout_id}"
    shown = Shared(f"handed in by {name}", opened.workbook.sheets, back=back)
    return read_page(request, opened, asked, sheet, shown)
