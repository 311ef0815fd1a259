"""The workbooks of a data file: listed, made, renamed, deleted, opened."""

from __future__ import annotations

import unicodedata
from collections import OrderedDict
from collections.abc import Callable, Iterable, Iterator, Mapping
from copy import copy
from dataclasses import dataclass, field
from pathlib import Path
from threading import RLock
from types import MappingProxyType
from weakref import WeakValueDictionary

from sqlalchemy import func
from sqlmodel import col, select

from dreieck.core.editing.entering import entered
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import Edit, SetCells, SetFeed, SetLayout, SetName, SetStated
from dreieck.core.sheet.feed import Feed
from dreieck.core.sheet.layout import PLAIN_LAYOUT, Layout
from dreieck.core.sheet.names import named
from dreieck.core.sheet.stated import SORTS, STANDS, Sort
from dreieck.core.sheet.workbook import Workbook
from dreieck.core.values.look import PLAIN, Look
from dreieck.store import data_file
from dreieck.store.adopting import adopt, forget_coming
from dreieck.store.database import DAMAGE, Database, StoreError, damaged
from dreieck.store.lock import WorkbookLock
from dreieck.store.open_workbook import OpenWorkbook
from dreieck.store.quota import check_room
from dreieck.store.tables import NOBODY, ChangeRow, RunRow, SheetRow, WorkbookRow

MAX_NAME = 80
"""How many characters the name of a workbook can have."""
MAX_OPEN = 128
"""How many workbooks are kept in memory at the most."""
MAX_OPEN_CELLS = 10_000_000
"""How many filled cells they can have together, if it is more than one."""
_UNSEEN = "\u034f\u115f\u1160\u2800\u3164\uffa0"
"""Characters that count as letters or signs and yet show nothing."""


@dataclass(slots=True)
class NewSheet:
    """A sheet to begin with: typed text and looks by address, and its layout."""

    name: str
    entries: dict[str, str] = field(default_factory=dict)
    looks: dict[str, Look] = field(default_factory=dict)
    layout: Layout = PLAIN_LAYOUT


@dataclass(frozen=True, slots=True)
class Listed:
    """A workbook as the home page lists it."""

    id: int
    name: str
    is_demo: bool
    changed: str
    sheets: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Losses:
    """What is lost when a workbook is deleted."""

    name: str
    sheets: int
    filled_cells: int
    changes: int


class Library:
    """The workbooks of one data file; those used last are kept in memory.

    What ``seen_by`` gives holds the workbooks of one person alone: all others are not there.
    """

    def __init__(self, database: Database) -> None:
        self._database = database
        self.person: int | None = None
        self._owners: dict[int, int] = {}
        self._lock = RLock()
        self._living: WeakValueDictionary[int, OpenWorkbook] = WeakValueDictionary()
        """Every workbook that somebody holds: none may be in memory twice."""
        self._kept: OrderedDict[int, OpenWorkbook] = OrderedDict()
        self._opening: WeakValueDictionary[int, WorkbookLock] = WeakValueDictionary()
        self._revisions: dict[int, int] = {}
        try:
            with database.session() as session:
                forget_coming(session)
        except DAMAGE as error:
            database.close()
            raise StoreError(damaged(database.path, error)) from error

    def seen_by(self, person: int) -> Library:
        """The same library with the workbooks of one person alone."""
        own = copy(self)
        own.person = person
        return own

    def owner(self, id: int) -> int:
        """Whose a workbook is. Raises KeyError."""
        if id not in self._owners:
            with self._database.session() as session:
                row = session.get(WorkbookRow, id)
            if row is None:
                raise KeyError(id)
            self._owners[id] = row.owner
        return self._owners[id]

    def _check_own(self, id: int) -> None:
        """Raise KeyError where a workbook is not one of those that are seen."""
        if self.person is not None and self.owner(id) != self.person:
            raise KeyError(id)

    def _check_room(self) -> None:
        """Raise DreieckError where somebody has as much as one may have."""
        if self.person is not None:
            check_room(self._database, self.person)

    def give_to(self, person: int) -> None:
        """Give all workbooks that are nobody's to a person."""
        with self._lock, self._database.session() as session:
            for row in session.exec(select(WorkbookRow).where(WorkbookRow.owner == NOBODY)):
                row.owner = person
            session.commit()
            self._owners.clear()

    def listed(self) -> list[Listed]:
        """All workbooks, the last changed first."""
        with self._database.session() as session:
            names: dict[int, list[str]] = {}
            for sheet in session.exec(select(SheetRow).order_by(col(SheetRow.position))):
                names.setdefault(sheet.workbook_id, []).append(sheet.name)
            order = (col(WorkbookRow.changed).desc(), col(WorkbookRow.id).desc())
            return [
                Listed(row.id, row.name, row.is_demo, row.changed, tuple(names.get(row.id, ())))
                for row in session.exec(select(WorkbookRow).order_by(*order))
                if row.id is not None and not row.is_coming
                if self.person in (None, row.owner)
            ]

    def create(
        self,
        name: str,
        sheets: Iterable[NewSheet] = (NewSheet("Sheet 1"),),
        names: Mapping[str, str] = MappingProxyType({}),
        *,
        feeds: Iterable[Feed] = (),
        stated: Mapping[Sort, Iterable[str]] = MappingProxyType({}),
        is_demo: bool = False,
        open_sheet: str | None = None,
    ) -> int:
        """Make a workbook and return its number; ``names`` say what they stand for.

        References in what is ``stated`` name their sheets. Raises DreieckError.
        """
        name = checked_name(name)
        self._check_room()
        self._database.check_there()
        with self._lock, self._database.session() as session:
            row = WorkbookRow(name=name, is_demo=is_demo, owner=self.person or NOBODY)
            session.add(row)
            session.flush()
            assert row.id is not None
            made: list[tuple[int, NewSheet]] = []
            for position, sheet in enumerate(sheets):
                sheet_row = SheetRow(workbook_id=row.id, name=sheet.name, position=position)
                session.add(sheet_row)
                session.flush()
                assert sheet_row.id is not None
                made.append((sheet_row.id, sheet))
                if sheet.name == open_sheet:
                    row.open_sheet_id = sheet_row.id
            id = row.id
            session.commit()
        opened = self.open(id)
        edits: list[Edit] = [
            SetName(each.key, each) for name, says in names.items() if (each := named(name, says))
        ]
        edits += [edit for each in made for edit in _first_edits(opened, *each)]
        edits += [SetFeed(feed.key, feed) for feed in feeds]
        for sort, texts in stated.items():
            shapes = (Shape.parse(text, STANDS) for text in texts)
            kept = tuple(SORTS[sort](number, shape) for number, shape in enumerate(shapes, 1))
            edits.append(SetStated(sort, kept))
        if edits:
            opened.furnish(edits)
        return id

    def adopt(
        self,
        workbook: Workbook,
        name: str,
        *,
        report: str = "",
        history: object = None,
        advance: Callable[[float], None] = lambda share: None,
    ) -> tuple[int, bool]:
        """Keep a workbook that was made elsewhere: ``adopting.adopt``. Raises DreieckError."""
        self._check_room()
        return adopt(
            self._database,
            workbook,
            checked_name(name),
            report=report,
            history=history,
            advance=advance,
            owner=self.person or NOBODY,
        )

    def copy(self, id: int, name: str, *, history: bool = False) -> int:
        """Save a workbook as another one. Raises KeyError or DreieckError."""
        return self.copy_of(self.open(id), name, history=history)

    def copy_of(self, opened: OpenWorkbook, name: str, *, history: bool = False) -> int:
        """Keep a copy of a workbook that may be somebody else's. Raises DreieckError."""
        with opened.lock:
            told = opened.told_history() if history else None
            made, _ = self.adopt(opened.workbook, name, report=opened.arrival(), history=told)
            shown = opened.workbook.sheets.index(opened.last_sheet())
        copied = self.open(made)
        copied.remember_sheet(copied.workbook.sheets[shown].id)
        return made

    def copy_all(self, to: Path) -> None:
        """Write the whole data file to another place.

        Raises StoreError, and DreieckError where it is not one person's.
        """
        if self.person is not None:
            raise DreieckError(
                "The data file holds the workbooks of all who sign in here, so it is not given"
                " away. Save your workbooks one by one."
            )
        data_file.copied(self._database, to)

    def rename(self, id: int, name: str) -> None:
        """Give a workbook another name. Raises KeyError or DreieckError."""
        name = checked_name(name)
        workbook = self.open(id)
        with workbook.lock, self._database.session() as session:
            row = session.get(WorkbookRow, id)
            if row is None:
                raise KeyError(id)
            row.name = name
            session.commit()
            workbook.workbook.name = name

    def losses(self, id: int) -> Losses:
        """What deleting a workbook would lose. Raises KeyError."""
        self._check_own(id)
        with self._database.session() as session:
            row = session.get(WorkbookRow, id)
            if row is None:
                raise KeyError(id)
            owned = select(SheetRow.id).where(SheetRow.workbook_id == id)
            each = col(RunRow.bottom) - col(RunRow.top) + 1
            cells = select(func.coalesce(func.sum(each), 0)).where(
                col(RunRow.sheet_id).in_(owned), col(RunRow.kind) != 0
            )
            changes = select(func.count()).where(ChangeRow.workbook_id == id)
            sheets = select(func.count()).where(SheetRow.workbook_id == id)
            return Losses(
                row.name,
                session.exec(sheets).one(),
                session.exec(cells).one(),
                session.exec(changes).one(),
            )

    def delete(self, id: int) -> None:
        """Delete a workbook with its sheets and history. Raises KeyError."""
        self._check_own(id)
        with self._lock, self._database.session() as session:
            row = session.get(WorkbookRow, id)
            if row is None:
                raise KeyError(id)
            session.delete(row)
            session.commit()
            for known in (self._kept, self._living, self._revisions, self._owners):
                known.pop(id, None)

    def open(self, id: int) -> OpenWorkbook:
        """The workbook with this number, in memory. Raises KeyError, StoreError or BusyError."""
        self._check_own(id)
        with self._lock:
            known = self._known(id)
            opening = self._opening.setdefault(id, WorkbookLock(id))
        if known:
            return known
        # Reading may take long, and holds up nobody but those who want the same workbook.
        with opening:
            with self._lock:
                known = self._known(id)
            if known:
                return known
            opened = OpenWorkbook(self._database, id, self._revisions)
            with self._lock:
                self._living[id] = self._kept[id] = opened
                self._let_go()
            return opened

    def revision(self, id: int) -> int | None:
        """The revision of a workbook that was opened before; None where it is deleted."""
        return self._revisions.get(id)

    def _known(self, id: int) -> OpenWorkbook | None:
        known = self._living.get(id)
        if known:
            self._kept[id] = known
            self._kept.move_to_end(id)
        return known

    def _let_go(self) -> None:
        """Keep no more in memory than may be; who holds a workbook still has it."""
        while len(self._kept) > 1 and (
            len(self._kept) > MAX_OPEN
            or sum(each.size for each in self._kept.values()) > MAX_OPEN_CELLS
        ):
            self._kept.popitem(last=False)

    def check(self) -> None:
        """See that all that is listed can be read. Raises StoreError."""
        try:
            self.listed()
        except DAMAGE as error:
            raise StoreError(damaged(self._database.path, error)) from error

    def close(self) -> None:
        """Close the data file."""
        self._database.close()


def checked_name(name: str) -> str:
    """The name for a workbook, trimmed. Raises DreieckError where it cannot be one."""
    name = " ".join(name.split())
    if not name:
        raise DreieckError("A workbook needs a name.")
    if wrong := next((c for c in name if c in _UNSEEN or not c.isprintable()), None):
        said = unicodedata.name(wrong, f"number {ord(wrong)}").lower()
        raise DreieckError(f"The name holds a character that cannot be seen ({said}).")
    if not any(unicodedata.category(c)[0] in "LNPS" for c in name):
        raise DreieckError("The name of a workbook has to show something.")
    if len(name) > MAX_NAME:
        raise DreieckError(f"The name of a workbook can have {MAX_NAME} characters.")
    return name


def _first_edits(opened: OpenWorkbook, sheet_id: int, sheet: NewSheet) -> Iterator[Edit]:
    cells = {}
    for address in sheet.entries | sheet.looks:
        cell = Cell.parse(address)
        look = sheet.looks.get(address, PLAIN)
        made_of = entered(opened.workbook, cell, sheet.entries.get(address, ""), look)
        cells[cell] = (made_of.content, made_of.look)
    if cells:
        yield SetCells.of(sheet_id, cells)
    if sheet.layout != PLAIN_LAYOUT:
        yield SetLayout(sheet_id, sheet.layout)
