"""The foot: where the selection is, and what it comes to."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from dreieck.core.calculate import look_at
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.values import Error
from dreieck.core.values.look import PLAIN, Look
from dreieck.core.words.counting import addresses, many
from dreieck.core.words.held import Held, held, held_of
from dreieck.web.workbench.situation import Situation

_MOST = 100_000
"""So many results are worked out for their sum; of more it is told once they are known."""

_DATES = {"date", "datetime"}
_SUMMED = ("percent", "time", "duration")
"""The number formats in which also a sum is told."""


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
    numbers = Numbers(total.count, total.low, total.high, total.parts)
    counted = held(situation.calculation, name, selection)
    return Foot(where, _facts(situation, numbers, counted, _looks(situation, name, places)))


@dataclass(frozen=True)
class Numbers:
    """Numbers that are selected: how many, the smallest, the largest, and what adds up to all."""

    count: int
    low: float
    high: float
    parts: list[float]


def _of_several(situation: Situation, name: str, places: list[Area]) -> list[str]:
    """The facts about several areas; what lies in two of them counts once."""
    found = (each for area in places for each in situation.calculation.filled_values(name, area))
    values = list(dict(found).values())
    numbers = [value for value in values if isinstance(value, float)]
    told = Numbers(len(numbers), min(numbers, default=0), max(numbers, default=0), numbers)
    return _facts(situation, told, held_of(values), _looks(situation, name, places))


def _facts(situation: Situation, numbers: Numbers, counted: Held, looks: set[Look]) -> list[str]:
    forms = {look.form for look in looks}
    if not numbers.count or forms & _DATES:
        facts = counted.facts or ["nothing filled"]
        if numbers.count and forms <= _DATES:
            look = next(iter(looks))
            first, last = (situation.text_of(n, look) for n in (numbers.low, numbers.high))
            facts = [f"{first} to {last}", many(numbers.count, "date"), *facts[1:]]
        return facts
    try:
        total = math.fsum(numbers.parts)
    except (OverflowError, ValueError):
        total = math.inf
    if not math.isfinite(total):
        return [*counted.facts, "too large to add up"]
    look = looks.pop() if len(looks) == 1 else PLAIN
    if look.form not in _SUMMED and not look.form.startswith("currency:"):
        look = PLAIN
    return [
        f"sum {situation.text_of(total, look)}",
        f"average {situation.text_of(total / numbers.count, look)}",
        *counted.facts,
    ]


def _looks(situation: Situation, name: str, places: list[Area]) -> set[Look]:
    """How the numbers in areas look, as far as they are written in different ways."""
    sheet, found = situation.calculation.workbook.sheet(name), set[Look]()
    for area in places:
        for first, cells in situation.calculation.columns(name, area):
            bottom = first.row + len(cells) - 1
            for top, last, _ in sheet.looks_between(first.column, first.row, bottom):
                part = cells.kinds[top - first.row : last - first.row + 1]
                rows = np.flatnonzero(part == Kind.NUMBER)
                if len(rows):
                    look = look_at(sheet, Cell(first.column, top + int(rows[0])))
                    found.add(Look(look.form))
    return found
