"""How often somebody may try to sign in: counted by name, by address and by browser.

Whoever does not know the passphrase of a name is slowed down, wherever they ask from. A browser in
which somebody was signed in before is known by a cookie, and counted by itself: so the wrong tries
of strangers keep nobody out of an account of their own.
"""

from __future__ import annotations

from collections.abc import Sequence
from secrets import token_urlsafe

from itsdangerous import TimestampSigner
from starlette.requests import Request
from starlette.responses import Response

from dreieck.store import People, name_key
from dreieck.web.cookies import give, unsigned
from dreieck.web.gate import Tries, client_of

COOKIE = "dreieck_known"
MAX_AGE = 365 * 24 * 3600
"""So many seconds a browser is known in which somebody was signed in."""
_FROM_ONE_PLACE = 40
"""So many tries are free from one address: a whole class may sit behind it."""
_SIGN_UPS = 120
"""So many people may sign up from one address before it takes longer."""
_CODES = 10
"""So many wrong codes of groups."""


class SignInTries:
    """Tries to sign in and up, and to join a group."""

    def __init__(self) -> None:
        self.by_name = Tries()
        self.by_place = Tries(_FROM_ONE_PLACE)
        self.by_browser = Tries()
        self.sign_ups = Tries(_SIGN_UPS)
        self.codes = Tries(_CODES)

    def begin(self, request: Request, people: People, name: str) -> Attempt:
        """Count a try to sign in by a name."""
        browser = known_browser(request, people, name)
        if browser:
            return Attempt([(self.by_browser, browser)])
        place = client_of(request)
        return Attempt([(self.by_name, name_key(name)), (self.by_place, place)])


class Attempt:
    """One try, counted where it counts; ``pause`` is above 0 where it comes too early."""

    def __init__(self, counted: Sequence[tuple[Tries, str]]) -> None:
        self.pause = 0.0
        self._counted = list(counted)
        for number, (tries, who) in enumerate(self._counted):
            self.pause = tries.begin(who)
            if self.pause:
                for before, same in self._counted[:number]:
                    before.give_back(same)
                return

    def right(self) -> None:
        """It was right: the account begins anew, the address has its one try back."""
        (account, who), *others = self._counted
        account.forget(who)
        for tries, same in others:
            tries.give_back(same)


def _signer(people: People) -> TimestampSigner:
    return TimestampSigner(people.cookie_key, salt="known browser")


def known_browser(request: Request, people: People, name: str) -> str | None:
    """The mark of a browser in which who has a name was signed in before."""
    told = unsigned(_signer(people), request.cookies.get(COOKIE, ""), MAX_AGE) or ""
    number, _, mark = told.partition(".")
    return mark if number and number == str(people.number(name)) else None


def remember_browser(request: Request, answer: Response, people: People, person: int) -> None:
    """Let a browser be known in which somebody signs in."""
    mark = _signer(people).sign(f"{person}.{token_urlsafe(12)}").decode()
    give(request, answer, COOKIE, mark, MAX_AGE, path="/sign-in")
