"""A workbook in use: in memory, and kept with every action.

An action is one transaction: the cells it writes, the shapes they need and one change
record with both directions. What is acknowledged is on disk.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from threading import RLock

from sqlalchemy import delete
from sqlalchemy.exc import DatabaseError
from sqlmodel import Session, col, select

from dreieck.core.calculate import Calculation
from dreieck.core.edits import Edit, SetCells
from dreieck.core.exceptions import DreieckError
from dreieck.core.sheet import Sheet
from dreieck.store.database import Database, StoreError
from dreieck.store.encoding import edits_of, edits_text
from dreieck.store.reading import read_workbook
from dreieck.store.shapes import Shapes
from dreieck.store.tables import ChangeRow, SheetRow, WorkbookRow, now
from dreieck.store.writing import write, write_sheets


class OutOfDate(DreieckError):
    """An edit was meant for an older revision of the workbook."""


Record = Callable[[Session, WorkbookRow, list[Edit]], None]
"""Writes what the history needs, given the inverse of what was just done."""


class OpenWorkbook:
    """One workbook of a database. Hold ``lock`` while reading or changing it."""

    def __init__(self, database: Database, id: int) -> None:
        """Read the workbook with this number. Raises KeyError where there is none."""
        self.id = id
        self.lock = RLock()
        self._database = database
        self._shapes = Shapes(id)
        with database.session() as session:
            row = session.get(WorkbookRow, id)
            if row is None:
                raise KeyError(id)
            self.revision = row.revision
            self.workbook = read_workbook(session, row, self._shapes)
            self._history = self._labels(session, row.done)
        self.calculation = Calculation(self.workbook)

    def change(self, label: str, edits: list[Edit], revision: int) -> None:
        """Make edits as one action that can be undone, for a page that shows ``revision``.

        Raises OutOfDate where the workbook is ahead of that, and StoreError where the
        change could not be kept; then nothing has changed.
        """

        def record(session: Session, row: WorkbookRow, inverse: list[Edit]) -> None:
            undone = col(ChangeRow.number) > row.done
            session.execute(delete(ChangeRow).where(col(ChangeRow.workbook_id) == self.id, undone))
            row.done += 1
            session.add(
                ChangeRow(
                    workbook_id=self.id,
                    number=row.done,
                    label=label,
                    forward=edits_text(edits, self._shapes.number_of),
                    backward=edits_text(inverse, self._shapes.number_of),
                )
            )

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

    def history(self) -> tuple[str | None, str | None]:
        """The labels of the actions that undo and redo would take."""
        return self._history

    def last_sheet(self) -> Sheet:
        """The sheet that was shown last, or the first one."""
        with self.lock, self._database.session() as session:
            shown = session.get_one(WorkbookRow, self.id).open_sheet_id
        sheets = self.workbook.sheets
        return next((sheet for sheet in sheets if sheet.id == shown), sheets[0])

    def remember_sheet(self, sheet_id: int) -> None:
        """Open the workbook on this sheet the next time."""
        with self.lock, self._database.session() as session:
            row = session.get_one(WorkbookRow, self.id)
            if row.open_sheet_id != sheet_id:
                row.open_sheet_id = sheet_id
                session.commit()

    def _replay(self, revision: int, step: int) -> str | None:
        def record(session: Session, row: WorkbookRow, inverse: list[Edit]) -> None:
            row.done += step

        with self.lock:
            self._expect(revision)
            with self._database.session() as session:
                done = session.get_one(WorkbookRow, self.id).done
                change = session.get(ChangeRow, (self.id, done if step < 0 else done + 1))
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
        inverse: list[Edit] = []
        try:
            for edit in edits:
                inverse.insert(0, edit.apply(self.workbook))
            with self._database.session() as session:
                row = session.get_one(WorkbookRow, self.id)
                record(session, row, inverse)
                for edit in edits:
                    write(session, self.id, edit, self._shapes)
                if any(not isinstance(edit, SetCells) for edit in edits):
                    write_sheets(session, self.workbook)
                self._shapes.write_new(session)
                row.revision += 1
                row.changed = now()
                session.flush()
                history = self._labels(session, row.done)
                session.commit()
        except BaseException as error:
            for edit in inverse:
                edit.apply(self.workbook)
            if isinstance(error, DatabaseError):
                raise StoreError(
                    f"This change could not be kept, so it was not made ({error.orig})."
                ) from error
            raise
        else:
            self.revision += 1
            self._history = history
            self._shapes.written()
        finally:
            self._tell_calculation(edits)

    def _tell_calculation(self, edits: list[Edit]) -> None:
        if not all(isinstance(edit, SetCells) for edit in edits):
            self.calculation.forget()
            return
        for edit in edits:
            if isinstance(edit, SetCells):
                sheet = self.workbook.sheet_by_id(edit.sheet_id)
                self.calculation.changed(sheet, edit.areas())

    def new_sheet_id(self) -> int:
        """A number for a new sheet; none is given twice, not even after a sheet was deleted."""
        with self._database.session() as session:
            row = SheetRow(workbook_id=self.id, name="", position=0)
            session.add(row)
            session.flush()
            assert row.id is not None
            number = row.id
            session.delete(row)
            session.commit()
            return number

    def used_functions(self) -> Counter[str]:
        """In how many formulas each function stands, alike ones counted once."""
        return self._shapes.used_functions()

    def _labels(self, session: Session, done: int) -> tuple[str | None, str | None]:
        labels = select(ChangeRow.number, ChangeRow.label).where(
            ChangeRow.workbook_id == self.id, col(ChangeRow.number).in_((done, done + 1))
        )
        found = dict(session.exec(labels).all())
        return found.get(done), found.get(done + 1)
