"""Open files: read into workbooks and written from them, distrusted and within bounds."""

from dreieck.files.arrived import Arrived, LeftOut
from dreieck.files.exceptions import FileRefused, Stopped
from dreieck.files.format import Format, Wish
from dreieck.files.formats import FORMATS, Written, named, read, recognised, write
from dreieck.files.progress import Progress

__all__ = [
    "FORMATS",
    "Arrived",
    "FileRefused",
    "Format",
    "LeftOut",
    "Progress",
    "Stopped",
    "Wish",
    "Written",
    "named",
    "read",
    "recognised",
    "write",
]
