"""What comes of looking at a proof."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from dreieck.core.grid import Area

State = Literal["holds", "fails", "open"]
MAX_DRAWN = 240
"""So many cells of a proof are drawn at the most."""


@dataclass(frozen=True, slots=True)
class Picture:
    """What a small picture of a proof draws.

    ``numbers`` are those of its first cells, None where there is none, ``wrong`` tells which of
    them are to blame. ``others`` are what they are held against; ``low`` and ``high`` what they
    must lie between; ``wanted`` is what they should add up to.
    """

    kind: Literal["sum", "line", "band", "pairs", "tiles"]
    numbers: tuple[float | None, ...]
    wrong: tuple[bool, ...]
    others: tuple[float | None, ...] = ()
    low: float = 0.0
    high: float = 0.0
    wanted: float = 0.0


@dataclass(frozen=True, slots=True)
class Verdict:
    """Whether a proof holds, and by how much it fails, in words.

    It is ``open`` where there was no time to look. ``wrong`` are the cells to blame, by sheet,
    the first one first.
    """

    state: State
    says: str
    wrong: tuple[tuple[str, Area], ...] = ()
    picture: Picture | None = None

    @property
    def fails(self) -> bool:
        """Whether the statement does not hold."""
        return self.state == "fails"


class CannotJudge(Exception):
    """Raised where a statement says nothing that could be looked at; the text says why.

    ``where`` are the cells to blame, if it is cells, ``picture`` shows them.
    """

    def __init__(
        self, says: str, *where: tuple[str, Area], picture: Picture | None = None
    ) -> None:
        super().__init__(says)
        self.where = where
        self.picture = picture
