"""What cells hold, in words: *396 numbers, 5 texts*."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from dreieck.core.calculate import Calculation
from dreieck.core.grid import Area
from dreieck.core.sheet.cells import Kind, Pool, encoded
from dreieck.core.values import Value

_NOUNS: dict[int, tuple[str, str]] = {
    Kind.NUMBER: ("number", "numbers"),
    Kind.TEXT: ("text", "texts"),
    Kind.LOGICAL: ("TRUE or FALSE", "TRUE or FALSE"),
    Kind.ERROR: ("error", "errors"),
}


@dataclass(frozen=True, slots=True)
class Held:
    """How many values of each kind there are."""

    counts: dict[int, int]

    @property
    def facts(self) -> list[str]:
        """How many there are of each kind that there is."""
        return [
            f"{count:,} {nouns[count != 1]}"
            for kind, nouns in _NOUNS.items()
            if (count := self.counts[kind])
        ]


def held(calculation: Calculation, sheet: str, area: Area) -> Held:
    """What the cells of an area hold; their values are worked out for it."""
    kinds = [cells.kinds for _, cells in calculation.columns(sheet, area)]
    return Held({kind: sum(int((each == kind).sum()) for each in kinds) for kind in _NOUNS})


def held_of(values: Iterable[Value]) -> Held:
    """How many values there are of each kind."""
    kinds = [encoded(value, Pool())[0] for value in values]
    return Held({kind: kinds.count(kind) for kind in _NOUNS})


def held_said(calculation: Calculation, sheet: str, area: Area) -> str:
    """The same in words; where values are still to be worked out, how many cells are filled."""
    if calculation.results(sheet).pending(area):
        return f"{calculation.workbook.sheet(sheet).count(area):,} filled"
    return ", ".join(held(calculation, sheet, area).facts) or "nothing"
