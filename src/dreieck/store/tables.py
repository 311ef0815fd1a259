"""The tables. Their history is in ``migrations/``; both must say the same."""

from __future__ import annotations

from datetime import UTC, datetime
from secrets import randbelow

from sqlalchemy import Index, UniqueConstraint
from sqlmodel import Field, SQLModel

from dreieck.core.calculate.chance import MAX_SEED

NOBODY = 0
"""The number of the one person where nobody signs in."""


def now() -> str:
    """This moment as text, in UTC."""
    return datetime.now(UTC).isoformat(timespec="seconds")


class WorkbookRow(SQLModel, table=True):
    """A workbook. ``done`` is the number of the last change that is not undone.

    Numbers drawn by chance follow from ``seed``; numbers and dates are written as in ``locale``.
    One that ``is_coming`` is being written, and not shown yet. ``owner`` is the number of a
    person, 0 where nobody signs in.
    """

    __tablename__ = "workbook"
    # An older page of a deleted workbook must not act on a later one.
    __table_args__ = {"sqlite_autoincrement": True}
    id: int | None = Field(default=None, primary_key=True)
    name: str
    is_demo: bool = False
    revision: int = 0
    done: int = 0
    open_sheet_id: int | None = None
    seed: int = Field(default_factory=lambda: randbelow(MAX_SEED))
    locale: str = ""
    is_coming: bool = False
    changed: str = Field(default_factory=now)
    owner: int = 0


class ArrivalRow(SQLModel, table=True):
    """What a file held that a workbook came with, and how its values compared, as JSON."""

    __tablename__ = "arrival"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    report: str


class SheetRow(SQLModel, table=True):
    """A sheet; ``layout`` is how it is laid out, as JSON."""

    __tablename__ = "sheet"
    # Undo brings a deleted sheet back under its number, so no number is given twice.
    __table_args__ = {"sqlite_autoincrement": True}
    id: int | None = Field(default=None, primary_key=True)
    workbook_id: int = Field(foreign_key="workbook.id", index=True, ondelete="CASCADE")
    name: str
    position: int
    layout: str = "{}"


class ShapeRow(SQLModel, table=True):
    """A shape, as the formula that it is when it stands at ``column`` and ``row``."""

    __tablename__ = "shape"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    number: int = Field(primary_key=True)
    formula: str
    column: int
    row: int


class NameRow(SQLModel, table=True):
    """A name; ``key`` is it without case, ``shape`` the number of what it stands for."""

    __tablename__ = "name"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    key: str = Field(primary_key=True)
    name: str
    shape: int


class StatedRow(SQLModel, table=True):
    """A proof or sweep, the one in this position; ``shape`` is the number of its statement."""

    __tablename__ = "stated"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    sort: str = Field(primary_key=True)
    position: int = Field(primary_key=True)
    number: int
    shape: int


class FeedRow(SQLModel, table=True):
    """What is known of a feed, as JSON; ``key`` is its code without case."""

    __tablename__ = "feed"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    key: str = Field(primary_key=True)
    feed: str


class RunRow(SQLModel, table=True):
    """Cells below each other that hold the same and look the same; no two runs overlap.

    ``kind`` is a ``Kind`` of the core, ``shape`` the number of a shape of the workbook.
    """

    __tablename__ = "run"
    sheet_id: int = Field(foreign_key="sheet.id", primary_key=True, ondelete="CASCADE")
    column: int = Field(primary_key=True)
    top: int = Field(primary_key=True)
    bottom: int
    kind: int
    number: float | None = None
    text: str | None = None
    shape: int | None = None
    look: str | None = None


class ChangeRow(SQLModel, table=True):
    """One user action, in both directions, as JSON of so many characters."""

    __tablename__ = "change"
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    number: int = Field(primary_key=True)
    size: int
    label: str
    at: str = Field(default_factory=now)
    forward: str
    backward: str


class RevisionRow(SQLModel, table=True):
    """What led to a revision: a piece of a page, and the places it touched, as JSON.

    ``page`` is empty where no page told its name.
    """

    __tablename__ = "revision"
    __table_args__ = (Index("ix_revision_piece", "page", "piece"),)
    workbook_id: int = Field(foreign_key="workbook.id", primary_key=True, ondelete="CASCADE")
    number: int = Field(primary_key=True)
    page: str
    piece: int
    steps: str


class OwnKeyRow(SQLModel, table=True):
    """The key that a person has given to something, by its name; no text for no key."""

    __tablename__ = "own_key"
    person: int = Field(primary_key=True)
    name: str = Field(primary_key=True)
    keys: str


class SecretRow(SQLModel, table=True):
    """A secret of the data file, such as the key that signs results."""

    __tablename__ = "secret"
    name: str = Field(primary_key=True)
    value: str


class MasteryRow(SQLModel, table=True):
    """How far a person is with a skill; ``card`` is what the scheduler keeps, as JSON.

    Where nobody signs in the one person has the number 0.
    """

    __tablename__ = "mastery"
    person: int = Field(primary_key=True)
    skill: str = Field(primary_key=True)
    steps: int
    in_row: int
    answered: int
    right: int
    card: str


class TakingRow(SQLModel, table=True):
    """A set of drills that a person began; ``codes`` are set apart by blanks.

    ``handout`` is the number under which a group has it, or 0.
    """

    __tablename__ = "taking"
    id: int | None = Field(default=None, primary_key=True)
    person: int = Field(index=True)
    handout: int = Field(default=0, index=True)
    title: str
    codes: str
    is_test: bool
    begun: str = Field(default_factory=now)
    finished: str = ""


class AnswerRow(SQLModel, table=True):
    """The first answer of a person to a drill, alone (``taking`` 0) or in a set."""

    __tablename__ = "answer"
    __table_args__ = (UniqueConstraint("person", "taking", "code"),)
    id: int | None = Field(default=None, primary_key=True)
    person: int
    taking: int = 0
    code: str
    skill: str
    is_right: bool
    hints: int
    mistake: str
    given: str
    at: str = Field(default_factory=now)


class PersonRow(SQLModel, table=True):
    """Somebody who signs in; ``key`` is the name without case, ``hash`` that of a passphrase."""

    __tablename__ = "person"
    id: int | None = Field(default=None, primary_key=True)
    name: str
    key: str = Field(unique=True)
    hash: str
    at: str = Field(default_factory=now)


class SessionRow(SQLModel, table=True):
    """A browser in which somebody is signed in; of its token only the hash is kept."""

    __tablename__ = "session"
    id: int | None = Field(default=None, primary_key=True)
    hash: str = Field(unique=True)
    person: int = Field(foreign_key="person.id", index=True, ondelete="CASCADE")
    at: str = Field(default_factory=now)


class ShareRow(SQLModel, table=True):
    """A link that lets others read a workbook, and copy it if it says so."""

    __tablename__ = "share"
    token: str = Field(primary_key=True)
    workbook_id: int = Field(foreign_key="workbook.id", index=True, ondelete="CASCADE")
    may_copy: bool
    at: str = Field(default_factory=now)


class GroupRow(SQLModel, table=True):
    """People who learn together; ``code`` lets one join."""

    __tablename__ = "learning_group"
    id: int | None = Field(default=None, primary_key=True)
    title: str
    code: str = Field(unique=True)
    leader: int = Field(index=True)


class MembershipRow(SQLModel, table=True):
    """Somebody in a group."""

    __tablename__ = "membership"
    group_id: int = Field(foreign_key="learning_group.id", primary_key=True, ondelete="CASCADE")
    person: int = Field(primary_key=True, index=True)


class HandoutRow(SQLModel, table=True):
    """Something that a group is to do: a set of drills, or a workbook to be copied.

    ``workbook_id`` is 0 for a set, whose codes are set apart by blanks.
    """

    __tablename__ = "handout"
    id: int | None = Field(default=None, primary_key=True)
    group_id: int = Field(foreign_key="learning_group.id", index=True, ondelete="CASCADE")
    title: str
    codes: str = ""
    is_test: bool = False
    workbook_id: int = 0
    at: str = Field(default_factory=now)


class HandedInRow(SQLModel, table=True):
    """A member's copy of a workbook that was handed out; ``is_done`` when it is handed in."""

    __tablename__ = "handed_in"
    handout: int = Field(foreign_key="handout.id", primary_key=True, ondelete="CASCADE")
    person: int = Field(primary_key=True)
    workbook_id: int = Field(foreign_key="workbook.id", ondelete="CASCADE")
    is_done: bool = False
    at: str = Field(default_factory=now)
