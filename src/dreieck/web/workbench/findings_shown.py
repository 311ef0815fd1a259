"""Findings as the panel shows them, and how often each state occurs."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import Finding, Mend
from dreieck.core.checking.findings.broken import errors_shown
from dreieck.core.formula.shift import tag
from dreieck.core.formula.spelling import spelled
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import covered
from dreieck.core.practice.faults import cause_of
from dreieck.core.values.locales import NEUTRAL, takes_comma
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
    meant: str
    is_practised: bool
    """Whether there are drills about this kind of mistake."""

    @property
    def key(self) -> str:
        """What tells it apart from the others of its sheet."""
        return f"{self.rule} {self.reference} {self.at}"


def found(situation: Situation) -> list[Found]:
    """The findings about what the hands are at, the worst first."""
    locale = situation.workbook.locale
    return [shown(finding, locale) for finding in (*situation.findings, *situation.pattern)]


def elsewhere(situation: Situation) -> list[Found]:
    """The findings of the whole sheet, for when no block is in question."""
    checked = findings_on(situation.opened, situation.sheet)
    locale = situation.workbook.locale
    return [shown(finding, locale) for each in checked for finding in each.findings]


def shown(finding: Finding, locale: str = NEUTRAL) -> Found:
    """A finding as the panel shows it, its formulas as they are typed in a locale."""
    reference = -1 if finding.reference is None else finding.reference
    return Found(
        finding.rule,
        finding.state,
        "meant" if finding.meant else STATES[finding.state],
        finding.says,
        finding.why,
        "; ".join(finding.because),
        "; ".join(finding.causes),
        finding.areas[0].first.text,
        reference,
        "" if finding.reference is None else tag(finding.reference),
        colour_of(reference),
        tuple(_typed(mend, locale) for mend in finding.mends),
        finding.meant,
        cause_of(finding.rule) is not None,
    )


def _typed(mend: Mend, locale: str) -> Mend:
    """A mend with its formulas as they are typed."""
    if not takes_comma(locale):
        return mend
    before, after = (
        spelled(each) if each.startswith("=") else each for each in (mend.before, mend.after)
    )
    return replace(mend, before=before, after=after)


@dataclass(frozen=True)
class States:
    """Which landings are broken, since they show an error or lead to one, and which in doubt."""

    broken: tuple[Area, ...]
    doubted: tuple[Area, ...]

    @classmethod
    def of(cls, findings: Sequence[Finding], errors: Sequence[Area]) -> States:
        """The states by findings, and by the errors that are shown."""
        broken = [a for f in findings if f.state == "broken" for a in f.broken or f.areas]
        doubted = [area for f in findings if f.state != "note" for area in f.areas]
        return cls((*broken, *errors), tuple(doubted))

    def of_cell(self, cell: Cell) -> str:
        """The state of a landing: broken, doubt or sound."""
        if any(area.holds(cell) for area in self.broken):
            return "broken"
        return "doubt" if any(area.holds(cell) for area in self.doubted) else "sound"

    def counted(self, landings: Sequence[Area]) -> dict[str, int]:
        """How many of the landings are sound, in doubt and broken; no two areas overlap."""
        broken = _within(landings, self.broken)
        doubted = _within(landings, (*self.doubted, *self.broken)) - broken
        size = sum(area.size for area in landings)
        return {"sound": size - broken - doubted, "doubt": doubted, "broken": broken}


def states_of(calculation: Calculation, sheet: str, landings: Sequence[Area],
              findings: Sequence[Finding]) -> States:  # fmt: skip
    """The states of landings, by what is found and what they show."""
    return States.of(findings, errors_shown(calculation, sheet, landings))


def _within(landings: Sequence[Area], areas: Sequence[Area]) -> int:
    """How many of the landings areas cover, each counted once."""
    shared = (landing.common(area) for landing in landings for area in areas)
    return covered(("", area) for area in shared if area)
