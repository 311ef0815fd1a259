"""What led to the last revisions of a workbook: which page asked, and which places it touched.

A page sends again what was not answered, so each piece of work has an identity: one that is
recorded here was done, whatever became of the answer. It stands in the same transaction as the
change, so it holds after a restart, too.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Sequence
from typing import NamedTuple

from sqlalchemy import delete
from sqlmodel import Session, col, select

from dreieck.core.editing.steps import Step
from dreieck.core.grid import Area, LineChange, Lines
from dreieck.store.tables import RevisionRow

MAX_FOLLOWED = 2_000
"""So many revisions back the places that a page holds can follow."""
MAX_KNOWN = 20_000
"""So many revisions back a piece is known to have been done."""
_TRIMMED_EVERY = 100
_PIECE = re.compile(r"([0-9a-z]{8,40})\.([0-9]{1,9})")


class Piece(NamedTuple):
    """One thing that a page asks for: the page by a random name, and a number of its own."""

    page: str
    number: int

    @classmethod
    def told(cls, text: str) -> Piece | None:
        """The piece that a request names; None where it names none."""
        found = _PIECE.fullmatch(text)
        return cls(found[1], int(found[2])) if found else None

    @property
    def text(self) -> str:
        """As a request names it."""
        return f"{self.page}.{self.number}"


class Revision(NamedTuple):
    """What led to a revision; ``page`` is empty where no page told its name."""

    page: str
    steps: tuple[Step, ...]


class Revisions:
    """The revisions of one workbook."""

    def __init__(self, workbook_id: int) -> None:
        self._workbook_id = workbook_id

    def record(
        self, session: Session, number: int, piece: Piece | None, steps: Sequence[Step]
    ) -> None:
        """Add a revision; the oldest go."""
        row = RevisionRow(
            workbook_id=self._workbook_id,
            number=number,
            page=piece.page if piece else "",
            piece=piece.number if piece else 0,
            steps=_text(steps),
        )
        session.add(row)
        if number % _TRIMMED_EVERY == 0:
            owned = col(RevisionRow.workbook_id) == self._workbook_id
            session.execute(
                delete(RevisionRow).where(owned, col(RevisionRow.number) <= number - MAX_KNOWN)
            )

    def recent(self, session: Session, number: int) -> list[Revision]:
        """The last revisions up to a number, the oldest first, as far as none is missing."""
        rows = select(RevisionRow).where(
            RevisionRow.workbook_id == self._workbook_id,
            col(RevisionRow.number) > number - MAX_FOLLOWED,
        )
        found: list[Revision] = []
        for row in session.exec(rows.order_by(col(RevisionRow.number).desc())):
            if row.number != number - len(found):
                break
            found.append(Revision(row.page, tuple(_steps(row.steps))))
        return found[::-1]

    def has(self, session: Session, piece: Piece) -> bool:
        """Whether a piece has changed the workbook."""
        done = select(RevisionRow.number).where(
            RevisionRow.workbook_id == self._workbook_id,
            RevisionRow.page == piece.page,
            RevisionRow.piece == piece.number,
        )
        return session.exec(done.limit(1)).first() is not None


def _text(steps: Iterable[Step]) -> str:
    """Steps as JSON: lists of a sheet's number with lines that come or go, or with areas."""
    told: list[list[object]] = []
    for step in steps:
        if step.change:
            lines = step.change.lines
            told.append([step.sheet_id, lines.axis, lines.first, lines.count, step.change.comes])
        else:
            told.append([step.sheet_id, [list(area) for area in step.areas]])
    return json.dumps(told, separators=(",", ":"))


def _steps(text: str) -> Iterable[Step]:
    for sheet_id, *rest in json.loads(text):
        if len(rest) == 1:
            yield Step(sheet_id, areas=tuple(Area(*each) for each in rest[0]))
        else:
            axis, first, count, comes = rest
            yield Step(sheet_id, LineChange(Lines(axis, first, count), comes=comes))
