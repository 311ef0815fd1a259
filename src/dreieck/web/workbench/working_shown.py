"""The working of the formula in question, as the panel shows it and as it is copied."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.budget import current
from dreieck.core.values import Place
from dreieck.core.words.working import Working, working
from dreieck.web.workbench.situation import Situation


@dataclass(frozen=True)
class WorkingShown:
    """The steps, and all of them as text."""

    working: Working
    text: str


def working_shown(situation: Situation) -> WorkingShown | None:
    """The working of the landing in question, if it is asked for and there is time for it."""
    shape, entry = situation.shape, situation.written
    unfinished = entry is not None and (entry.problem or entry.brackets_added)
    if not situation.state.working or shape is None or unfinished or current().hurried:
        return None
    place = Place(situation.home.name, situation.here)
    here = shape.landed(situation.here)
    found = working(situation.calculation, place, here)
    return WorkingShown(found, found.text(place, situation.workbook.typed(here, situation.here)))
