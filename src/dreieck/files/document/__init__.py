"""Our own workbook as one JSON text: all that it holds, with its history if wanted."""

from dreieck.files.document.reading import read
from dreieck.files.document.writing import write

__all__ = ["read", "write"]
