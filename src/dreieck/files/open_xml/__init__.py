"""Office Open XML spreadsheets (ISO/IEC 29500, SpreadsheetML), read and written.

The library behind them takes long to load, so it is loaded with the first file.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

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
