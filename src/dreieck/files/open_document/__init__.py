"""OpenDocument spreadsheets (ISO/IEC 26300), as packages or as one XML text, read and written."""

from dreieck.files.open_document.reading import read
from dreieck.files.open_document.writing import write

__all__ = ["read", "write"]
