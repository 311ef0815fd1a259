"""The foot: where the selection is, and what it comes to."""

from __future__ import annotations

import math
from dataclasses import dataclass

from dreieck.core.grid import Area
from dreieck.core.values import Error
from dreieck.core.words.counting import addresses
from dreieck.web.workbench.situation import Situation

_MOST = 100_000
"""So many results are worked out for their sum; of more it is told once they are known."""


@dataclass(frozen=True)
class Foot:
    """Where the selection is, and facts about it."""

    where: str
    facts: list[str]


def foot(situation: Situation) -> Foot:
    """The foot of a situation."""
    name, selection = situation.sheet.name, situation.selection
    if situation.rehearsing and situation.fill:
        name = situation.home.name
        return Foot(f"{name}!{situation.fill.target.text}", ["rehearsal, nothing written yet"])
    places = situation.state.places
    where = f"{name}!{addresses(places)}"
    if len(places) > 1:
        return Foot(where, _of_several(situation, name, places))
    if selection.size == 1:
        text = situation.shown_value(selection.first, name)
        # What goes on being written is no error yet.
        early = situation.writing and isinstance(situation.value(selection.first, name), Error)
        return Foot(where, [] if early or text == "empty" else [text[:80]])
    pending = situation.calculation.results(name).pending(selection)
    if pending and pending.size > _MOST:
        return Foot(where, [f"{situation.sheet.count(selection):,} filled"])
    total = situation.calculation.total(name, selection)
    return Foot(where, _facts(situation, total.filled, total.count, total.parts))


def _of_several(situation: Situation, name: str, places: list[Area]) -> list[str]:
    """The facts about several areas; what lies in two of them counts once."""
    found = (each for area in places for each in situation.calculation.filled_values(name, area))
    values = list(dict(found).values())
    numbers = [value for value in values if isinstance(value, float)]
    return _facts(situation, len(values), len(numbers), numbers)


def _facts(situation: Situation, filled: int, count: int, parts: list[float]) -> list[str]:
    facts = [f"{filled:,} filled"]
    try:
        total = math.fsum(parts)
    except (OverflowError, ValueError):
        total = math.inf
    if not math.isfinite(total):
        return [*facts, f"{count:,} numbers, too large to add up"]
    if count:
        facts += [
            f"sum {situation.text_of(total)}",
            f"average {situation.text_of(total / count)}",
            f"{count:,} numbers",
        ]
    return facts
