"""Texts in parts: characters that XML cannot hold are told by numbers (22.9.2.19, ST_Xstring)."""

from __future__ import annotations

import re
from typing import Any

from openpyxl.xml.constants import SHEET_MAIN_NS

_TOLD = re.compile("_x([0-9A-Fa-f]{4})_")
_UNTELLABLE = re.compile("[\x00-\x08\x0b-\x1f\ufffe\uffff\ud800-\udfff]|_(?=x[0-9A-Fa-f]{4}_)")
_TEXT = f"{{{SHEET_MAIN_NS}}}t"
_RUN = f"{{{SHEET_MAIN_NS}}}r"


def told(text: str) -> str:
    """A text as a part holds it."""
    return _UNTELLABLE.sub(lambda match: f"_x{ord(match[0]):04X}_", text)


def untold(text: str) -> str:
    """The text that ``told`` told."""
    if "_x" not in text:
        return text
    found = _TOLD.sub(lambda match: chr(int(match[1], 16)), text)
    # Two halves are a character; one alone is none.
    return found.encode("utf-16-le", "surrogatepass").decode("utf-16-le", "replace")


def text_of(element: Any) -> str:
    """The text of an item: of all its runs, without what tells how it is spoken."""
    found: list[str] = []
    for each in element:
        if each.tag == _TEXT:
            found.append(each.text or "")
        elif each.tag == _RUN:
            found.append(each.findtext(_TEXT) or "")
    return untold("".join(found))
