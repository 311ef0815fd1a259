"""Findings as the panel shows them, and how often each state occurs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from dreieck.core.checking.findings import Finding, Mend
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import covered
from dreieck.core.practice.faults import cause_of
from dreieck.web.colours import colour_of
from dreieck.web.workbench.finding_cache import findings_on
from dreieck.web.workbench.situation import Situation

STATES = {"broken": "broken", "doubt": "in doubt", "note": "a note"}


@dataclass(frozen=True)
class Found:
    """A finding on the panel; ``at`` is the first cell that it is about."""

    rule: str
    state: str
    state_said: str
    says: str
    why: str
    because: str
    causes: str
    at: str
    reference: int
    tag: str
    colour: int
    mends: tuple[Mend, ...]
    is_practised: bool
    """Whether there are drills about this kind of mistake."""

    @property
    def key(self) -> str:
        """What tells it apart from the others of its sheet."""
        return f"{self.rule} {self.reference} {self.at}"


def found(situation: Situation) -> list[Found]:
    """The findings about what the hands are at, the worst first."""
    return [shown(finding) for finding in (*situation.findings, *situation.pattern)]


def elsewhere(situation: Situation) -> list[Found]:
    """The findings of the whole sheet, for when no block is in question."""
    checked = findings_on(situation.opened, situation.sheet)
    return [shown(finding) for each in checked for finding in each.findings]


def shown(finding: Finding) -> Found:
    """A finding as the panel shows it."""
    reference = -1 if finding.reference is None else finding.reference
    return Found(
        finding.rule,
        finding.state,
        STATES[finding.state],
        finding.says,
        finding.why,
        "; ".join(finding.because),
        "; ".join(finding.causes),
        finding.areas[0].first.text,
        reference,
        "" if finding.reference is None else tag(finding.reference),
        colour_of(reference),
        finding.mends,
        cause_of(finding.rule) is not None,
    )


def state_of(cell: Cell, findings: tuple[Finding, ...]) -> str:
    """The state of a landing: broken, doubt or sound."""
    if any(area.holds(cell) for area in _broken(findings)):
        return "broken"
    return "doubt" if any(area.holds(cell) for area in _doubted(findings)) else "sound"


def counted(landings: Sequence[Area], findings: tuple[Finding, ...]) -> dict[str, int]:
    """How many of the landings are sound, in doubt and broken; no two areas overlap."""
    broken = _within(landings, _broken(findings))
    doubted = _within(landings, [*_doubted(findings), *_broken(findings)]) - broken
    size = sum(area.size for area in landings)
    return {"sound": size - broken - doubted, "doubt": doubted, "broken": broken}


def _broken(findings: tuple[Finding, ...]) -> list[Area]:
    """The cells that show an error, also where that comes of what is in doubt."""
    areas = (each.broken or each.areas for each in findings if each.state == "broken")
    return [area for each in areas for area in each]


def _doubted(findings: tuple[Finding, ...]) -> list[Area]:
    return [area for each in findings if each.state != "note" for area in each.areas]


def _within(landings: Sequence[Area], areas: list[Area]) -> int:
    """How many of the landings areas cover, each counted once."""
    shared = (landing.common(area) for landing in landings for area in areas)
    return covered(("", area) for area in shared if area)
