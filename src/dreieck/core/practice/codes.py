"""The code of a drill: its kind, its level and its seed, such as ``lock-2-48151``."""

from __future__ import annotations

import re
from dataclasses import dataclass

from dreieck.core.exceptions import DreieckError

MAX_SEED = 999_999_999
LEVELS = (1, 2, 3)
KINDS: dict[str, tuple[str, str]] = {
    "predict": ("Predict", "What stands there, what it shows, which cell it reads"),
    "lock": ("Lock", "Choose the locks so that the fill gives the values shown"),
    "write": ("Write", "Write the first formula so that the fill is right"),
    "find": ("Find", "Point at the first wrong landing, name its cause, mend it"),
    "explain": ("Explain", "Which sentence, which drawing belongs to a formula"),
    "name": ("Name", "Named ranges in filled formulas"),
    "range": ("Range growing", "Running totals, shares and what is left"),
    "sheet": ("Other sheet", "Inputs and tables on another sheet"),
    "recurrence": ("Recurrence", "Each landing goes on from the one before"),
    "lookup": ("Lookup lock", "A list that all landings search"),
}
"""What kinds of question there are: their title, and what they ask for."""
_CODE = re.compile(r"([a-z]+)-([1-9])-(\d{1,9})")


@dataclass(frozen=True, slots=True, order=True)
class Code:
    """A question: the same code gives the same question, everywhere."""

    kind: str
    level: int
    seed: int

    @classmethod
    def parse(cls, text: str) -> Code:
        """The code that a text is. Raises DreieckError."""
        match = _CODE.fullmatch(text.strip().lower())
        if not match or match[1] not in KINDS or int(match[2]) not in LEVELS:
            raise DreieckError(
                f"“{text[:40]}” is no code of a drill. One is made of a kind, a level and a"
                " number, such as lock-2-48151."
            )
        return cls(match[1], int(match[2]), int(match[3]))

    @property
    def text(self) -> str:
        """The code as it is written."""
        return f"{self.kind}-{self.level}-{self.seed}"
