"""All formats of files, told apart by what a file holds, whatever it is called."""

from __future__ import annotations

import io
import pkgutil
import re
from dataclasses import dataclass
from importlib import import_module
from pathlib import PurePath
from zipfile import BadZipFile, ZipFile

from lxml import etree

import dreieck.files as room
from dreieck.core.budget import WorkEnded, working
from dreieck.core.calculate import Calculation
from dreieck.core.sheet.stated import SORTS, one_of
from dreieck.files.arrived import Arrived, Leavings, LeftOut
from dreieck.files.exceptions import FileRefused, TookTooLong
from dreieck.files.format import Arriving, Format, Sample, Wish
from dreieck.files.progress import Progress
from dreieck.files.settings import Settings
from dreieck.files.zipped import MAX_FILE

NAME = "workbook"


@dataclass(frozen=True, slots=True)
class Written:
    """A file, and what it does not hold."""

    data: bytes
    left_out: tuple[LeftOut, ...] = ()


def _all() -> dict[str, Format]:
    """What the modules of this room have as FORMATS. Raises ValueError for two of one name."""
    found: dict[str, Format] = {}
    for module in pkgutil.iter_modules(room.__path__):
        if module.name == __name__.rpartition(".")[2]:
            continue
        for each in getattr(import_module(f"{room.__name__}.{module.name}"), "FORMATS", ()):
            if each.name in found:
                raise ValueError(f"There are two formats {each.name}.")
            found[each.name] = each
    return dict(sorted(found.items(), key=lambda item: item[1].place))


FORMATS = _all()
"""The formats by name, as they stand in lists."""
_OTHERS = (
    (b"\xd0\xcf\x11\xe0", "a spreadsheet of an older, closed format"),
    (b"%PDF", "a PDF"), (b"\x89PNG", "a picture"), (b"\xff\xd8\xff", "a picture"),
    (b"GIF8", "a picture"), (b"\x1f\x8b", "a packed archive"), (b"Rar!", "a packed archive"),
    (b"7z\xbc\xaf", "a packed archive"), (b"SQLite format 3", "a database"),
    (b"\x7fELF", "a program"), (b"MZ", "a program"),
)  # fmt: skip
LONGEST = 15.0
"""So many seconds of the processor a file may take to be read, beside those for its cells."""
_WOULD_DO = "Save it as an OpenDocument or Office Open XML spreadsheet, or as CSV, and open that."


def written_ones() -> list[Format]:
    """The formats in which files are written."""
    return [each for each in FORMATS.values() if each.write]


def read_endings() -> list[str]:
    """The endings of the files that are read."""
    readable = [each for each in FORMATS.values() if each.read]
    return [ending for each in readable for ending in (*each.endings, *each.others)]


def named(name: str) -> Format:
    """The format, of those that are written, of an ending or name. Raises FileRefused."""
    plain = name.lower().rpartition(".")[2]
    for each in written_ones():
        if plain == each.name or f".{plain}" in each.endings:
            return each
    known = ", ".join(each.ending for each in written_ones())
    raise FileRefused(f"“{name[-40:]}” is no format that is known here. Known are {known}.")


def recognised(data: bytes, name: str) -> Format:
    """The format that a file has, of those that are read. Raises FileRefused."""
    if not data.strip():
        raise FileRefused("The file is empty.")
    if len(data) > MAX_FILE:
        raise FileRefused(
            f"The file has {len(data) / 1e6:,.0f} million bytes; it can have {MAX_FILE / 1e6:,.0f}"
            " million. Save a part of it, such as one sheet, and open that."
        )
    sample = Sample(data, name, _parts(data) if data.startswith(b"PK") else frozenset())
    for begin, what in _OTHERS:
        if data.startswith(begin):
            raise FileRefused(f"The file is {what}, which cannot be read here. {_WOULD_DO}")
    try:
        found = next((each for each in FORMATS.values() if each.recognises(sample)), None)
    except FileRefused as refusal:
        raise FileRefused(f"{refusal} {_WOULD_DO}") from None
    if found:
        return found
    what = "neither text nor a spreadsheet"
    if sample.parts:
        what = "a package, but no spreadsheet"
    elif sample.start.startswith(b"<"):
        what = "XML or HTML, but no known spreadsheet"
    raise FileRefused(f"The file is {what}. {_WOULD_DO}")


def _parts(data: bytes) -> frozenset[str]:
    """The parts of a package. Raises FileRefused."""
    try:
        return frozenset(ZipFile(io.BytesIO(data)).namelist()) or frozenset({""})
    except (BadZipFile, OSError, ValueError, NotImplementedError):
        raise FileRefused(
            "The file is a damaged package: it cannot be unpacked. Save it anew in the program"
            " that made it, and open that."
        ) from None


def read(
    data: bytes, name: str, progress: Progress | None = None, settings: Settings | None = None
) -> Arrived:
    """Read a file; ``settings`` tell how a table of text is written, or are guessed.

    Raises FileRefused, and WorkEnded where the work ends before.
    """
    progress = progress or Progress()
    format = recognised(data, name)
    called = shown_name(name)
    assert format.read
    with working(progress), progress.within(LONGEST):
        try:
            if format.guess:
                settings = settings or format.guess(data)
            arrived = format.read(Arriving(data, called, settings), progress)
        except TookTooLong as ended:
            raise FileRefused(str(ended)) from None
        except (FileRefused, WorkEnded):
            raise
        except RecursionError:
            raise FileRefused("The file nests its parts too deeply. It was left alone.") from None
        except MemoryError:
            raise FileRefused("The file needs more memory than there is.") from None
        except Exception as fault:
            # Libraries stumble over what breaks a standard in as many ways as there are.
            raise FileRefused(
                f"The file does not keep to its format, {format.says}. Save it anew in the"
                " program that made it, and open that."
            ) from fault
    arrived.workbook.name = arrived.workbook.name or called
    return arrived


def write(calculation: Calculation, format: Format, wish: Wish, progress: Progress) -> Written:
    """Write a workbook in a format that can be written. Raises FileRefused."""
    assert format.write
    leavings = Leavings()
    if calculation.workbook.feeds and not format.holds_feeds:
        leavings.add("outside figure", count=len(calculation.workbook.feeds))
    for sort in () if format.holds_stated else SORTS:
        if count := len(calculation.workbook.stated(sort)):
            leavings.add(one_of(sort), count=count)
    with working(progress):
        try:
            data = format.write(calculation, progress, leavings, wish)
        except (OSError, etree.SerialisationError) as error:
            # What is written part by part lies on the disk for a while.
            why = getattr(error, "strerror", None) or error
            raise FileRefused(f"The file cannot be made here: {why}.") from None
    return Written(data, leavings.listed())


def shown_name(name: str) -> str:
    """What a workbook is called that comes from a file of this name."""
    stem = PurePath(name.replace("\\", "/")).name
    for ending in read_endings():
        if stem.lower().endswith(ending):
            stem = stem[: -len(ending)]
            break
    plain = " ".join("".join(c if c.isprintable() else " " for c in stem).split())
    return plain[:60] if re.search(r"\w", plain) else "Table"
