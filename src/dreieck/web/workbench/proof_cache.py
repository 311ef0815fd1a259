"""The verdicts on the proofs of a workbook, and what else is known of them, once a revision."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from weakref import WeakKeyDictionary

from dreieck.core.budget import current
from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs.judging import OPEN, judged, judged_all
from dreieck.core.checking.proofs.proposing import Proposal, proposals
from dreieck.core.checking.proofs.since import Since, since
from dreieck.core.checking.proofs.verdict import Verdict
from dreieck.core.sheet.stated import Proof
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.once import once

_LAST: WeakKeyDictionary[OpenWorkbook, dict[int, Verdict]] = WeakKeyDictionary()
"""The verdicts that were found last, for when there is no time to look."""


@dataclass(frozen=True, slots=True)
class Turned:
    """A proof that would turn: its verdict as things are, and as they would be."""

    proof: Proof
    before: Verdict
    after: Verdict


def verdicts_of(opened: OpenWorkbook) -> dict[int, Verdict]:
    """The verdicts on the proofs of a workbook as it is kept, by their numbers."""
    proofs = opened.workbook.proofs
    if not proofs:
        return {}
    if current().hurried:
        last = _LAST.get(opened, {})
        return {proof.number: last.get(proof.number, OPEN) for proof in proofs}
    found = _LAST[opened] = once(opened, "proofs", lambda: judged_all(opened.calculation, proofs))
    return found


def failing(opened: OpenWorkbook) -> list[tuple[Proof, Verdict]]:
    """The proofs that fail as the workbook is kept."""
    verdicts = verdicts_of(opened)
    return [
        (proof, verdicts[proof.number])
        for proof in opened.workbook.proofs
        if verdicts[proof.number].fails
    ]


def failing_on(opened: OpenWorkbook) -> Counter[int]:
    """How many proofs fail that are about a sheet, by its number."""
    numbers = {sheet.name.casefold(): sheet.id for sheet in opened.workbook.sheets}
    counts: Counter[int] = Counter()
    for proof, verdict in failing(opened):
        names = {each.casefold() for each in _sheets(proof, verdict)}
        counts.update(numbers[name] for name in names if name in numbers)
    return counts


def _sheets(proof: Proof, verdict: Verdict) -> Iterator[str]:
    """The sheets on which a proof fails, or else those that it reads."""
    if verdict.wrong:
        yield from (sheet for sheet, _ in verdict.wrong)
    else:
        yield from (each.sheet for each in proof.shape.references if each.sheet)


def turned(opened: OpenWorkbook, calculation: Calculation) -> list[Turned]:
    """The proofs that would fail or hold with other values, unlike now."""
    if current().hurried:
        return []
    before = verdicts_of(opened)
    found = []
    for proof in calculation.workbook.proofs:
        known = before.get(proof.number)
        after = judged(calculation, proof) if known else None
        if known and after and {known.state, after.state} == {"holds", "fails"}:
            found.append(Turned(proof, known, after))
    return found


def sinces(opened: OpenWorkbook) -> dict[int, Since]:
    """Since which change proofs fail, by their numbers, as far as that is known."""
    if current().hurried:
        return {}
    numbers = [proof.number for proof, _ in failing(opened)]
    return once(opened, "since", lambda: since(opened.workbook, numbers, opened.changes_back()))


def proposed(opened: OpenWorkbook) -> list[Proposal]:
    """Proofs that could be made."""
    if current().hurried:
        return []
    return once(opened, "proposals", lambda: proposals(opened.calculation))
