"""Tables as text: CSV (RFC 4180) and its kin with other separators, read and written."""

from dreieck.files.delimited.guessing import Settings, guessed
from dreieck.files.delimited.reading import Preview, preview, read
from dreieck.files.delimited.writing import write

__all__ = ["Preview", "Settings", "guessed", "preview", "read", "write"]
