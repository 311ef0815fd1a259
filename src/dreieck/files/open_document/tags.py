"""The namespaces of OpenDocument (part 3, 1.4), and names in them."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

from lxml import etree

_OASIS = "urn:oasis:names:tc:opendocument:xmlns:"
NAMESPACES = {
    "office": _OASIS + "office:1.0",
    "style": _OASIS + "style:1.0",
    "text": _OASIS + "text:1.0",
    "table": _OASIS + "table:1.0",
    "draw": _OASIS + "drawing:1.0",
    "fo": _OASIS + "xsl-fo-compatible:1.0",
    "number": _OASIS + "datastyle:1.0",
    "svg": _OASIS + "svg-compatible:1.0",
    "chart": _OASIS + "chart:1.0",
    "config": _OASIS + "config:1.0",
    "meta": _OASIS + "meta:1.0",
    "of": _OASIS + "of:1.2",
    "xlink": "http://www.w3.org/1999/xlink",
    "kept": "urn:dreieck:kept",
}
VERSION = "1.3"
STATED = "Dreieck "
"""What user-defined metadata begin with that carry a proof or sweep (part 3, 4.3.3)."""
Said = Mapping[str, str | None]
"""Attributes by their names with prefixes; those that are None are left out."""


@lru_cache(512)
def tag(name: str) -> str:
    """A name such as ``table:table-row`` with its namespace."""
    prefix, _, local = name.partition(":")
    return f"{{{NAMESPACES[prefix]}}}{local}"


def attributes(said: Said) -> dict[str, str]:
    """Attributes by their names with prefixes; those that are None are left out."""
    return {tag(name): value for name, value in said.items() if value is not None}


def element(name: str, said: Said | None = None, text: str | None = None) -> Any:
    """A new element."""
    made: Any = etree.Element(tag(name), attributes(said or {}), nsmap=NAMESPACES)
    made.text = text
    return made


def add(parent: Any, name: str, said: Said | None = None, text: str | None = None) -> Any:
    """A new element below another one."""
    made: Any = etree.SubElement(parent, tag(name), attributes(said or {}))
    made.text = text
    return made
