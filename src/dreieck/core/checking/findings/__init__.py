"""Findings: what is in doubt or broken about filled formulas, and what mends it.

One rule, one function, registered in ``finding.RULES``; ``block_findings`` asks them all about
one block, ``sheet_findings`` about a whole sheet, with the breaks of its pattern.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from dreieck.core.calculate.blocks import Block, blocks
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings import broken, kinds, locking, ranges, unseen
from dreieck.core.checking.findings.charts import chart_findings, missed_by
from dreieck.core.checking.findings.finding import RULES, Finding, Mend, State
from dreieck.core.checking.findings.numbers import number_findings
from dreieck.core.checking.findings.pattern import breaks, pattern_findings
from dreieck.core.checking.findings.subject import Subject
from dreieck.core.sheet.sheet import Sheet

__all__ = [
    "RULES",
    "Checked",
    "Finding",
    "Mend",
    "State",
    "block_findings",
    "breaks",
    "check_sheet",
    "missed_by",
    "pattern_findings",
]
_ORDER = {"broken": 0, "doubt": 1, "note": 2}
del broken, kinds, locking, ranges, unseen


@dataclass(frozen=True, slots=True)
class Checked:
    """A block and its findings, the worst first; ``block`` is None for those of the sheet."""

    block: Block | None
    findings: tuple[Finding, ...]


def block_findings(calculation: Calculation, sheet: Sheet, block: Block) -> tuple[Finding, ...]:
    """The findings about one block, the worst first."""
    subject = Subject(calculation, sheet, block)
    found = [finding for rule in RULES.values() for finding in rule(subject)]
    return tuple(sorted(found, key=lambda finding: _ORDER[finding.state]))


def check_sheet(
    calculation: Calculation, sheet: Sheet, most: int | None = None
) -> Iterator[Checked]:
    """The findings of every block of a sheet, then those about its pattern as a whole.

    With ``most`` only so many blocks are looked at, the first ones in reading order.
    """
    if most is None and (used := sheet.used()):
        # All values at once cost less than block by block.
        list(calculation.columns(sheet.name, used))
    for block in blocks(sheet)[:most]:
        yield Checked(block, block_findings(calculation, sheet, block))
    whole = (
        *pattern_findings(calculation, sheet),
        *number_findings(sheet),
        *chart_findings(calculation, sheet),
    )
    yield Checked(None, whole)
