"""Proofs in the panel: the one that is written, and those that a rehearsal or trial would turn."""

from __future__ import annotations

from dataclasses import dataclass

from dreieck.core.checking.proofs.judging import judged
from dreieck.core.checking.proofs.verdict import Verdict
from dreieck.core.editing.stating import NEW
from dreieck.core.functions.statements import STATEMENTS, problem_of
from dreieck.core.words.proving import statement_said
from dreieck.web.workbench.situation import Situation


@dataclass(frozen=True)
class ProofWritten:
    """The proof that is written: what it states, whether that holds, and what else it could.

    ``number`` is that of the proof that changes, 0 for a new one; ``statements`` are what could
    be claimed, by the names of the statements.
    """

    number: int
    statement: str
    statements: dict[str, str]
    says: str
    verdict: Verdict | None


@dataclass(frozen=True)
class TurnedShown:
    """A proof that would fail, or hold again."""

    number: int
    says: str
    fails: bool
    outcome: str


def proof_written(situation: Situation) -> ProofWritten | None:
    """The proof that is being written."""
    state = situation.state
    if state.proving < NEW or not situation.writing:
        return None
    proof = situation.proof
    node = proof.shape.tree if proof else None
    whole = proof is not None and not problem_of(proof.shape)
    return ProofWritten(
        state.proving,
        getattr(node, "function", ""),
        {name: each.claim for name, each in STATEMENTS.items()},
        statement_said(situation.workbook, proof) if proof and whole else "",
        judged(situation.calculation, proof) if proof and whole else None,
    )


def turned_shown(situation: Situation) -> list[TurnedShown]:
    """The proofs that would turn, those that would fail first."""
    found = [
        TurnedShown(
            each.proof.number,
            statement_said(situation.workbook, each.proof),
            each.after.fails,
            each.after.says,
        )
        for each in situation.turned
    ]
    return sorted(found, key=lambda each: not each.fails)
