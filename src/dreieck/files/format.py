"""What is known of a format of files: how it is told, read and written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.sheet.sheet import Sheet
from dreieck.files.arrived import Arrived, Leavings
from dreieck.files.progress import Progress
from dreieck.files.settings import Settings


@dataclass(frozen=True, slots=True)
class Wish:
    """What of a workbook is written: one sheet, or all where the format holds more than one.

    With ``formulas`` formulas are written instead of values, in formats that have no place for
    both. ``safe`` sees that no text of a table is taken for a formula by who opens it.
    """

    sheet: Sheet | None = None
    formulas: bool = False
    safe: bool = True
    history: dict[str, object] | None = None


@dataclass(frozen=True, slots=True)
class Sample:
    """What a format is told by: the file, how it is called, and the parts of a package."""

    data: bytes
    name: str
    parts: frozenset[str] = frozenset()

    @property
    def start(self) -> bytes:
        """How it begins, without what may stand before anything."""
        return self.data[:2_000].lstrip(b"\xef\xbb\xbf \t\r\n")


@dataclass(frozen=True, slots=True)
class Arriving:
    """A file to be read: what it holds, what it is called, and how it is written as text."""

    data: bytes
    called: str
    settings: Settings | None = None


Write = Callable[[Calculation, Progress, Leavings, Wish], bytes]
Read = Callable[[Arriving, Progress], Arrived]


@dataclass(frozen=True, slots=True)
class Format:
    """A format: its name, what it is called in words, and the endings of its files.

    Files with one of ``others`` are read, but not written. ``place`` is where it stands in
    lists. It is written if it can be, and read if it is
    recognised. ``holds_all`` tells that a workbook comes back from it as it was, ``holds_stated``
    its proofs and sweeps too, ``holds_feeds`` outside figures; ``use`` says what that is good
    for. Tables of text are written in many ways: ``guess`` tells how one is.
    """

    name: str
    says: str
    endings: tuple[str, ...]
    media_type: str
    place: int
    write: Write | None = None
    read: Read | None = None
    recognises: Callable[[Sample], bool] = lambda _: False
    others: tuple[str, ...] = ()
    holds_all: bool = False
    holds_stated: bool = False
    holds_feeds: bool = False
    use: str = ""
    guess: Callable[[bytes], Settings] | None = None

    @property
    def ending(self) -> str:
        """The ending of a file that is written."""
        return self.endings[0]
