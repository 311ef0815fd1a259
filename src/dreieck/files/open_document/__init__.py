"""OpenDocument spreadsheets (ISO/IEC 26300), as packages or as one XML text, read and written.

The libraries behind them take long to load, so they are loaded with the first file.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from dreieck.files.format import Format

if TYPE_CHECKING:
    from dreieck.core.calculate import Calculation
    from dreieck.files.arrived import Arrived, Leavings
    from dreieck.files.progress import Progress

_NAMESPACE = b"urn:oasis:names:tc:opendocument:xmlns:office:1.0"


def read(data: bytes, progress: Progress) -> Arrived:
    """The workbook in a package. Raises FileRefused, and Stopped."""
    from dreieck.files.open_document import reading

    return reading.read(data, progress)


def read_flat(data: bytes, progress: Progress) -> Arrived:
    """The workbook in one XML text. Raises FileRefused, and Stopped."""
    from dreieck.files.open_document import reading

    return reading.read_flat(data, progress)


def write(calculation: Calculation, progress: Progress, leavings: Leavings) -> bytes:
    """A workbook as a package; what that does not hold is added to ``leavings``."""
    from dreieck.files.open_document import writing

    return writing.write(calculation, progress, leavings)


FORMATS = (
    Format(
        "ods",
        "OpenDocument spreadsheet",
        (".ods",),
        "application/vnd.oasis.opendocument.spreadsheet",
        place=1,
        write=lambda calculation, progress, leavings, _: write(calculation, progress, leavings),
        read=lambda file, progress: read(file.data, progress),
        recognises=lambda sample: {"mimetype", "content.xml"} <= sample.parts,
        holds_all=True,
        holds_stated=True,
        use="all of it, for most programs",
    ),
    Format(
        "fods",
        "OpenDocument spreadsheet in one text",
        (".fods",),
        "application/vnd.oasis.opendocument.spreadsheet-flat-xml",
        place=8,
        read=lambda file, progress: read_flat(file.data, progress),
        recognises=lambda sample: (
            sample.start.startswith(b"<") and _NAMESPACE in sample.data[:20_000]
        ),
    ),
)
