"""A workbook in use: in memory, and kept with every action.

An action is one transaction: the cells it writes, the shapes they need and one change
record with both directions. What is acknowledged is on disk.
"""

from __future__ import annotations

import logging
from collections import Counter, deque
from collections.abc import Callable, Iterator, MutableMapping
from contextlib import contextmanager
from typing import Any

from sqlalchemy.exc import DatabaseError
from sqlmodel import Session

from dreieck.core.budget import Budget, working
from dreieck.core.calculate import Calculation
from dreieck.core.editing.steps import Step, steps_of
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet.edits import (
    APPEARANCE,
    Change,
    Edit,
    SetCells,
    SetLayout,
    SetLocale,
    SetLooks,
    SetStated,
)
from dreieck.core.sheet.sheet import Sheet
from dreieck.store.database import Database, StoreError, reason
from dreieck.store.encoding import edits_of, edits_text
from dreieck.store.history import History, Labels
from dreieck.store.lock import WorkbookLock
from dreieck.store.reading import read_workbook
from dreieck.store.revisions import MAX_FOLLOWED, Piece, Revision, Revisions
from dreieck.store.shapes import Shapes
from dreieck.store.tables import ArrivalRow, ChangeRow, SheetRow, WorkbookRow, now
from dreieck.store.told_history import told_history
from dreieck.store.writing import write, write_sheets


class OutOfDate(DreieckError):
    """An edit was meant for an older revision of the workbook."""


log = logging.getLogger("dreieck")

_VALUES_STAY = (*APPEARANCE, SetStated, SetLocale)

Record = Callable[[Session, WorkbookRow, list[Edit]], None]
"""Writes what the history needs, given the inverse of what was just done."""


class OpenWorkbook:
    """One workbook of a database. Hold ``lock`` while reading or changing it."""

    def __init__(
        self, database: Database, id: int, revisions: MutableMapping[int, int] | None = None
    ) -> None:
        """Read the workbook with this number, and tell its revisions from now on.

        Raises KeyError where there is none, StoreError where it cannot be read.
        """
        self.id = id
        self.lock = WorkbookLock(id)
        self._database = database
        self._shapes = Shapes(id)
        self._history = History(id)
        self._newest = {} if revisions is None else revisions
        self._revisions = Revisions(id)
        self._piece: Piece | None = None
        with database.session() as session:
            row = session.get(WorkbookRow, id)
            if row is None or row.is_coming:
                raise KeyError(id)
            try:
                self.workbook = read_workbook(session, row, self._shapes)
            except DatabaseError:
                raise
            except Exception as fault:
                log.exception("workbook %s cannot be read", id)
                raise StoreError(
                    f"The workbook “{row.name}” cannot be read: its part of the data file is"
                    " damaged. Put a copy of the file back; the other workbooks can be used."
                ) from fault
            self._labels = self._history.labels(session, row.done)
            self.revision = row.revision
            recent = self._revisions.recent(session, row.revision)
        self._recent: deque[Revision] = deque(recent, maxlen=MAX_FOLLOWED)
        self._newest[id] = self.revision
        self.values_at = self.revision
        """The revision with which values may have changed last."""
        self.calculation = Calculation(self.workbook)

    def change(self, label: str, edits: list[Edit], revision: int) -> None:
        """Make edits as one action that can be undone, for a page that shows ``revision``.

        Raises OutOfDate where the workbook is ahead of that, and StoreError where the
        change could not be kept; then nothing has changed.
        """

        def record(session: Session, row: WorkbookRow, inverse: list[Edit]) -> None:
            texts = (edits_text(each, self._shapes.number_of) for each in (edits, inverse))
            self._history.record(session, row, label, *texts)

        with self.lock:
            self._expect(revision)
            self._keep(edits, record)

    def furnish(self, edits: list[Edit]) -> None:
        """Make the edits that a new workbook begins with; they cannot be undone."""
        with self.lock:
            self._keep(edits, lambda session, row, inverse: None)

    def undo(self, revision: int) -> str | None:
        """Take the last action back; return its label, None where there is none."""
        return self._replay(revision, step=-1)

    def redo(self, revision: int) -> str | None:
        """Make the last undone action again; return its label, None where there is none."""
        return self._replay(revision, step=1)

    def history(self) -> Labels:
        """The labels of the actions that undo and redo would take."""
        return self._labels

    def steps_since(self, revision: int, without: str = "") -> list[Step] | None:
        """What has changed since a revision; None where that is too long ago to be known.

        What the page with the name ``without`` did itself is left out.
        """
        count = self.revision - revision
        if not 0 <= count <= len(self._recent):
            return None
        recent = list(self._recent)[len(self._recent) - count :]
        others = [each.steps for each in recent if not without or each.page != without]
        return [step for steps in others for step in steps]

    @contextmanager
    def doing(self, piece: Piece | None) -> Iterator[None]:
        """What is changed inside is done for this piece of a page."""
        with self.lock:
            self._piece = piece
            try:
                yield
            finally:
                self._piece = None

    def has_done(self, piece: Piece) -> bool:
        """Whether a piece has changed the workbook before, as far back as that is known."""
        with self._database.session() as session:
            return self._revisions.has(session, piece)

    def last_sheet(self) -> Sheet:
        """The sheet that was shown last, or the first one."""
        with self.lock, self._database.session() as session:
            shown = self._row(session).open_sheet_id
        sheets = self.workbook.sheets
        return next((sheet for sheet in sheets if sheet.id == shown), sheets[0])

    def remember_sheet(self, sheet_id: int) -> None:
        """Open the workbook on this sheet the next time; where that cannot be kept it is not."""
        try:
            with self.lock, self._database.session() as session:
                row = self._row(session)
                if row.open_sheet_id != sheet_id:
                    row.open_sheet_id = sheet_id
                    session.commit()
        except DatabaseError as error:
            log.warning("the sheet last shown is not remembered: %s", error.orig)

    def _replay(self, revision: int, step: int) -> str | None:
        def record(session: Session, row: WorkbookRow, inverse: list[Edit]) -> None:
            row.done += step

        with self.lock:
            self._expect(revision)
            with self._database.session() as session:
                done = self._row(session).done
                change = self._history.find(session, done if step < 0 else done + 1)
            if change is None:
                return None
            said = change.backward if step < 0 else change.forward
            self._keep(edits_of(said, self._shapes.shape_of), record)
            return change.label

    def _expect(self, revision: int) -> None:
        if revision != self.revision:
            raise OutOfDate(
                "This workbook was changed elsewhere in the meantime. The page is up to date"
                " now, and what you typed is still here: look, then send it again."
            )

    def _keep(self, edits: list[Edit], record: Record) -> None:
        # Nothing of this may be ended halfway.
        with working(Budget()):
            self._database.check_there()
            inverse: list[Edit] = []
            try:
                for edit in edits:
                    inverse.insert(0, edit.apply(self.workbook))
                steps = tuple(steps_of(edits))
                labels = self._written(edits, inverse, steps, record)
            except BaseException as error:
                for edit in inverse:
                    edit.apply(self.workbook)
                self._tell_calculation(edits)
                self._history.forget()
                if isinstance(error, DatabaseError):
                    raise StoreError(
                        f"This change could not be kept, so it was not made: {reason(error)}."
                    ) from error
                raise
            self.revision += 1
            self._newest[self.id] = self.revision
            if self._changes_values(edits):
                self.values_at = self.revision
            self._labels = labels
            page = self._piece.page if self._piece else ""
            self._recent.append(Revision(page, steps))
            self._shapes.written()
            self._tell_calculation(edits)

    def _written(
        self, edits: list[Edit], inverse: list[Edit], steps: tuple[Step, ...], record: Record
    ) -> Labels:
        """Write edits that are made in memory, as one transaction."""
        with self._database.writing() as session:
            row = self._row(session)
            record(session, row, inverse)
            for edit in edits:
                write(session, self.id, edit, self._shapes)
            if any(not isinstance(edit, SetCells | SetLooks) for edit in edits):
                write_sheets(session, self.workbook, self._shapes)
            self._shapes.write_new(session)
            row.revision += 1
            self._revisions.record(session, row.revision, self._piece, steps)
            row.changed = now()
            session.flush()
            labels = self._history.labels(session, row.done)
            session.commit()
            return labels

    def _changes_values(self, edits: list[Edit]) -> bool:
        if not all(isinstance(edit, _VALUES_STAY) for edit in edits):
            return True
        is_laid_out = any(isinstance(edit, SetLayout) for edit in edits)
        return is_laid_out and bool(self.calculation.seeing_hidden())

    def _row(self, session: Session) -> WorkbookRow:
        row = session.get(WorkbookRow, self.id)
        if row is None:
            raise StoreError("This workbook was deleted in the meantime; nothing more is kept.")
        return row

    def _tell_calculation(self, edits: list[Edit]) -> None:
        try:
            self.calculation.edited(edits)
        except Exception:
            # What is kept is kept; its values are worked out anew.
            log.exception("values are forgotten")
            self.calculation.forget()

    @property
    def size(self) -> int:
        """How many cells hold something."""
        return sum(len(sheet) for sheet in self.workbook.sheets)

    def new_sheet_id(self) -> int:
        """A number for a new sheet; none is given twice, not even after a sheet was deleted.

        Raises StoreError.
        """
        self._database.check_there()
        with self._database.session() as session:
            try:
                row = SheetRow(workbook_id=self.id, name="", position=0)
                session.add(row)
                session.flush()
                assert row.id is not None
                number = row.id
                session.delete(row)
                session.commit()
            except DatabaseError as error:
                raise StoreError(f"No sheet could be added: {reason(error)}.") from error
            return number

    def arrival(self) -> str:
        """What the file held that it came with, as it was told to ``Library.adopt``."""
        with self._database.session() as session:
            row = session.get(ArrivalRow, self.id)
            return row.report if row else ""

    def told_history(self) -> dict[str, Any]:
        """Its history, as a file tells it."""
        with self._database.session() as session:
            return told_history(session, self.id, self.workbook)

    def done_changes(self, label: str) -> list[Change]:
        """The changes that are not taken back whose label begins so, the first one first."""
        with self._database.session() as session:
            done = self._row(session).done
            rows = self._history.labelled(session, done, label)
            return [self._done(row) for row in rows]

    def changes_back(self) -> Iterator[Change]:
        """The changes that are not taken back, the last one first, as far as they are kept."""
        with self._database.session() as session:
            number = self._row(session).done
            while change := self._history.find(session, number):
                yield self._done(change)
                number -= 1

    def _done(self, row: ChangeRow) -> Change:
        shape_of = self._shapes.shape_of
        return Change(
            row.label, row.at, edits_of(row.forward, shape_of), edits_of(row.backward, shape_of)
        )

    def used_functions(self) -> Counter[str]:
        """In how many formulas each function stands, alike ones counted once."""
        return self._shapes.used_functions()
