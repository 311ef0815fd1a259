"""Office Open XML spreadsheets (ISO/IEC 29500, SpreadsheetML), read and written.

The library behind them takes long to load, so it is loaded with the first file.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from dreieck.files.exceptions import FileRefused
from dreieck.files.format import Format, Sample

if TYPE_CHECKING:
    from dreieck.core.calculate import Calculation
    from dreieck.files.arrived import Arrived, Leavings
    from dreieck.files.progress import Progress


def read(data: bytes, progress: Progress) -> Arrived:
    """The workbook in a package. Raises FileRefused, and Stopped."""
    from dreieck.files.open_xml import reading

    return reading.read(data, progress)


def write(calculation: Calculation, progress: Progress, leavings: Leavings) -> bytes:
    """A workbook as a package; what that does not hold is added to ``leavings``."""
    from dreieck.files.open_xml import writing

    return writing.write(calculation, progress, leavings)


def _recognises(sample: Sample) -> bool:
    """Whether a package is one. Raises FileRefused where its parts are no XML."""
    if "[Content_Types].xml" not in sample.parts:
        return False
    if any(part.endswith(".bin") and "workbook" in part for part in sample.parts):
        raise FileRefused("The file is a binary spreadsheet.")
    return True


FORMATS = (
    Format(
        "xlsx",
        "Office Open XML spreadsheet",
        (".xlsx",),
        "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        place=2,
        write=lambda calculation, progress, leavings, _: write(calculation, progress, leavings),
        read=lambda file, progress: read(file.data, progress),
        recognises=_recognises,
        others=(".xlsm",),
        holds_all=True,
        use="all of it, for most programs",
    ),
)
