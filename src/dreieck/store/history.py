"""The history of a workbook: one record an action, the oldest given up when there are many."""

from __future__ import annotations

from collections import deque
from collections.abc import Sequence

from sqlalchemy import delete
from sqlmodel import Session, col, select

from dreieck.store.tables import ChangeRow, WorkbookRow

MAX_CHANGES = 1_000
"""How many actions can be taken back."""
MAX_BYTES = 64_000_000
"""How much the records of a workbook may take together; the last one always stays."""

Labels = tuple[str | None, str | None]


class History:
    """The change records of one workbook; opening it reads none but two labels."""

    def __init__(self, workbook_id: int) -> None:
        self._workbook_id = workbook_id
        self._sizes: deque[tuple[int, int]] | None = None
        """Number and size of each record, read when the first change is made."""

    def record(
        self, session: Session, row: WorkbookRow, label: str, forward: str, backward: str
    ) -> None:
        """Add a record; what was undone before can not be made again, and the oldest go."""
        sizes = self._known(session)
        if sizes and sizes[-1][0] > row.done:
            while sizes and sizes[-1][0] > row.done:
                sizes.pop()
            self._drop(session, col(ChangeRow.number) > row.done)
        row.done += 1
        size = len(forward) + len(backward)
        session.add(
            ChangeRow(
                workbook_id=self._workbook_id,
                number=row.done,
                size=size,
                label=label,
                forward=forward,
                backward=backward,
            )
        )
        sizes.append((row.done, size))
        total = sum(each for _, each in sizes)
        first = sizes[0][0]
        while len(sizes) > 1 and (len(sizes) > MAX_CHANGES or total > MAX_BYTES):
            total -= sizes.popleft()[1]
        if sizes[0][0] != first:
            self._drop(session, col(ChangeRow.number) < sizes[0][0])

    def forget(self) -> None:
        """What is known of the records may be wrong: a transaction was given up."""
        self._sizes = None

    def find(self, session: Session, number: int) -> ChangeRow | None:
        """A record by its number."""
        return session.get(ChangeRow, (self._workbook_id, number))

    def labelled(self, session: Session, done: int, label: str) -> Sequence[ChangeRow]:
        """The records up to ``done`` whose label begins so, in order."""
        owned = select(ChangeRow).where(
            ChangeRow.workbook_id == self._workbook_id,
            col(ChangeRow.number) <= done,
            col(ChangeRow.label).startswith(label, autoescape=True),
        )
        return session.exec(owned.order_by(col(ChangeRow.number))).all()

    def labels(self, session: Session, done: int) -> Labels:
        """The labels of the records that undo and redo would take."""
        labels = select(ChangeRow.number, ChangeRow.label).where(
            ChangeRow.workbook_id == self._workbook_id,
            col(ChangeRow.number).in_((done, done + 1)),
        )
        found = dict(session.exec(labels).all())
        return found.get(done), found.get(done + 1)

    def _known(self, session: Session) -> deque[tuple[int, int]]:
        if self._sizes is None:
            sizes = select(ChangeRow.number, ChangeRow.size).where(
                ChangeRow.workbook_id == self._workbook_id
            )
            self._sizes = deque(session.exec(sizes.order_by(col(ChangeRow.number))).all())
        return self._sizes

    def _drop(self, session: Session, which: object) -> None:
        owned = col(ChangeRow.workbook_id) == self._workbook_id
        session.execute(delete(ChangeRow).where(owned, which))  # type: ignore[arg-type]
