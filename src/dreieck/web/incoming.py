"""Files on their way in: read beside the requests, with progress, so that they can be stopped."""

from __future__ import annotations

import json
import logging
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path
from secrets import token_urlsafe
from tempfile import TemporaryDirectory
from threading import RLock
from typing import Any

from dreieck.core.budget import WorkEnded
from dreieck.core.exceptions import DreieckError
from dreieck.files import Arrived, Progress, read, recognised
from dreieck.files.differences import Compared, compared
from dreieck.files.exceptions import FileRefused
from dreieck.files.formats import shown_name
from dreieck.files.settings import Settings
from dreieck.store import Database, Library, StoreError
from dreieck.store.data_file import MAGIC, checked

log = logging.getLogger("dreieck")

MAX_AT_ONCE = 2
"""How many files are read at the same time."""
MAX_HELD = 8
"""How many files of one person are held until they decide about them; then the oldest goes."""
MAX_HELD_BYTES = 400_000_000
"""How many bytes are held of all together; what would be more is refused."""
MAX_AGE = 1_800.0
"""So many seconds a file is held."""
_MAX_COPIES = 200


@dataclass
class Coming:
    """A file on its way in, which lies at ``path``.

    A table of text waits for ``settings``; what is read waits to be kept, which makes
    ``workbooks`` of it in the ``library`` of who brought it. ``problem`` tells why there will be
    none.
    """

    token: str
    name: str
    path: Path
    size: int
    kind: str
    library: Library
    progress: Progress = field(default_factory=Progress)
    settings: Settings | None = None
    arrived: Arrived | None = None
    compared: Compared | None = None
    workbooks: list[int] = field(default_factory=list)
    problem: str = ""
    future: Future[None] | None = None
    since: float = field(default_factory=time.monotonic)

    @property
    def data(self) -> bytes:
        """What the file holds. Raises FileRefused where it is not held any more."""
        try:
            return self.path.read_bytes()
        except OSError:
            raise FileRefused("This file is not held any more. Open it again.") from None

    def let_go(self) -> None:
        """The file is not needed any more."""
        self.arrived = None
        self.path.unlink(missing_ok=True)

    @property
    def is_busy(self) -> bool:
        """Whether it is being read or kept."""
        return self.future is not None and not self.future.done()

    @property
    def is_text(self) -> bool:
        """Whether it is a table of text, which can be read in more than one way."""
        return self.settings is not None


class Incoming:
    """The files on their way in."""

    def __init__(self) -> None:
        self._lock = RLock()
        self._held: OrderedDict[str, Coming] = OrderedDict()
        self._folder: TemporaryDirectory[str] | None = None
        self._workers = ThreadPoolExecutor(MAX_AT_ONCE, "file")

    def take(self, data: bytes, name: str, library: Library) -> Coming:
        """Take a file for a library; all but tables of text are read at once.

        Raises FileRefused.
        """
        format = None if data.startswith(MAGIC) else recognised(data, name)
        kind = format.name if format else "data"
        settings = format.guess(data) if format and format.guess else None
        token = token_urlsafe(12)
        with self._lock:
            self._folder = self._folder or TemporaryDirectory(prefix="dreieck-files-")
            path = Path(self._folder.name) / token
            coming = Coming(token, name[-200:], path, len(data), kind, library, settings=settings)
            self._tidy(library.person)
            if sum(each.size for each in self._held.values()) + len(data) > MAX_HELD_BYTES:
                raise FileRefused("Many files are on their way in just now. Try it again later.")
            try:
                path.write_bytes(data)
            except OSError as error:
                path.unlink(missing_ok=True)
                raise FileRefused(f"The file cannot be held here: {error.strerror}.") from None
            self._held[coming.token] = coming
        if not coming.is_text and kind != "data":
            self._work(coming, self._read)
        return coming

    def find(self, token: str, library: Library) -> Coming | None:
        """A file by its token, if it is on its way into this library."""
        with self._lock:
            found = self._held.get(token)
        return found if found and found.library.person == library.person else None

    def keep(self, coming: Coming) -> None:
        """Make workbooks of a file; what is not read yet is read first."""
        if not coming.is_busy and not coming.workbooks:
            coming.problem = ""
            coming.progress = Progress()
            self._work(coming, self._keep)

    def drop(self, token: str) -> None:
        """Give a file up."""
        with self._lock:
            coming = self._held.pop(token, None)
        if coming:
            coming.progress.stop()
            if not coming.is_busy:
                coming.let_go()

    def close(self) -> None:
        """Stop all work."""
        with self._lock:
            for coming in self._held.values():
                coming.progress.stop()
        self._workers.shutdown(wait=True, cancel_futures=True)
        if self._folder:
            self._folder.cleanup()

    def _tidy(self, person: int | None) -> None:
        """Let go what is held too long, and the oldest of a person who brings one more."""
        now = time.monotonic()
        for token, coming in list(self._held.items()):
            if now - coming.since > MAX_AGE:
                self.drop(token)
        own = [token for token, each in self._held.items() if each.library.person == person]
        for token in own[: max(len(own) - MAX_HELD + 1, 0)]:
            self.drop(token)

    def _work(self, coming: Coming, work: Callable[[Coming], None]) -> None:
        def guarded() -> None:
            try:
                work(coming)
            except (DreieckError, StoreError, WorkEnded) as refusal:
                coming.problem = str(refusal)
            except Exception:
                log.exception("the file %s could not be taken in", coming.name)
                coming.problem = (
                    "The file cannot be taken in: it holds something that no file of its kind"
                    " should. Nothing has changed."
                )
            finally:
                if coming.workbooks or coming.progress.is_stopped:
                    coming.let_go()

        coming.future = self._workers.submit(guarded)

    def _read(self, coming: Coming) -> None:
        coming.arrived = read(coming.data, coming.name, coming.progress, coming.settings)
        coming.progress.at(0.95, "comparing values")
        coming.compared = compared(coming.arrived, coming.progress)

    def _keep(self, coming: Coming) -> None:
        if coming.kind == "data":
            self._keep_all(coming)
            return
        if coming.arrived is None:
            self._read(coming)
        arrived = coming.arrived
        assert arrived is not None
        id, with_history = coming.library.adopt(
            arrived.workbook,
            arrived.workbook.name or shown_name(coming.name),
            report=report_of(coming),
            history=arrived.history,
            advance=lambda share: coming.progress.at(share, "keeping"),
        )
        coming.workbooks = [id]
        if not with_history:
            coming.problem = "Its history does not lead to it, so it came without one."

    def _keep_all(self, coming: Coming) -> None:
        """Take all workbooks of another data file, or none of them."""
        with TemporaryDirectory() as folder:
            path = Path(folder) / "brought.db"
            path.touch(mode=0o600)
            path.write_bytes(coming.data)
            kept: list[int] = []
            try:
                checked(path)
                _adopt_all(Library(Database(path)), coming, kept)
            except BaseException as error:
                for id in kept:
                    coming.library.delete(id)
                if isinstance(error, StoreError):
                    # Where it lies for the moment is nothing to be told.
                    raise FileRefused(str(error).replace(str(path), "The file")) from error
                raise
            coming.workbooks = kept


def _adopt_all(other: Library, coming: Coming, kept: list[int]) -> None:
    """Keep the workbooks of another library, and take down their numbers."""
    try:
        listed = other.listed()
        if len(listed) > _MAX_COPIES:
            raise FileRefused(f"The file has {len(listed):,} workbooks.")
        for number, each in enumerate(reversed(listed)):
            coming.progress.at(number / len(listed), f"keeping {each.name}")
            opened = other.open(each.id)
            id, _ = coming.library.adopt(
                opened.workbook, each.name, report=opened.arrival(),
                history=opened.told_history(),
            )  # fmt: skip
            kept.append(id)
    finally:
        other.close()


def report_of(coming: Coming) -> str:
    """What is told of a file as long as its workbook is there, as JSON."""
    assert coming.arrived is not None
    told: dict[str, Any] = {
        "name": coming.name,
        "kind": coming.kind,
        "left_out": [each.says for each in coming.arrived.left_out],
    }
    if coming.compared:
        told |= {
            "compared": coming.compared.compared,
            "differing": coming.compared.differing,
            "differences": [
                [each.place.sheet, each.place.cell.text, *each[1:]]
                for each in coming.compared.listed
            ],
        }
    return json.dumps(told)
