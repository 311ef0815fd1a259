"""OpenDocument spreadsheets (ISO/IEC 26300), as packages or as one XML text, read and written.

The libraries behind them take long to load, so they are loaded with the first file.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from dreieck.core.calculate import Calculation
    from dreieck.files.arrived import Arrived, Leavings
    from dreieck.files.progress import Progress


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
