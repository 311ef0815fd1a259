"""A trial value as the panel shows it: what answers, before and after, and what keeps silent."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.calculate import look_at
from dreieck.core.checking.trial import Answer
from dreieck.core.formula.printer import area_text, place_text
from dreieck.core.grid import Area
from dreieck.core.values.look import shown_text
from dreieck.web.workbench.situation import Situation

_LISTED = 12


@dataclass(frozen=True)
class TrialShown:
    """The trial: the value, where it is held, how many answer, some of them, who keeps silent.

    ``here`` says that it is held in the selected cell.
    """

    value: str
    place: str
    here: bool
    count: int
    answers: list[tuple[str, str, str]]
    silent: list[str]


def trial_shown(situation: Situation) -> TrialShown | None:
    """The trial of a situation, if there is one."""
    trial, place = situation.trial, situation.tried_place
    if trial is None or place is None:
        return None
    return TrialShown(
        situation.state.trial,
        place_text(place),
        situation.state.tried_at == situation.state.place,
        trial.count,
        [_answer(situation, each) for each in trial.answers[:_LISTED]],
        [_place(situation, name, area) for name, area in trial.silent[:_LISTED]],
    )


def _answer(situation: Situation, answer: Answer) -> tuple[str, str, str]:
    sheet = situation.workbook.sheet(answer.sheet)
    look = look_at(sheet, answer.cell)
    locale = situation.workbook.locale
    place = _place(situation, answer.sheet, Area.of(answer.cell))
    return (
        place,
        shown_text(answer.before, look, 14, locale) or "empty",
        shown_text(answer.after, look, 14, locale) or "empty",
    )


def _place(situation: Situation, name: str, area: Area) -> str:
    return area_text(area, None if name == situation.sheet.name else name)
