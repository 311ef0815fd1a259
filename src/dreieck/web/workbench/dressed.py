"""Styles of cells as the classes of the style sheet."""

from __future__ import annotations

from dataclasses import fields
from functools import lru_cache

from dreieck.core.values.style import Edges, Style

_USUAL = Style()


@lru_cache(1024)
def dressed_as(style: Style) -> tuple[str, ...]:
    """The classes of a style, such as ``bold``, ``ink-rose`` or ``top-thin``."""
    found: list[str] = []
    for field in fields(Style):
        value = getattr(style, field.name)
        if isinstance(value, Edges):
            lines = {side.name: getattr(value, side.name) for side in fields(Edges)}
            found.extend(f"{side}-{line}" for side, line in lines.items() if line != "none")
        elif value != getattr(_USUAL, field.name):
            found.append(field.name if value is True else f"{field.name}-{value}")
    return tuple(found)
