"""What reading and writing files refuses, and why.

* DreieckError
  + FileRefused                a file that cannot be used; its text says why and what would do
* Stopped                      whoever wanted the file does not want it any more
"""

from __future__ import annotations

from dreieck.core.exceptions import DreieckError


class FileRefused(DreieckError):
    """A file that cannot be used; the text says why and what would do."""


class Stopped(Exception):
    """Reading was stopped on request."""
