"""Signing in and up, and one's account, where several people use one server."""

from __future__ import annotations

import re
from typing import Annotated

from fastapi import APIRouter, Depends, Form, Request
from starlette.responses import RedirectResponse, Response

from dreieck.core.exceptions import DreieckError
from dreieck.store import Accounts, NameTaken, People, Person, Sessions
from dreieck.store.people import check_passphrase, checked_person
from dreieck.store.quota import MAX_SPACE, MAX_WORKBOOKS, Kept
from dreieck.web.answers import ThePeople, ThePerson, page
from dreieck.web.cookies import give
from dreieck.web.gate import client_of, wait_said
from dreieck.web.sign_in_tries import SignInTries, remember_browser
from dreieck.web.signed_in import COOKIE, MAX_AGE, cookie_of, token_in

router = APIRouter(include_in_schema=False)
_NOT_TOGETHER = (
    "This name and passphrase do not belong together. If you are new here, choose another name."
)
_LOCAL = re.compile(r"/([^/\\\s][^\s]{0,1000})?")

Name = Annotated[str, Form(max_length=200)]
Passphrase = Annotated[str, Form(max_length=1_000)]
To = Annotated[str, Form(max_length=1_100)]


def _tries(request: Request) -> SignInTries:
    tries: SignInTries = request.app.state.tries
    return tries


def _sessions(request: Request) -> Sessions:
    sessions: Sessions = request.app.state.sessions
    return sessions


def _accounts(request: Request, people: ThePeople) -> Accounts:
    return Accounts(request.app.state.database, request.app.state.library, people)


TheAccounts = Annotated[Accounts, Depends(_accounts)]


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
    return _tried(request, people, name, passphrase, to)


def _tried(request: Request, people: People, name: str, passphrase: str, to: str) -> Response:
    attempt = _tries(request).begin(request, people, name)
    if attempt.pause:
        return _page(request, to=to, problem=wait_said(attempt.pause), name=name, status=429)
    person = people.sign_in(name, passphrase)
    if person is None:
        return _page(request, to=to, problem=_NOT_TOGETHER, name=name, status=401)
    attempt.right()
    return _signed_in(request, people, person, to)


@router.post("/sign-up")
def sign_up(
    request: Request,
    people: ThePeople,
    name: Name = "",
    passphrase: Passphrase = "",
    to: To = "/",
) -> Response:
    """Make oneself known. The first one takes over what was there before.

    Where somebody has the name already it is the same as signing in, so that asking tells no more.
    """
    try:
        checked_person(name)
        check_passphrase(name, passphrase)
    except DreieckError as refusal:
        return _page(request, to=to, problem=str(refusal), name=name, status=422)
    if pause := _tries(request).sign_ups.begin(client_of(request)):
        return _page(request, to=to, problem=wait_said(pause), name=name, status=429)
    is_first = people.count() == 0
    try:
        person = people.sign_up(name, passphrase)
    except NameTaken:
        return _tried(request, people, name, passphrase, to)
    if is_first:
        request.app.state.library.give_to(person.id)
    return _signed_in(request, people, person, to)


def _signed_in(request: Request, people: People, person: Person, to: str) -> Response:
    answer = RedirectResponse(_place(to), 303)
    token = _sessions(request).begin(person.id)
    give(request, answer, COOKIE, cookie_of(people, token), MAX_AGE)
    remember_browser(request, answer, people, person.id)
    return answer


@router.get("/account")
def account(request: Request, accounts: TheAccounts, number: ThePerson) -> Response:
    """One's account."""
    return _account(request, accounts, number)


def _account(
    request: Request, accounts: Accounts, number: int, problem: str = "", status: int = 200
) -> Response:
    owned, most = accounts.belongings(number), Kept(MAX_WORKBOOKS, MAX_SPACE)
    return page(
        request, "account.html", problem=problem, owned=owned, most=most, status_code=status
    )


def _refused(request: Request, people: People, number: int, passphrase: str) -> str:
    """Why a passphrase does not open one's own account; empty if it does."""
    tries, own = _tries(request).by_browser, f"account {number}"
    if pause := tries.begin(own):
        return wait_said(pause)
    if not people.fits(number, passphrase):
        return "The passphrase is not right."
    tries.forget(own)
    return ""


@router.post("/account/passphrase")
def change(
    request: Request,
    people: ThePeople,
    accounts: TheAccounts,
    number: ThePerson,
    old: Passphrase = "",
    passphrase: Passphrase = "",
) -> Response:
    """Take another passphrase; all other browsers are signed out."""
    problem = _refused(request, people, number, old)
    if not problem:
        try:
            person = people.change(number, passphrase)
        except DreieckError as refusal:
            problem = str(refusal)
        else:
            _sessions(request).end_all(number)
            return _signed_in(request, people, person, "/account")
    return _account(request, accounts, number, problem, 422)


@router.post("/account/delete")
def delete(
    request: Request,
    people: ThePeople,
    accounts: TheAccounts,
    number: ThePerson,
    passphrase: Passphrase = "",
) -> Response:
    """Delete one's account with all that is in it."""
    if problem := _refused(request, people, number, passphrase):
        return _account(request, accounts, number, problem, 422)
    _sessions(request).end_all(number)
    accounts.delete(number)
    answer = _page(request, problem="Your account is deleted, with all that was in it.")
    answer.delete_cookie(COOKIE)
    return answer


@router.post("/sign-out")
def sign_out(request: Request, people: ThePeople) -> Response:
    """Sign this browser out: what it kept is worth nothing any more."""
    if token := token_in(people, request.cookies.get(COOKIE, "")):
        _sessions(request).end(token)
    answer = RedirectResponse("/sign-in", 303)
    answer.delete_cookie(COOKIE)
    return answer
