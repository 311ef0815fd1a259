"""Sentences that name references by their letters in circles, with the circles drawn."""

from __future__ import annotations

import re

from markupsafe import Markup, escape

from dreieck.core.formula.shift import CIRCLED, tag, uncircled
from dreieck.web.colours import colour_of

_REFERENCE = r"\$?[A-Z]{1,3}\$?\d{1,7}"
_FORMULA = re.compile(rf"=\S*[^\s.,;:?]|(?:\w+!)?{_REFERENCE}(?::{_REFERENCE})?")


def tagged(text: str) -> Markup:
    """A text, escaped, with the mark of a reference in its colour for each letter in a circle."""
    return Markup("").join(
        _mark(part) if CIRCLED.fullmatch(part) else escape(part)
        for part in re.split(f"({CIRCLED.pattern})", text)
    )


def with_formulas(text: str) -> Markup:
    """The same, with formulas and references with locks in the letters of formulas."""
    parts = re.split(rf"({_FORMULA.pattern})", text)
    return Markup("").join(
        Markup('<b class="mono">{}</b>').format(part) if number % 2 else tagged(part)
        for number, part in enumerate(parts)
    )


def _mark(circled: str) -> Markup:
    index = uncircled(circled)
    return Markup('<span class="tag c{}">{}</span>').format(colour_of(index), tag(index))
