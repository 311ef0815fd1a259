"""A cell's look: its number format and appearance; what a value looks like with it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dreieck.core.values.decimals import exact, fitted
from dreieck.core.values.formats import format_named
from dreieck.core.values.locales import NEUTRAL, localized
from dreieck.core.values.style import PLAIN_STYLE, Style
from dreieck.core.values.value import Error, Value

Role = Literal["plain", "title", "heading", "input", "result"]
MAX_DECIMALS = 30


@dataclass(frozen=True, slots=True)
class Look:
    """How a cell shows its value.

    ``form`` is the name of a number format; ``decimals`` counts the digits behind the point,
    None for as many as there are.
    """

    form: str = "general"
    decimals: int | None = None
    role: Role = "plain"
    style: Style = PLAIN_STYLE

    @property
    def shows_empty(self) -> bool:
        """Whether it is seen in an empty cell, too."""
        return self.role in ("input", "result") or self.style.shows_empty


PLAIN = Look()


def shown_text(value: Value, look: Look = PLAIN, room: int = 40, locale: str = NEUTRAL) -> str:
    """The text that shows a value in a cell with ``room`` characters, as a locale writes it.

    A number is never cut; one with so many decimals has them all, whether there is room or not.
    """
    if value is None:
        return ""
    if isinstance(value, bool):
        return "TRUE" if value else "FALSE"
    if isinstance(value, Error):
        return value.code
    if isinstance(value, str):
        return value
    number = exact(value)
    text = format_named(look.form).show(number, look.decimals, room)
    text = fitted(number, look.decimals, room) if text is None else text
    return localized(text, look.form, locale) if locale else text
