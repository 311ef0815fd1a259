"""Sentences that name references by their letters in circles, with the circles drawn."""

from __future__ import annotations

import re

from markupsafe import Markup, escape

from dreieck.core.formula.shift import CIRCLED, tag, uncircled
from dreieck.web.colours import colour_of


def tagged(text: str) -> Markup:
    """A text, escaped, with the mark of a reference in its colour for each letter in a circle."""
    return Markup("").join(
        _mark(part) if CIRCLED.fullmatch(part) else escape(part)
        for part in re.split(f"({CIRCLED.pattern})", text)
    )


def _mark(circled: str) -> Markup:
    index = uncircled(circled)
    return Markup('<span class="tag c{}">{}</span>').format(colour_of(index), tag(index))
