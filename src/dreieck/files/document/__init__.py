"""Our own workbook as one JSON text: all that it holds, with its history if wanted."""

from dreieck.files.document.reading import read
from dreieck.files.document.writing import write
from dreieck.files.format import Format

__all__ = ["FORMATS", "read", "write"]

FORMATS = (
    Format(
        "json",
        "Workbook as JSON",
        (".json",),
        "application/json",
        place=3,
        write=lambda calculation, progress, _, wish: write(
            calculation.workbook, progress, wish.history
        ),
        read=lambda file, progress: read(file.data, progress),
        recognises=lambda sample: sample.start.startswith(b"{"),
        holds_all=True,
        holds_stated=True,
        holds_feeds=True,
        use="all of it, to be opened here again",
    ),
)
