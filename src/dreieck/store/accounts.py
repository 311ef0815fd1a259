"""Giving up an account: all that belongs to a person goes with it."""

from __future__ import annotations

from dataclasses import dataclass

from sqlmodel import SQLModel, col, delete, func, select

from dreieck.store.database import Database
from dreieck.store.library import Library
from dreieck.store.people import People
from dreieck.store.quota import kept_by
from dreieck.store.tables import (
    AnswerRow,
    GroupRow,
    HandedInRow,
    MasteryRow,
    MembershipRow,
    OwnKeyRow,
    PersonRow,
    TakingRow,
)

_OWNED: tuple[type[SQLModel], ...] = (
    AnswerRow, HandedInRow, MasteryRow, MembershipRow, OwnKeyRow, TakingRow,
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Belongings:
    """What somebody loses with their account."""

    workbooks: int
    answers: int
    groups: int
    """Groups that they lead: they end for all."""
    space: int
    """About how many bytes their workbooks take."""


class Accounts:
    """The accounts of a data file, as what they own."""

    def __init__(self, database: Database, library: Library, people: People) -> None:
        self._database = database
        self._library = library
        self._people = people

    def belongings(self, person: int) -> Belongings:
        """What belongs to somebody."""
        with self._database.session() as session:
            owned = ((AnswerRow, AnswerRow.person), (GroupRow, GroupRow.leader))
            answers, groups = (
                session.exec(select(func.count()).select_from(table).where(of == person)).one()
                for table, of in owned
            )
        kept = kept_by(self._database, person)
        return Belongings(kept.workbooks, answers, groups, kept.space)

    def delete(self, person: int) -> None:
        """Delete somebody with all that is theirs; they are signed out everywhere."""
        own = self._library.seen_by(person)
        for listed in own.listed():
            own.delete(listed.id)
        with self._database.writing() as session:
            for table in _OWNED:
                session.exec(delete(table).where(col(table.person) == person))  # type: ignore[attr-defined]  # each has one
            session.exec(delete(GroupRow).where(col(GroupRow.leader) == person))
            session.exec(delete(PersonRow).where(col(PersonRow.id) == person))
            session.commit()
        self._people.forget(person)
