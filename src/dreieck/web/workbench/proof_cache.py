"""The verdicts on the proofs of a workbook, and what else is known of them, once a revision."""

from __future__ import annotations

import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from weakref import WeakKeyDictionary

from dreieck.core.budget import current
from dreieck.core.calculate import Calculation
from dreieck.core.checking.proofs.judging import OPEN, judged
from dreieck.core.checking.proofs.proposing import Proposal, proposals
from dreieck.core.checking.proofs.since import Since, since
from dreieck.core.checking.proofs.verdict import Verdict
from dreieck.core.formula import Shape
from dreieck.core.sheet.stated import Proof
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.once import once

_LOOKING_BACK = 0.6
"""So many seconds are spent on looking for the changes that broke proofs."""
_KNOWN: WeakKeyDictionary[OpenWorkbook, tuple[int, dict[Shape, Verdict]]] = WeakKeyDictionary()
"""The verdicts that were found last, by statement, and with which revision of the values."""


@dataclass(frozen=True, slots=True)
class Turned:
    """A proof that would turn: its verdict as things are, and as they would be."""

    proof: Proof
    before: Verdict
    after: Verdict


def verdicts_of(opened: OpenWorkbook) -> dict[int, Verdict]:
    """The verdicts on the proofs of a workbook as it is kept, by their numbers.

    They are looked for anew where values may have changed; in a hurry the last ones count.
    """
    proofs = opened.workbook.proofs
    revision, known = _KNOWN.get(opened, (-1, {}))
    if not current().hurried and proofs:
        if revision != opened.values_at:
            known = {}
        for proof in proofs:
            if proof.shape not in known:
                known[proof.shape] = judged(opened.calculation, proof)
        _KNOWN[opened] = (opened.values_at, known)
    return {proof.number: known.get(proof.shape, OPEN) for proof in proofs}


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
    ends = time.monotonic() + _LOOKING_BACK

    def look() -> dict[int, Since]:
        back = opened.changes_back()
        return since(opened.workbook, numbers, back, lambda: time.monotonic() < ends)

    return once(opened, "since", look)


def proposed(opened: OpenWorkbook) -> list[Proposal]:
    """Proofs that could be made."""
    if current().hurried:
        return []
    return once(opened, "proposals", lambda: proposals(opened.calculation))
