"""A cell's appearance beside its number format: letters, place, tones, edges."""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any, Literal

Size = Literal["small", "usual", "large", "huge"]
Across = Literal["usual", "left", "middle", "right", "spanning"]
"""Where a text stands between left and right; *spanning* centres it over the empty cells that
follow and are spanned too."""
Upright = Literal["middle", "top", "bottom"]
Tone = Literal[
    "none", "gentian", "larch", "lake", "rose", "moss", "plum", "slate", "sound", "doubt", "broken"
]
Line = Literal["none", "thin", "thick", "double"]


@dataclass(frozen=True, slots=True)
class Edges:
    """The lines around a cell."""

    left: Line = "none"
    top: Line = "none"
    right: Line = "none"
    bottom: Line = "none"


@dataclass(frozen=True, slots=True)
class Style:
    """How a cell is dressed; ``ink`` is the tone of its text, ``ground`` that behind it."""

    bold: bool = False
    italic: bool = False
    size: Size = "usual"
    across: Across = "usual"
    upright: Upright = "middle"
    wrap: bool = False
    ink: Tone = "none"
    ground: Tone = "none"
    edges: Edges = Edges()

    @property
    def shows_empty(self) -> bool:
        """Whether it is seen in an empty cell, too."""
        return self.ground != "none" or self.edges != Edges() or self.across == "spanning"

    def unusual(self) -> dict[str, Any]:
        """What of it is not as usual, by name."""
        return {
            field.name: value
            for field in fields(self)
            if (value := getattr(self, field.name)) != getattr(PLAIN_STYLE, field.name)
        }


PLAIN_STYLE = Style()
