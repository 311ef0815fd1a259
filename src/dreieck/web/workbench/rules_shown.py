"""Rules in the panel: the one that is written, and those of the selected cell."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice

from dreieck.core.calculate.ruled import holds
from dreieck.core.values.style import Tone
from dreieck.web.workbench.band import TONES
from dreieck.web.workbench.situation import Situation

_MAX_COUNTED = 1_000


@dataclass(frozen=True)
class RuleWritten:
    """The rule that is written: its area, its tone, and in how many cells it holds."""

    area: str
    tone: Tone
    tones: dict[str, str]
    count: str


@dataclass(frozen=True)
class RuleShown:
    """A rule of the selected cell, as it reads there."""

    index: int
    area: str
    tone: Tone
    says: str
    holds: bool


def rule_written(situation: Situation) -> RuleWritten | None:
    """The rule whose condition is written."""
    area = situation.rule_area
    if not area:
        return None
    tones = {tone: says for tone, says in TONES.items() if tone != "none"}
    count = ""
    if situation.rule:
        cells = list(islice(area.cells(), _MAX_COUNTED))
        sheet, shape = situation.home.name, situation.rule.shape
        held = sum(holds(situation.calculation, sheet, shape, cell) for cell in cells)
        first = "the first " if len(cells) < area.size else ""
        count = f"holds in {held:,} of {first}{len(cells):,}"
    return RuleWritten(area.text, situation.state.rule_tone, tones, count)


def rules_here(situation: Situation) -> list[RuleShown]:
    """The rules of the selected cell."""
    if situation.writing or situation.rehearsing:
        return []
    sheet, cell = situation.sheet, situation.active
    return [
        RuleShown(
            index,
            rule.area.text,
            rule.tone,
            rule.shape.landed(cell).text(cell),
            holds(situation.calculation, sheet.name, rule.shape, cell),
        )
        for index, rule in enumerate(sheet.layout.rules)
        if rule.area.holds(cell)
    ]
