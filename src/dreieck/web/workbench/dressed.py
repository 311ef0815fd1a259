"""Styles of cells as the classes of the style sheet."""

from __future__ import annotations

from dataclasses import asdict
from functools import lru_cache

from dreieck.core.values.style import Edges, Style


@lru_cache(1024)
def dressed_as(style: Style) -> tuple[str, ...]:
    """The classes of a style, such as ``bold``, ``ink-rose`` or ``top-thin``."""
    found: list[str] = []
    for name, value in style.unusual().items():
        if isinstance(value, Edges):
            lines = asdict(value).items()
            found.extend(f"{side}-{line}" for side, line in lines if line != "none")
        else:
            found.append(name if value is True else f"{name}-{value}")
    return tuple(found)
