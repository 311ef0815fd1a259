"""Findings as the panel shows them, and how often each state occurs."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.checking.findings import Finding, Mend
from dreieck.core.formula.shift import tag
from dreieck.core.grid import Cell
from dreieck.web.workbench.colours import colour_of
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
    at: str
    reference: int
    tag: str
    colour: int
    mends: tuple[Mend, ...]


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
        finding.areas[0].first.text,
        reference,
        "" if finding.reference is None else tag(finding.reference),
        colour_of(reference),
        finding.mends,
    )


def state_of(cell: Cell, findings: tuple[Finding, ...]) -> str:
    """The state of a landing: broken, doubt or sound."""
    states = {f.state for f in findings if any(area.holds(cell) for area in f.areas)}
    return "broken" if "broken" in states else "doubt" if "doubt" in states else "sound"


def counted(size: int, findings: tuple[Finding, ...]) -> dict[str, int]:
    """How many landings of a block are sound, in doubt and broken."""
    broken = _covered([f for f in findings if f.state == "broken"])
    doubted = _covered([f for f in findings if f.state in ("broken", "doubt")]) - broken
    return {"sound": max(size - broken - doubted, 0), "doubt": doubted, "broken": broken}


def _covered(findings: list[Finding]) -> int:
    """How many cells the findings cover, each counted once, column by column."""
    columns: dict[int, list[tuple[int, int]]] = {}
    for finding in findings:
        for area in finding.areas:
            for column in range(area.left, area.right + 1):
                columns.setdefault(column, []).append((area.top, area.bottom))
    count = 0
    for spans in columns.values():
        reached = 0
        for top, bottom in sorted(spans):
            count += max(bottom - max(top - 1, reached), 0)
            reached = max(reached, bottom)
    return count
