"""Who signs in: names, and passphrases as Argon2 hashes."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from secrets import token_urlsafe
from threading import BoundedSemaphore
from unicodedata import normalize

from argon2 import PasswordHasher
from argon2.exceptions import Argon2Error, InvalidHashError
from sqlmodel import select

from dreieck.core.exceptions import DreieckError
from dreieck.store.database import Database
from dreieck.store.keys import key_for
from dreieck.store.lookalikes import looks_like
from dreieck.store.tables import PersonRow

MAX_NAME = 40
LEAST_PASSPHRASE = 10
MAX_PASSPHRASE = 200
_AT_ONCE = 2


class NameTaken(Exception):
    """Somebody is called so already."""


@dataclass(frozen=True)
class Person:
    """Somebody who signs in."""

    id: int
    name: str


class People:
    """The people of a data file."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._hasher = PasswordHasher()
        # A hash takes much memory and time on purpose.
        self._busy = BoundedSemaphore(_AT_ONCE)
        self._known: dict[int, Person] = {}

    @cached_property
    def cookie_key(self) -> str:
        """The key that signs the cookies of those who are signed in."""
        return key_for(self._database, "cookies")

    @cached_property
    def _nobody(self) -> str:
        """A hash to compare with where there is no such name, so that it takes as long."""
        return self._hasher.hash(token_urlsafe(16))

    def sign_up(self, name: str, passphrase: str) -> Person:
        """Make somebody known.

        Raises DreieckError where the name or the passphrase won't do, and NameTaken where somebody
        is called so already, or by a name that cannot be told from this one by looking.
        """
        name = checked_person(name)
        check_passphrase(name, passphrase)
        with self._busy:
            hashed = self._hasher.hash(passphrase)
        row = PersonRow(name=name, key=name_key(name), hash=hashed)
        with self._database.writing() as session:
            known = session.exec(select(PersonRow.name)).all()
            if any(looks_like(name, other) for other in known):
                raise NameTaken
            session.add(row)
            session.commit()
            return _person(row)

    def sign_in(self, name: str, passphrase: str) -> Person | None:
        """Who has this name and passphrase; None where nobody has."""
        key = name_key(name)
        with self._database.session() as session:
            row = session.exec(select(PersonRow).where(PersonRow.key == key)).first()
        hashed = row.hash if row else self._nobody
        try:
            with self._busy:
                self._hasher.verify(hashed, passphrase[:MAX_PASSPHRASE])
        except (Argon2Error, InvalidHashError):
            return None
        return _person(row) if row else None

    def number(self, name: str) -> int | None:
        """The number of who has a name."""
        with self._database.session() as session:
            key = name_key(name)
            return session.exec(select(PersonRow.id).where(PersonRow.key == key)).first()

    def fits(self, id: int, passphrase: str) -> bool:
        """Whether a passphrase is somebody's."""
        person = self.person(id)
        return person is not None and self.sign_in(person.name, passphrase) is not None

    def change(self, id: int, passphrase: str) -> Person:
        """Give somebody another passphrase.

        Raises KeyError where there is no such person, DreieckError for a weak one.
        """
        with self._database.session() as session:
            row = session.get(PersonRow, id)
            if row is None:
                raise KeyError(id)
            check_passphrase(row.name, passphrase)
            with self._busy:
                row.hash = self._hasher.hash(passphrase)
            session.commit()
            self._known[id] = _person(row)
            return self._known[id]

    def person(self, id: int) -> Person | None:
        """Somebody by number; asked with every request, so looked up once."""
        if id not in self._known:
            with self._database.session() as session:
                row = session.get(PersonRow, id)
            if row is None:
                return None
            self._known[id] = _person(row)
        return self._known[id]

    def forget(self, id: int) -> None:
        """Somebody is not there any more."""
        self._known.pop(id, None)

    def count(self) -> int:
        """How many there are."""
        with self._database.session() as session:
            return len(session.exec(select(PersonRow.id)).all())


def checked_person(name: str) -> str:
    """The name for somebody, trimmed. Raises DreieckError where it cannot be one."""
    name = " ".join(name.split())
    if not name or len(name) > MAX_NAME or not name.isprintable():
        raise DreieckError(f"A name has 1 to {MAX_NAME} characters that can be seen.")
    return name


def name_key(name: str) -> str:
    """A name as it is compared: without case, spaced anyhow, its letters put together anyhow."""
    return " ".join(normalize("NFKC", name).casefold().split())


def check_passphrase(name: str, passphrase: str) -> None:
    """Raise DreieckError where a passphrase is too short, too long or easily guessed."""
    if not LEAST_PASSPHRASE <= len(passphrase) <= MAX_PASSPHRASE:
        raise DreieckError(
            f"A passphrase has {LEAST_PASSPHRASE} to {MAX_PASSPHRASE} characters. A few words"
            " that do not belong together are easy to remember."
        )
    plain = passphrase.casefold()
    if plain == name.casefold() or len(set(plain)) < 4:
        raise DreieckError("This passphrase is guessed too easily. Choose a few words.")


def _person(row: PersonRow) -> Person:
    assert row.id is not None
    return Person(row.id, row.name)
