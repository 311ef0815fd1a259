"""Looks as text, and back."""

from __future__ import annotations

from dataclasses import fields
from functools import lru_cache
from typing import Any

from dreieck.core.values.look import PLAIN, Look
from dreieck.core.values.style import PLAIN_STYLE, Edges, Style


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


def _style_words(style: Style) -> list[str]:
    words: list[str] = []
    for field in fields(Style):
        value = getattr(style, field.name)
        if value == getattr(PLAIN_STYLE, field.name):
            continue
        if isinstance(value, Edges):
            value = ",".join(getattr(value, side.name) for side in fields(Edges))
        words.append(field.name if value is True else f"{field.name}={value}")
    return words


def _style_of(words: list[str]) -> Style:
    told: dict[str, Any] = {}
    for word in words:
        name, mark, value = word.partition("=")
        told[name] = Edges(*value.split(",")) if name == "edges" else value if mark else True  # type: ignore[arg-type]
    return Style(**told)
