"""Groups: who learns together, what is handed out, what is handed in; links that share."""

from __future__ import annotations

from dataclasses import dataclass
from secrets import choice, token_urlsafe

from sqlmodel import Session, col, select

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.sets import DrillSet
from dreieck.store.database import Database
from dreieck.store.tables import (
    GroupRow,
    HandedInRow,
    HandoutRow,
    MembershipRow,
    PersonRow,
    ShareRow,
    WorkbookRow,
    now,
)

MAX_TITLE = 80
MAX_MEMBERS = 300
MAX_GROUPS = 50
_LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
"""Characters of a join code: none that could be taken for another one."""
_LENGTH = 10


@dataclass(frozen=True)
class Member:
    """Somebody in a group."""

    id: int
    name: str


@dataclass(frozen=True)
class Handout:
    """Something that a group is to do: a set of drills, or a workbook."""

    id: int
    group: int
    title: str
    drills: DrillSet | None
    workbook: int
    at: str


@dataclass(frozen=True)
class Group:
    """A group as one of its people sees it; the join code is the leader's to give."""

    id: int
    title: str
    code: str
    leader: Member
    members: tuple[Member, ...]
    handouts: tuple[Handout, ...]
    leads: bool

    def handout(self, id: int) -> Handout:
        """Something that was handed out to it. Raises KeyError."""
        found = next((each for each in self.handouts if each.id == id), None)
        if found is None:
            raise KeyError(id)
        return found


@dataclass(frozen=True)
class Copied:
    """A member's copy of a workbook that was handed out."""

    person: int
    workbook: int
    is_done: bool


@dataclass(frozen=True)
class Share:
    """A link that lets others read a workbook."""

    token: str
    workbook: int
    may_copy: bool


class Groups:
    """The groups of a data file."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def make(self, leader: int, title: str) -> int:
        """Make a group, and return its number. Raises DreieckError."""
        title = " ".join(title.split())
        if not title or len(title) > MAX_TITLE or not title.isprintable():
            raise DreieckError(f"A group needs a title of at most {MAX_TITLE} characters.")
        with self._database.session() as session:
            if len(_led(session, leader)) >= MAX_GROUPS:
                raise DreieckError(f"You lead {MAX_GROUPS} groups; that is as many as can be.")
            code = "".join(choice(_LETTERS) for _ in range(_LENGTH))
            row = GroupRow(title=title, code=code, leader=leader)
            session.add(row)
            session.commit()
            assert row.id is not None
            return row.id

    def join(self, person: int, code: str) -> int:
        """Join the group that has a code; its number. Raises DreieckError."""
        with self._database.session() as session:
            wanted = code.strip().lower()
            row = session.exec(select(GroupRow).where(GroupRow.code == wanted)).first()
            if row is None or row.id is None:
                raise DreieckError("No group has this code. Look at it once more.")
            if row.leader != person and session.get(MembershipRow, (row.id, person)) is None:
                if len(_members(session, row.id)) >= MAX_MEMBERS:
                    raise DreieckError(f"This group has {MAX_MEMBERS} members; it is full.")
                session.add(MembershipRow(group_id=row.id, person=person))
                session.commit()
            return row.id

    def of(self, person: int) -> list[Group]:
        """The groups that somebody leads or is in."""
        with self._database.session() as session:
            inside = select(MembershipRow.group_id).where(MembershipRow.person == person)
            rows = session.exec(
                select(GroupRow)
                .where((col(GroupRow.leader) == person) | col(GroupRow.id).in_(inside))
                .order_by(col(GroupRow.id))
            ).all()
            return [_group(session, row, person) for row in rows]

    def group(self, person: int, id: int) -> Group:
        """A group that somebody leads or is in. Raises KeyError where they do neither."""
        with self._database.session() as session:
            row = session.get(GroupRow, id)
            inside = row and (
                row.leader == person or session.get(MembershipRow, (id, person)) is not None
            )
            if row is None or not inside:
                raise KeyError(id)
            return _group(session, row, person)

    def led(self, person: int, id: int) -> Group:
        """A group that somebody leads. Raises KeyError where they do not."""
        group = self.group(person, id)
        if not group.leads:
            raise KeyError(id)
        return group

    def leave(self, person: int, id: int) -> None:
        """Leave a group."""
        with self._database.session() as session:
            row = session.get(MembershipRow, (id, person))
            if row:
                session.delete(row)
                session.commit()

    def delete(self, leader: int, id: int) -> None:
        """Delete a group; the copies of its members stay theirs. Raises KeyError."""
        self.led(leader, id)
        with self._database.session() as session:
            session.delete(session.get(GroupRow, id))
            session.commit()

    def hand_out(self, leader: int, id: int, what: DrillSet | int, title: str) -> int:
        """Hand out a set of drills, or the workbook with a number. Raises KeyError."""
        self.led(leader, id)
        if isinstance(what, DrillSet):
            row = HandoutRow(
                group_id=id, title=what.title, codes=" ".join(what.texts), is_test=what.is_test
            )
        else:
            row = HandoutRow(group_id=id, title=title, workbook_id=what)
        with self._database.session() as session:
            session.add(row)
            session.commit()
            assert row.id is not None
            return row.id

    def take_back(self, leader: int, id: int, handout: int) -> None:
        """Take back what was handed out. Raises KeyError."""
        self.led(leader, id).handout(handout)
        with self._database.session() as session:
            session.delete(session.get(HandoutRow, handout))
            session.commit()

    def copied(self, handout: int) -> dict[int, Copied]:
        """The copies of a workbook that was handed out, by person."""
        with self._database.session() as session:
            rows = session.exec(select(HandedInRow).where(HandedInRow.handout == handout)).all()
            return {row.person: Copied(row.person, row.workbook_id, row.is_done) for row in rows}

    def keep_copy(self, handout: int, person: int, workbook: int) -> None:
        """Remember which workbook is somebody's copy."""
        with self._database.session() as session:
            session.merge(HandedInRow(handout=handout, person=person, workbook_id=workbook))
            session.commit()

    def hand_in(self, handout: int, person: int, *, is_done: bool) -> None:
        """Hand a copy in, or take it back. Raises KeyError where there is none."""
        with self._database.session() as session:
            row = session.get(HandedInRow, (handout, person))
            if row is None:
                raise KeyError(handout)
            row.is_done, row.at = is_done, now()
            session.commit()

    def share(self, workbook: int, *, may_copy: bool) -> str:
        """Make a link to a workbook, and return its token; check before whose it is."""
        with self._database.session() as session:
            found = session.exec(
                select(ShareRow).where(
                    ShareRow.workbook_id == workbook, ShareRow.may_copy == may_copy
                )
            ).first()
            row = found or ShareRow(
                token=token_urlsafe(18), workbook_id=workbook, may_copy=may_copy
            )
            session.add(row)
            session.commit()
            return row.token

    def shares(self, workbook: int) -> list[Share]:
        """The links to a workbook."""
        with self._database.session() as session:
            rows = session.exec(select(ShareRow).where(ShareRow.workbook_id == workbook)).all()
            return [Share(row.token, row.workbook_id, row.may_copy) for row in rows]

    def withdraw(self, workbook: int) -> None:
        """End all links to a workbook; check before whose it is."""
        with self._database.session() as session:
            for row in session.exec(select(ShareRow).where(ShareRow.workbook_id == workbook)):
                session.delete(row)
            session.commit()

    def shared(self, token: str) -> Share:
        """What a link leads to. Raises KeyError."""
        with self._database.session() as session:
            row = session.get(ShareRow, token)
            if row is None:
                raise KeyError(token)
            return Share(row.token, row.workbook_id, row.may_copy)


def _led(session: Session, leader: int) -> list[GroupRow]:
    return list(session.exec(select(GroupRow).where(GroupRow.leader == leader)).all())


def _members(session: Session, id: int) -> list[Member]:
    rows = session.exec(
        select(PersonRow)
        .where(
            col(PersonRow.id).in_(select(MembershipRow.person).where(MembershipRow.group_id == id))
        )
        .order_by(PersonRow.key)
    ).all()
    return [Member(row.id, row.name) for row in rows if row.id is not None]


def _group(session: Session, row: GroupRow, person: int) -> Group:
    assert row.id is not None
    leads = row.leader == person
    leader = session.get(PersonRow, row.leader)
    handouts = session.exec(
        select(HandoutRow).where(HandoutRow.group_id == row.id).order_by(col(HandoutRow.id).desc())
    ).all()
    return Group(
        row.id,
        row.title,
        row.code if leads else "",
        Member(row.leader, leader.name if leader else ""),
        # Who else is in a group is for its leader to see.
        tuple(_members(session, row.id)) if leads else (),
        tuple(_handout(session, each) for each in handouts),
        leads,
    )


def _handout(session: Session, row: HandoutRow) -> Handout:
    assert row.id is not None
    drills = None
    if row.codes:
        drills = DrillSet.of(row.title, row.codes.split(), is_test=row.is_test)
    there = row.workbook_id and session.get(WorkbookRow, row.workbook_id) is not None
    return Handout(
        row.id, row.group_id, row.title, drills, row.workbook_id if there else 0, row.at
    )
