"""Office Open XML spreadsheets (ISO/IEC 29500, SpreadsheetML), read and written."""

from dreieck.files.open_xml.reading import read
from dreieck.files.open_xml.writing import write

__all__ = ["read", "write"]
