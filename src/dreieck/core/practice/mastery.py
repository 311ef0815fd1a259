"""How far somebody is with a skill, and when it is due again.

When it is due follows from FSRS, the free spaced repetition scheduler, by its library.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from random import Random

from fsrs import Card, Rating, Scheduler

from dreieck.core.practice.catalogue import code_for
from dreieck.core.practice.codes import LEVELS, Code
from dreieck.core.practice.skills import SKILLS, SkillKey

IN_ROW = 3
"""So many right answers in a row lead from one level to the next."""
STEPS = IN_ROW * len(LEVELS)
"""So many right answers in a row master a skill."""
_SCHEDULER = Scheduler(enable_fuzzing=False)


@dataclass(frozen=True)
class Mastery:
    """What is known of somebody's skill.

    ``steps`` counts the way through the levels; ``in_row`` the right answers since the last wrong
    one. ``card`` is what the scheduler keeps; without one the skill was never practised.
    """

    skill: SkillKey
    steps: int = 0
    in_row: int = 0
    answered: int = 0
    right: int = 0
    card: Card | None = None

    @property
    def level(self) -> int:
        """The level of the next question."""
        return min(1 + self.steps // IN_ROW, len(LEVELS))

    @property
    def is_mastered(self) -> bool:
        """Whether all levels are done."""
        return self.steps >= STEPS

    def is_due(self, now: datetime) -> bool:
        """Whether it is to be repeated by now; what was never practised is not."""
        return self.card is not None and self.card.due <= now

    def answered_at(self, now: datetime, *, is_right: bool) -> Mastery:
        """What is known after one more answer.

        A right one leads a step on. After a wrong one the level begins anew, or the one before it.
        """
        card, _ = _SCHEDULER.review_card(
            self.card or Card(card_id=0, due=now), Rating.Good if is_right else Rating.Again, now
        )
        begun = (self.level - 1) * IN_ROW
        back = begun if self.steps > begun else max(begun - IN_ROW, 0)
        return Mastery(
            self.skill,
            min(self.steps + 1, STEPS) if is_right else back,
            self.in_row + 1 if is_right else 0,
            self.answered + 1,
            self.right + is_right,
            card,
        )


def due(known: Iterable[Mastery], now: datetime) -> list[Mastery]:
    """The skills that are due, the one that has waited longest first."""
    return sorted((each for each in known if each.is_due(now)), key=_due_at)


def _due_at(mastery: Mastery) -> datetime:
    assert mastery.card is not None
    return mastery.card.due


def next_code(rng: Random, known: Mapping[SkillKey, Mastery], now: datetime) -> Code:
    """What to practise next: what is due, or else what one is least far with."""
    all_of = [known.get(key, Mastery(key)) for key in SKILLS]
    waiting = due(all_of, now)
    chosen = waiting[0] if waiting else min(all_of, key=lambda each: each.steps)
    return code_for(rng, chosen.skill, chosen.level)
