"""The page of practice: how far one is, what is due, kinds of drills, tests, sets."""

from __future__ import annotations

from datetime import UTC, datetime
from random import SystemRandom

from fastapi import APIRouter, HTTPException, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.practice import mastery
from dreieck.core.practice.catalogue import code_for, code_of_cause
from dreieck.core.practice.codes import KINDS, LEVELS, MAX_SEED, Code
from dreieck.core.practice.faults import cause_of
from dreieck.core.practice.sets import FIRST_TWELVE
from dreieck.core.practice.skills import SKILLS
from dreieck.web.answers import BesideWorkbook, ThePerson, ThePractised, page
from dreieck.web.navigation import Entry
from dreieck.web.pages.drill import of
from dreieck.web.pages.drill_sets import link

router = APIRouter(include_in_schema=False)
ENTRY = Entry(8, "practice", "Practice", "/practice?of={workbook}")
_CHANCE = SystemRandom()
_MOST_TAKINGS = 8


@router.get("/practice")
def practice(
    request: Request, person: ThePerson, practised: ThePractised, beside: BesideWorkbook
) -> Response:
    """How far one is, and where to go on."""
    known = practised.mastery(person)
    now = datetime.now(UTC)
    return page(
        request,
        "practice.html",
        beside=beside,
        tail=of(beside),
        skills=[(SKILLS[key], each, each.is_due(now)) for key, each in known.items()],
        due=mastery.due(known.values(), now),
        in_row=mastery.IN_ROW,
        kinds=KINDS,
        levels=LEVELS,
        takings=practised.takings(person, _MOST_TAKINGS),
        first=link(FIRST_TWELVE),
        seed=_CHANCE.randrange(10_000),
    )


@router.get("/practice/next")
def go_on(person: ThePerson, practised: ThePractised, beside: BesideWorkbook) -> Response:
    """The next drill: of what is due, or else of what one is least far with."""
    known = practised.mastery(person)
    code = mastery.next_code(_CHANCE, known, datetime.now(UTC))
    return RedirectResponse(f"/practice/drills/{code.text}{of(beside)}", 303)


@router.get("/practice/begin/{kind}/{level}")
def begin_kind(kind: str, level: int, beside: BesideWorkbook) -> Response:
    """A drill of a kind, by chance."""
    if kind not in KINDS or level not in LEVELS:
        raise HTTPException(404, "There are no drills of this kind.")
    code = Code(kind, level, _CHANCE.randrange(MAX_SEED))
    return RedirectResponse(f"/practice/drills/{code.text}{of(beside)}", 303)


@router.get("/practice/skills/{skill}")
def train(
    skill: str, person: ThePerson, practised: ThePractised, beside: BesideWorkbook
) -> Response:
    """A drill that trains a skill, at the level that one has reached."""
    known = next((each for key, each in practised.mastery(person).items() if key == skill), None)
    if known is None:
        raise HTTPException(404, "There is no such skill.")
    code = code_for(_CHANCE, known.skill, known.level)
    return RedirectResponse(f"/practice/drills/{code.text}{of(beside)}", 303)


@router.get("/practice/mistakes/{rule}")
def of_mistake(rule: str, beside: BesideWorkbook) -> Response:
    """A drill about the kind of mistake that a finding tells."""
    cause = cause_of(rule)
    code = code_of_cause(_CHANCE, cause) if cause else None
    if code is None:
        raise HTTPException(404, "There is no drill about this kind of finding.")
    return RedirectResponse(f"/practice/drills/{code.text}{of(beside)}", 303)
