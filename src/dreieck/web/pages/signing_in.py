"""Signing in and up, and one's account, where several people use one server."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import APIRouter, Form, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.exceptions import DreieckError
from dreieck.store import People, Person, name_key
from dreieck.web.answers import ThePeople, ThePerson, page
from dreieck.web.gate import SignInTries, wait_said
from dreieck.web.signed_in import COOKIE, MAX_AGE, cookie_of

router = APIRouter(include_in_schema=False)
_LOCAL = re.compile(r"/([^/\\\s][^\s]{0,1000})?")

Name = Annotated[str, Form(max_length=200)]
Passphrase = Annotated[str, Form(max_length=1_000)]
To = Annotated[str, Form(max_length=1_100)]


def _tries(request: Request) -> SignInTries:
    tries: SignInTries = request.app.state.sign_in_tries
    return tries


def _place_of(request: Request) -> str:
    return request.client.host if request.client else ""


@router.get("/sign-in")
def ask(request: Request, people: ThePeople, to: str = "/") -> Response:
    """The page to sign in or up."""
    return _page(request, to=to)


def _page(
    request: Request, *, to: str = "/", problem: str = "", name: str = "", status: int = 200
) -> Response:
    return page(
        request, "sign_in.html", to=_place(to), problem=problem, typed=name, status_code=status
    )


def _place(to: str) -> str:
    """Where to go on: an address of this server."""
    return to if _LOCAL.fullmatch(to) else "/"


@router.post("/sign-in")
def sign_in(
    request: Request,
    people: ThePeople,
    name: Name = "",
    passphrase: Passphrase = "",
    to: To = "/",
) -> Response:
    """Sign in; after a few wrong tries one has to wait before the next."""
    tries = _tries(request)
    asked_by = {tries.by_name: name_key(name), tries.by_place: _place_of(request)}
    if pause := max(each.pause(who) for each, who in asked_by.items()):
        return _page(request, to=to, problem=wait_said(pause), name=name, status=429)
    person = people.sign_in(name, passphrase)
    for each, who in asked_by.items():
        (each.right if person else each.wrong)(who)
    if person is None:
        said = "This name and passphrase do not belong together."
        return _page(request, to=to, problem=said, name=name, status=401)
    return _signed_in(request, people, person, to)


@router.post("/sign-up")
def sign_up(
    request: Request,
    people: ThePeople,
    name: Name = "",
    passphrase: Passphrase = "",
    to: To = "/",
) -> Response:
    """Make oneself known. The first one takes over what was there before."""
    try:
        is_first = people.count() == 0
        person = people.sign_up(name, passphrase)
    except DreieckError as refusal:
        return _page(request, to=to, problem=str(refusal), name=name, status=422)
    if is_first:
        request.app.state.library.give_to(person.id)
    return _signed_in(request, people, person, to)


def _signed_in(request: Request, people: People, person: Person, to: str) -> Response:
    answer = RedirectResponse(_place(to), 303)
    answer.set_cookie(
        COOKIE, cookie_of(people, person), max_age=MAX_AGE, httponly=True, samesite="lax",
        secure=request.url.scheme == "https",
    )  # fmt: skip
    return answer


@router.get("/account")
def account(request: Request, people: ThePeople) -> Response:
    """One's account."""
    return page(request, "account.html", problem="")


@router.post("/account/passphrase")
def change(
    request: Request,
    people: ThePeople,
    number: ThePerson,
    old: Passphrase = "",
    passphrase: Passphrase = "",
) -> Response:
    """Take another passphrase; all other browsers are signed out."""
    person = people.person(number)
    assert person is not None  # nobody comes here who is not signed in
    problem = ""
    tries = _tries(request).by_name
    if pause := tries.pause(name_key(person.name)):
        problem = wait_said(pause)
    elif people.sign_in(person.name, old) is None:
        tries.wrong(name_key(person.name))
        problem = "The old passphrase is not right."
    if not problem:
        try:
            return _signed_in(request, people, people.change(number, passphrase), "/account")
        except DreieckError as refusal:
            problem = str(refusal)
    return page(request, "account.html", problem=problem, status_code=422)


@router.post("/sign-out")
def sign_out(people: ThePeople) -> Response:
    """Sign this browser out."""
    answer = RedirectResponse("/sign-in", 303)
    answer.delete_cookie(COOKIE)
    return answer
