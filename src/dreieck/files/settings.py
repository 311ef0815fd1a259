"""How a table of text is written: what may be told of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

from dreieck.files.exceptions import FileRefused

SEPARATORS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar", ":": "colon"}
ENCODINGS = (
    "utf-8",
    "utf-16",
    "cp1252",
    "iso-8859-15",
    "cp1250",
    "cp1251",
    "shift_jis",
    "gb18030",
)
Order = Literal["ymd", "dmy", "mdy", "none"]


@dataclass(frozen=True, slots=True)
class Settings:
    """How a table of text is written.

    With a ``header`` the first line names the columns. ``decimal`` is the sign in front of
    decimals; dates of numbers alone are read in an ``order`` besides that of ISO 8601, which is
    always read. Texts that begin like formulas are formulas only if ``formulas`` says so.
    """

    separator: str = ","
    quote: str = '"'
    encoding: str = "utf-8"
    header: bool = False
    decimal: str = "."
    order: Order = "ymd"
    formulas: bool = False

    def checked(self) -> Settings:
        """These settings, if they can be. Raises FileRefused."""
        allowed = (
            (self.separator, SEPARATORS), (self.quote, ('"', "'", "")),
            (self.encoding, ENCODINGS), (self.decimal, (".", ",")), (self.order, get_args(Order)),
        )  # fmt: skip
        for value, known in allowed:
            if value not in known:
                raise FileRefused(f"“{value[:20]}” is not a way in which a table can be written.")
        return self
