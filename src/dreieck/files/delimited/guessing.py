"""How a table of text is written: guessed from its first lines, told so that it can be changed."""

from __future__ import annotations

import codecs
import csv
import io
import re
from collections import Counter
from itertools import islice

from charset_normalizer import from_bytes

from dreieck.files.settings import ENCODINGS, SEPARATORS, Order, Settings

_SAMPLE = 64_000
_LINES = 60
_BOMS = (
    (codecs.BOM_UTF8, "utf-8"), (codecs.BOM_UTF16_LE, "utf-16"), (codecs.BOM_UTF16_BE, "utf-16"),
)  # fmt: skip
_DAY = re.compile(r"(\d{1,4})([-/.])(\d{1,2})\2(\d{1,4})")
_COMMA = re.compile(r"[-+]?(?:\d{1,3}(?:[. ']\d{3})+|\d+),\d+%?")
_POINT = re.compile(r"[-+]?(?:\d{1,3}(?:[, ']\d{3})+|\d+)\.\d+%?")
_GROUPED = re.compile(r"[-+]?\d{1,3}(?:[.,]\d{3})+")
_NUMBER = re.compile(r"[-+]?[\d.,' ]*\d%?")


def guessed(data: bytes, *, tabs: bool = False) -> Settings:
    """How a table is written, as far as its first lines tell; ``tabs`` if its name says so."""
    encoding = _encoding(data)
    text = decoded_start(data, encoding)
    separator = "\t" if tabs and "\t" in text else _separator(text)
    quote = "'" if text.count('"') < 2 and _are_quotes("'", separator, text) else '"'
    lines = rows(text, separator, quote)
    cells = [cell.strip() for line in lines for cell in line]
    return Settings(
        separator, quote, encoding, _has_header(lines), _decimal(cells, separator), _order(cells)
    )


def decoded_start(data: bytes, encoding: str) -> str:
    """The first lines of a table."""
    decoder = codecs.getincrementaldecoder(encoding)("replace")
    text = decoder.decode(data[:_SAMPLE]).removeprefix("\ufeff")
    whole, newline, _ = text.rpartition("\n")
    return whole + newline if newline and len(data) > _SAMPLE else text


def rows(text: str, separator: str, quote: str) -> list[list[str]]:
    """The first rows of a text."""
    try:
        return list(islice(reader(io.StringIO(text, newline=""), separator, quote), _LINES))
    except csv.Error:
        return []


def reader(lines: io.TextIOBase, separator: str, quote: str):  # type: ignore[no-untyped-def]
    """A reader of rows."""
    if not quote:
        return csv.reader(lines, delimiter=separator, quoting=csv.QUOTE_NONE)
    return csv.reader(lines, delimiter=separator, quotechar=quote)


def _encoding(data: bytes) -> str:
    for mark, name in _BOMS:
        if data.startswith(mark):
            return name
    sample = data[:_SAMPLE]
    try:
        codecs.getincrementaldecoder("utf-8")("strict").decode(sample)
        return "utf-8"
    except UnicodeDecodeError:
        best = from_bytes(sample, cp_isolation=list(ENCODINGS)).best()
    name = (best.encoding if best else "cp1252").replace("_", "-")
    known = {codecs.lookup(each).name: each for each in ENCODINGS}
    return known.get(codecs.lookup(name).name, "cp1252")


def _separator(text: str) -> str:
    """The sign that cuts most lines into the same number of cells, most of them numbers."""
    best, score = ",", 0.0
    for separator in SEPARATORS:
        lines = rows(text, separator, '"')
        lengths = [len(line) for line in lines if line]
        if not lengths:
            continue
        width, count = Counter(lengths).most_common(1)[0]
        own = count / len(lengths) + min(width, 20) / 100 if width > 1 else 0.0
        cells = [cell.strip() for line in lines for cell in line]
        own += 0.5 * sum(bool(_NUMBER.fullmatch(cell)) for cell in cells) / max(len(cells), 1)
        # A colon is more often part of a time.
        own -= 0.3 if separator == ":" else 0
        if own > score:
            best, score = separator, own
    return best


def _are_quotes(quote: str, separator: str, text: str) -> bool:
    """Whether a sign stands around cells."""
    around = re.escape(quote)
    cells = re.findall(rf"(?:^|{re.escape(separator)}){around}[^{around}\n]*{around}", text, re.M)
    return len(cells) > 2


def _has_header(lines: list[list[str]]) -> bool:
    """Whether the first line names what stands in the columns."""
    if len(lines) < 2 or not lines[0] or any(_NUMBER.fullmatch(c.strip()) for c in lines[0]):
        return False
    if not all(cell.strip() for cell in lines[0][1:]):
        return False
    numbers = sum(bool(_NUMBER.fullmatch(c.strip())) for line in lines[1:] for c in line)
    return numbers > 0


def _decimal(cells: list[str], separator: str) -> str:
    commas = sum(bool(_COMMA.fullmatch(c)) and not _GROUPED.fullmatch(c) for c in cells)
    points = sum(bool(_POINT.fullmatch(c)) and not _GROUPED.fullmatch(c) for c in cells)
    if commas == points == 0 and separator == ";":
        return "," if any(_COMMA.fullmatch(cell) for cell in cells) else "."
    return "," if commas > points else "."


def _order(cells: list[str]) -> Order:
    """In which order days, months and years stand where numbers alone tell a date."""
    found = [match for cell in cells if (match := _DAY.match(cell))]
    years_first = sum(len(match[1]) == 4 for match in found)
    others = [match for match in found if len(match[1]) < 3]
    if not others or years_first > len(others):
        return "ymd"
    if any(int(match[1]) > 12 for match in others):
        return "dmy"
    if any(int(match[3]) > 12 for match in others):
        return "mdy"
    return "dmy"
