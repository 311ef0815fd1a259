"""How much one of several people may keep: so many workbooks, so much room in the data file."""

from __future__ import annotations

from typing import NamedTuple

from sqlmodel import Session, col, func, select

from dreieck.core.exceptions import DreieckError
from dreieck.store.database import Database
from dreieck.store.tables import ChangeRow, RunRow, SheetRow, WorkbookRow

MAX_WORKBOOKS = 300
"""How many workbooks somebody can have."""
MAX_SPACE = 500_000_000
"""How many bytes they can take together, with what can be taken back."""
_RUN = 60
"""So many bytes a run of cells takes, beside its text."""


class Kept(NamedTuple):
    """How many workbooks somebody has, and about how many bytes they take."""

    workbooks: int
    space: int


def kept_by(database: Database, person: int) -> Kept:
    """How much somebody keeps."""
    with database.session() as session:
        return _kept(session, person)


def check_room(database: Database, person: int) -> None:
    """See that somebody may have one more workbook. Raises DreieckError."""
    kept = kept_by(database, person)
    if kept.workbooks >= MAX_WORKBOOKS:
        raise DreieckError(
            f"You have {kept.workbooks:,} workbooks here, as many as one can have. Delete some;"
            " save them as files first if you need them."
        )
    if kept.space >= MAX_SPACE:
        raise DreieckError(
            f"Your workbooks take {kept.space / 1e6:,.0f} MB here; one can have"
            f" {MAX_SPACE / 1e6:,.0f}. Delete some; save them as files first if you need them."
        )


def _kept(session: Session, person: int) -> Kept:
    own = select(WorkbookRow.id).where(WorkbookRow.owner == person)
    sheets = select(SheetRow.id).where(col(SheetRow.workbook_id).in_(own))
    text = func.length(func.coalesce(RunRow.text, ""))
    runs = select(func.coalesce(func.sum(text + _RUN), 0)).where(col(RunRow.sheet_id).in_(sheets))
    changes = select(func.coalesce(func.sum(ChangeRow.size), 0)).where(
        col(ChangeRow.workbook_id).in_(own)
    )
    count = select(func.count()).select_from(WorkbookRow).where(WorkbookRow.owner == person)
    space = session.exec(runs).one() + session.exec(changes).one()
    return Kept(session.exec(count).one(), space)
