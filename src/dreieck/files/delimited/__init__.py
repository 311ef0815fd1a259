"""Tables as text: CSV (RFC 4180) and its kin with other separators, read and written."""

from __future__ import annotations

from functools import partial

from dreieck.core.calculate import Calculation
from dreieck.files.arrived import Arrived, Leavings
from dreieck.files.delimited.guessing import guessed
from dreieck.files.delimited.reading import Preview, preview, read
from dreieck.files.delimited.writing import write
from dreieck.files.format import Arriving, Format, Sample, Wish, Write
from dreieck.files.progress import Progress

__all__ = ["FORMATS", "Preview", "guessed", "preview", "read", "write"]

_TABS = (".tsv", ".tab")


def _writing(separator: str) -> Write:
    def written(
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
        data, changed = write(
            calculation, sheet, progress, separator, formulas=wish.formulas, safe=wish.safe
        )
        if changed:
            note = "it got an apostrophe, so that no program works it out"
            leavings.add("text with the sign of a formula in front", sheet.name, note, changed)
        return data

    return written


def _read(file: Arriving, progress: Progress) -> Arrived:
    assert file.settings is not None
    return read(file.data, file.called, file.settings, progress)


def _is_text(sample: Sample, *, tabs: bool) -> bool:
    """Whether a file is text; in two bytes a character it begins with a mark."""
    binary = b"\x00" in sample.data[:4_000]
    binary = binary and not sample.data.startswith((b"\xff\xfe", b"\xfe\xff"))
    other = sample.parts or sample.start.startswith((b"<", b"{"))
    return not binary and not other and sample.name.lower().endswith(_TABS) == tabs


FORMATS = (
    Format(
        "csv",
        "CSV, commas between values",
        (".csv", ".txt"),
        "text/csv",
        place=4,
        write=_writing(","),
        read=_read,
        recognises=partial(_is_text, tabs=False),
        guess=guessed,
    ),
    Format(
        "tsv",
        "TSV, tabs between values",
        _TABS,
        "text/tab-separated-values",
        place=5,
        write=_writing("\t"),
        read=_read,
        recognises=partial(_is_text, tabs=True),
        guess=partial(guessed, tabs=True),
    ),
)
