"""What reading and writing files refuses, and why.

* DreieckError
  + FileRefused                a file that cannot be used; its text says why and what would do
* WorkEnded
  + Stopped                    whoever wanted the file does not want it any more
  + TookTooLong                work on a file that takes longer than it may
"""

from __future__ import annotations

from dreieck.core.budget import WorkEnded
from dreieck.core.exceptions import DreieckError


class FileRefused(DreieckError):
    """A file that cannot be used; the text says why and what would do."""


class Stopped(WorkEnded):
    """Reading was stopped on request."""

    def __init__(self) -> None:
        super().__init__("Reading was stopped; nothing has changed.")


class TookTooLong(WorkEnded):
    """Work on a file takes more of the processor's time than it may."""

    def __init__(self) -> None:
        super().__init__(
            "The file takes longer to read than any file may. It was left alone; save a part of"
            " it, such as one sheet, and open that.",
            by_clock=True,
        )
