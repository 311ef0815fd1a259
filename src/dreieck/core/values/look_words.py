"""Looks as a line of words, and back: how they are stored and told to other programs."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import astuple
from functools import lru_cache
from typing import Any

from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import Edges, Style


@lru_cache(4096)
def look_text(look: Look) -> str | None:
    """A look as text; None for the plain one.

    Its number format, decimals and role, then of its style what is not plain: ``bold`` or
    ``ink=rose``, and edges as ``edges=thin,none,none,double``.
    """
    if look == PLAIN:
        return None
    decimals = "" if look.decimals is None else str(look.decimals)
    return " ".join([look.form, decimals, look.role, *_style_words(look.style)])


def look_of(text: str | None) -> Look:
    """The look that ``look_text`` wrote."""
    if text is None:
        return PLAIN
    form, decimals, role, *style = text.split(" ")
    return Look(form, int(decimals) if decimals else None, role, _style_of(style))  # type: ignore[arg-type]


def _style_words(style: Style) -> Iterator[str]:
    for name, value in style.unusual().items():
        said = ",".join(astuple(value)) if isinstance(value, Edges) else value
        yield name if said is True else f"{name}={said}"


def _style_of(words: list[str]) -> Style:
    told: dict[str, Any] = {}
    for word in words:
        name, mark, value = word.partition("=")
        told[name] = Edges(*value.split(",")) if name == "edges" else value if mark else True  # type: ignore[arg-type]
    return Style(**told)
