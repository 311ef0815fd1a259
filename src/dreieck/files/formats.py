"""The formats of files: told by what a file holds, whatever it is called; read and written."""

from __future__ import annotations

import io
import re
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import PurePath
from zipfile import BadZipFile, ZipFile

from lxml import etree

from dreieck.core.budget import WorkEnded, working
from dreieck.core.calculate import Calculation
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.sheet.stated import SORTS, one_of
from dreieck.files import delimited, document, markup, open_document, open_xml
from dreieck.files.arrived import Arrived, Leavings, LeftOut
from dreieck.files.delimited import Settings
from dreieck.files.exceptions import FileRefused, TookTooLong
from dreieck.files.progress import Progress
from dreieck.files.zipped import MAX_FILE

NAME = "workbook"


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
class Written:
    """A file, and what it does not hold."""

    data: bytes
    left_out: tuple[LeftOut, ...] = ()


Write = Callable[[Calculation, Progress, Leavings, Wish], bytes]


@dataclass(frozen=True, slots=True)
class Format:
    """A format: its name, the ending of its files, and what it holds.

    ``holds_all`` tells that a workbook comes back from it as it was.
    """

    name: str
    says: str
    ending: str
    media_type: str
    write: Write
    holds_all: bool = False
    holds_stated: bool = False
    reads: bool = True


def _json(calculation: Calculation, progress: Progress, _: Leavings, wish: Wish) -> bytes:
    return document.write(calculation.workbook, progress, wish.history)


def _text(separator: str) -> Write:
    def write(
        calculation: Calculation, progress: Progress, leavings: Leavings, wish: Wish
    ) -> bytes:
        sheets = calculation.workbook.sheets
        sheet = wish.sheet or sheets[0]
        if len(sheets) > 1:
            leavings.add("other sheet", count=len(sheets) - 1)
        formulas = sheet.count_formulas()
        if formulas:
            what = "value of a formula" if wish.formulas else "formula"
            note = "a table of text holds formulas or their values, and no looks"
            leavings.add(what, note=note, count=formulas)
        data, changed = delimited.write(
            calculation, sheet, progress, separator, formulas=wish.formulas, safe=wish.safe
        )
        if changed:
            note = "it got an apostrophe, so that no program works it out"
            leavings.add("text with the sign of a formula in front", sheet.name, note, changed)
        return data

    return write


def _markup(make: Callable[..., bytes]) -> Write:
    def write(calculation: Calculation, progress: Progress, _: Leavings, wish: Wish) -> bytes:
        sheets = [wish.sheet] if wish.sheet else calculation.workbook.sheets
        return make(calculation, sheets, progress, formulas=wish.formulas)

    return write


FORMATS = {
    each.name: each
    for each in (
        Format(
            "ods",
            "OpenDocument spreadsheet",
            ".ods",
            "application/vnd.oasis.opendocument.spreadsheet",
            lambda calculation, progress, leavings, _: open_document.write(
                calculation, progress, leavings
            ),
            holds_all=True,
            holds_stated=True,
        ),
        Format(
            "xlsx",
            "Office Open XML spreadsheet",
            ".xlsx",
            "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
            lambda calculation, progress, leavings, _: open_xml.write(
                calculation, progress, leavings
            ),
            holds_all=True,
        ),
        Format("json", "Workbook as JSON", ".json", "application/json", _json, holds_all=True,
               holds_stated=True),
        Format("csv", "CSV, commas between values", ".csv", "text/csv", _text(",")),
        Format("tsv", "TSV, tabs between values", ".tsv", "text/tab-separated-values",
               _text("\t")),
        Format("html", "HTML table", ".html", "text/html", _markup(markup.as_html), reads=False),
        Format("md", "Markdown table", ".md", "text/markdown", _markup(markup.as_markdown),
               reads=False),
    )
}  # fmt: skip
"""The formats by name."""
_OTHERS = (
    (b"\xd0\xcf\x11\xe0", "a spreadsheet of an older, closed format"),
    (b"%PDF", "a PDF"), (b"\x89PNG", "a picture"), (b"\xff\xd8\xff", "a picture"),
    (b"GIF8", "a picture"), (b"\x1f\x8b", "a packed archive"), (b"Rar!", "a packed archive"),
    (b"7z\xbc\xaf", "a packed archive"), (b"SQLite format 3", "a database"),
    (b"\x7fELF", "a program"), (b"MZ", "a program"),
)  # fmt: skip
_SAID = {name: each.says for name, each in FORMATS.items()} | {"fods": "OpenDocument as one text"}
LONGEST = 15.0
"""So many seconds of the processor a file may take to be read, beside those for its cells."""
_WOULD_DO = "Save it as an OpenDocument or Office Open XML spreadsheet, or as CSV, and open that."


def named(name: str) -> Format:
    """The format of an ending or name. Raises FileRefused."""
    plain = name.lower().rpartition(".")[2]
    found = FORMATS.get({"tab": "tsv", "txt": "csv", "htm": "html"}.get(plain, plain))
    if found is None:
        known = ", ".join(each.ending for each in FORMATS.values())
        raise FileRefused(f"“{name[-40:]}” is no format that is known here. Known are {known}.")
    return found


def recognised(data: bytes, name: str) -> str:
    """The name of the format that a file has: one of FORMATS, or ``fods``. Raises FileRefused."""
    if not data.strip():
        raise FileRefused("The file is empty.")
    if len(data) > MAX_FILE:
        raise FileRefused(
            f"The file has {len(data) / 1e6:,.0f} million bytes; it can have {MAX_FILE / 1e6:,.0f}"
            " million. Save a part of it, such as one sheet, and open that."
        )
    if data.startswith(b"PK"):
        return _packaged(data)
    for begin, what in _OTHERS:
        if data.startswith(begin):
            raise FileRefused(f"The file is {what}, which cannot be read here. {_WOULD_DO}")
    start = data[:2_000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if start.startswith(b"{"):
        return "json"
    if start.startswith(b"<"):
        if b"urn:oasis:names:tc:opendocument:xmlns:office:1.0" in data[:20_000]:
            return "fods"
        raise FileRefused(f"The file is XML or HTML, but no known spreadsheet. {_WOULD_DO}")
    # Text in two bytes a character begins with a mark.
    if b"\x00" in data[:4_000] and not data.startswith((b"\xff\xfe", b"\xfe\xff")):
        raise FileRefused(f"The file is neither text nor a spreadsheet. {_WOULD_DO}")
    return "tsv" if name.lower().endswith((".tsv", ".tab")) else "csv"


def _packaged(data: bytes) -> str:
    """Which package a zip archive is."""
    try:
        names = set(ZipFile(io.BytesIO(data)).namelist())
    except (BadZipFile, OSError, ValueError, NotImplementedError):
        raise FileRefused(
            "The file is a damaged package: it cannot be unpacked. Save it anew in the program"
            " that made it, and open that."
        ) from None
    if "mimetype" in names and "content.xml" in names:
        return "ods"
    if "[Content_Types].xml" in names:
        if any(name.endswith(".bin") and "workbook" in name for name in names):
            raise FileRefused(f"The file is a binary spreadsheet. {_WOULD_DO}")
        return "xlsx"
    raise FileRefused(f"The file is a package, but no spreadsheet. {_WOULD_DO}")


def read(
    data: bytes, name: str, progress: Progress | None = None, settings: Settings | None = None
) -> Arrived:
    """Read a file; ``settings`` tell how a table of text is written, or are guessed.

    Raises FileRefused, and WorkEnded where the work ends before.
    """
    progress = progress or Progress()
    kind = recognised(data, name)
    called = shown_name(name)
    with working(progress), progress.within(LONGEST):
        try:
            arrived = _read(kind, data, called, progress, settings)
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
                f"The file does not keep to its format, {_SAID.get(kind, 'a table of text')}."
                " Save it anew in the program that made it, and open that."
            ) from fault
    arrived.workbook.name = arrived.workbook.name or called
    return arrived


def _read(
    kind: str, data: bytes, called: str, progress: Progress, settings: Settings | None
) -> Arrived:
    match kind:
        case "ods":
            return open_document.read(data, progress)
        case "fods":
            return open_document.read_flat(data, progress)
        case "xlsx":
            return open_xml.read(data, progress)
        case "json":
            return document.read(data, progress)
        case _:
            settings = settings or delimited.guessed(data, tabs=kind == "tsv")
            return delimited.read(data, called, settings, progress)


def write(calculation: Calculation, format: Format, wish: Wish, progress: Progress) -> Written:
    """Write a workbook. Raises FileRefused."""
    leavings = Leavings()
    if calculation.workbook.feeds and format.name != "json":
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
    for ending in (".json", ".ods", ".fods", ".xlsx", ".xlsm", ".csv", ".tsv", ".tab", ".txt"):
        if stem.lower().endswith(ending):
            stem = stem[: -len(ending)]
            break
    plain = " ".join("".join(c if c.isprintable() else " " for c in stem).split())
    return plain[:60] if re.search(r"\w", plain) else "Table"
