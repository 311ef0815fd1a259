"""Which browsers are signed in: a token each, of which only a hash is kept."""

from __future__ import annotations

from hashlib import sha256
from secrets import token_urlsafe

from sqlmodel import col, delete, select

from dreieck.store.database import Database
from dreieck.store.tables import SessionRow

MAX_SESSIONS = 40
"""In so many browsers one can be signed in; the one signed in longest ago is out then."""


class Sessions:
    """The browsers that are signed in to a data file."""

    def __init__(self, database: Database) -> None:
        self._database = database
        self._known: dict[str, int] = {}

    def begin(self, person: int) -> str:
        """Sign a browser in; the token that it keeps."""
        token = token_urlsafe(24)
        of_person = select(SessionRow).where(SessionRow.person == person)
        with self._database.writing() as session:
            oldest_last = session.exec(of_person.order_by(col(SessionRow.id).desc())).all()
            for row in oldest_last[MAX_SESSIONS - 1 :]:
                session.delete(row)
                self._known.pop(row.hash, None)
            session.add(SessionRow(hash=_hash(token), person=person))
            session.commit()
        self._known[_hash(token)] = person
        return token

    def who(self, token: str) -> int | None:
        """Who is signed in with a token; asked with every request, so looked up once."""
        hashed = _hash(token)
        if hashed not in self._known:
            with self._database.session() as session:
                found = session.exec(select(SessionRow).where(SessionRow.hash == hashed)).first()
            if found is None:
                return None
            self._known[hashed] = found.person
        return self._known[hashed]

    def end(self, token: str) -> None:
        """Sign one browser out: its token is worth nothing any more."""
        with self._database.writing() as session:
            session.exec(delete(SessionRow).where(col(SessionRow.hash) == _hash(token)))
            session.commit()
        self._known.pop(_hash(token), None)

    def end_all(self, person: int) -> None:
        """Sign all browsers of a person out."""
        with self._database.writing() as session:
            session.exec(delete(SessionRow).where(col(SessionRow.person) == person))
            session.commit()
        self._known = {hashed: who for hashed, who in self._known.items() if who != person}


def _hash(token: str) -> str:
    return sha256(token.encode("utf-8", "replace")).hexdigest()
