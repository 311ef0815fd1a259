"""The page of keys: each shortcut can be given another key, or none."""

from __future__ import annotations

import re
from dataclasses import dataclass

from fastapi import APIRouter, Request
from sqlalchemy.exc import DatabaseError
from starlette.responses import RedirectResponse, Response

from dreieck.store.database import reason
from dreieck.web.answers import BesideWorkbook, TheForm, ThePerson, page
from dreieck.web.workbench.holding_keys import TheKeys, TheOwnKeys
from dreieck.web.workbench.keys import CHANGEABLE, KEYS, Key

router = APIRouter(include_in_schema=False)

_MODIFIERS = ("Ctrl", "Alt", "Shift")
_KEY = re.compile(r"F(?:[1-9]|1[0-2])|[A-Z0-9.,/]|Space")
_TAKEN = {
    *(f"Ctrl + {letter}" for letter in "CXVRTWNQLP"),
    *(f"Ctrl + Shift + {letter}" for letter in "TNWIJ"),
    "F5", "F11", "F12", "Ctrl + Enter", "Alt + Enter",
}  # fmt: skip


@dataclass(frozen=True)
class KeyLine:
    """A shortcut as the page shows it: the usual one, what is said now, what is wrong with it."""

    key: Key
    said: str
    problem: str = ""


def understood(typed: str) -> tuple[str, str]:
    """A shortcut in the way it is written, and what is wrong with it; no text is no key."""
    text = " ".join(typed.split())
    if not text:
        return "", ""
    *before, last = [part.strip() for part in text.split("+")]
    held = [part.capitalize() for part in before]
    key = last.capitalize() if len(last) > 1 else last.upper()
    if not _KEY.fullmatch(key) or not set(held) <= set(_MODIFIERS) or len(held) != len(set(held)):
        return text, "Say it like Alt + C, Ctrl + Shift + 7 or F8."
    said = " + ".join([*(each for each in _MODIFIERS if each in held), key])
    if said in _TAKEN:
        return said, "The browser, or the cells, need this one themselves."
    if not {"Ctrl", "Alt"} & set(held) and not re.fullmatch(r"F\d+", key):
        return said, "Ctrl or Alt has to be held, or the key types a character."
    return said, ""


def judged(typed: dict[str, str]) -> list[KeyLine]:
    """All shortcuts with the keys that are typed for them, and what collides."""
    found = {key.name: understood(typed.get(key.name, key.keys)) for key in CHANGEABLE}
    given = {key.name: _presses(key, found[key.name][0]) for key in CHANGEABLE}
    lines = []
    for key in CHANGEABLE:
        said, problem = found[key.name]
        if said == key.keys:
            problem = ""
        same = [
            other.does
            for other in CHANGEABLE
            if other is not key and set(given[other.name]) & set(given[key.name])
        ]
        if not problem and same:
            problem = f"Asks for this, too: {same[0]}."
        lines.append(KeyLine(key, said, problem))
    return lines


def _presses(key: Key, said: str) -> list[str]:
    """All that asks for something: where it has its usual key, the other one of it, too."""
    return [each for each in (said, key.also if said == key.keys else "") if each]


@router.get("/keys")
def keys(request: Request, beside: BesideWorkbook, held: TheKeys, told: str = "") -> Response:
    """All keys; those that stand for one thing each can be changed."""
    lines = judged({key.name: key.keys for key in held if key.name})
    notice = {"kept": "The keys are kept.", "usual": "The usual keys hold again."}.get(told, "")
    return _page(request, beside, lines, notice=notice)


@router.post("/keys")
def keep(request: Request, own: TheOwnKeys, person: ThePerson, form: TheForm) -> Response:
    """Keep the keys that are typed, if no two things have the same."""
    usual = "usual" in form
    typed = {key.name: str(form.get(key.name, key.keys))[:60] for key in CHANGEABLE}
    lines = judged({} if usual else typed)
    wrong = sum(bool(line.problem) for line in lines)
    if wrong:
        problem = f"Nothing is kept yet: {wrong} of these keys cannot be used like that."
        return _page(request, None, lines, problem=problem, status_code=422)
    changed = {line.key.name: line.said for line in lines if line.said != line.key.keys}
    try:
        own.keep(person, changed)
    except DatabaseError as error:
        problem = f"The keys could not be kept: {reason(error)}."
        return _page(request, None, lines, problem=problem, status_code=503)
    return RedirectResponse(f"/keys?told={'usual' if usual else 'kept'}", 303)


def _page(
    request: Request,
    beside: BesideWorkbook,
    lines: list[KeyLine],
    *,
    notice: str = "",
    problem: str = "",
    status_code: int = 200,
) -> Response:
    fixed = [key for key in KEYS if not key.name]
    return page(
        request, "keys.html", status_code=status_code, lines=lines, fixed=fixed, notice=notice,
        problem=problem, beside=beside,
    )  # fmt: skip
