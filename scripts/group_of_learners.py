"""A group with members who answered the first twelve drills, for a picture of it."""

from __future__ import annotations

import random
import re

from playwright.sync_api import Page

from dreieck.core.practice.catalogue import question
from dreieck.core.practice.question import CHOSEN, Question
from dreieck.core.practice.sets import FIRST_TWELVE

LEADER = "Ada Senn"
MEMBERS = ("Ben Aebi", "Cleo Graf", "Dario Marti", "Edda Roth", "Finn Lenz", "Gia Hauser")
_WRONG = 0.4


def lead_a_group(page: Page) -> None:
    """Make a group, let its members answer, and show it to its leader."""
    rng = random.Random(11)
    _sign_up(page, LEADER)
    page.request.post("/groups", form={"title": "Hut keepers, autumn course"})
    code = re.search(r'join-code">(\w+)', page.request.get("/groups/1").text())
    assert code is not None
    drills = {"title": FIRST_TWELVE.title, "drills": " ".join(FIRST_TWELVE.texts)}
    page.request.post("/groups/1/hand-out", form=drills)
    for name in MEMBERS:
        _sign_up(page, name)
        page.request.post("/groups/join", form={"code": code[1]})
        begun = page.request.post("/groups/1/handouts/1/begin").url.rpartition("/")[0]
        for place, each in enumerate(FIRST_TWELVE.codes, 1):
            page.request.post(f"{begun}/{place}", form=_answer(rng, question(each)))
    page.request.post("/sign-out")
    form = {"name": LEADER, "passphrase": _passphrase(LEADER)}
    page.request.post("/sign-in", form=form)
    page.goto("/groups/1")


def _sign_up(page: Page, name: str) -> None:
    form = {"name": name, "passphrase": _passphrase(name)}
    page.request.post("/sign-up", form=form)


def _passphrase(name: str) -> str:
    return f"four odd words of {name}"


def _answer(rng: random.Random, asked: Question) -> dict[str, str]:
    """An answer, right or wrong."""
    is_wrong, exercise = rng.random() < _WRONG, asked.exercise
    if asked.form in CHOSEN:
        return {"choice": str(rng.randrange(len(asked.choices)) if is_wrong else asked.right)}
    if asked.form == "reads":
        area = exercise.shape.references[exercise.number].area(asked.landing)
        assert area is not None
        return {"cell": (exercise.start if is_wrong else area.first).text}
    if asked.planted:
        first = asked.planted.first
        formula = exercise.shape.text(first)
        cell = exercise.start if is_wrong else first
        return {"cell": cell.text, "choice": str(asked.right), "formula": formula}
    if asked.form == "write":
        return {"formula": exercise.formula.replace("$", "" if is_wrong else "$")}
    picked = {}
    for number in exercise.shape.distinct:
        corners = exercise.shape.references[number].corners(exercise.start)
        for axis in ("column", "row"):
            ends = getattr(corners[0], axis), getattr(corners[-1], axis)
            held = {(False, False): "moves", (True, False): "first", (False, True): "last"}
            picked[f"lock-{number}-{axis}"] = held.get(ends, "stays")
    if is_wrong:
        picked[rng.choice(list(picked))] = rng.choice(("moves", "stays"))
    return picked
