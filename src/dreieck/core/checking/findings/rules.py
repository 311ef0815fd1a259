"""Where rules are registered: functions that look at a block, or a sheet, and find one thing.

All else that is told of a rule stands in ``rules.toml``: when it is raised, what mends it, and
a table in which it finds something.
"""

from __future__ import annotations

import pkgutil
import tomllib
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import cache
from typing import TYPE_CHECKING, NamedTuple

from dreieck.core.checking.findings.finding import Finding

if TYPE_CHECKING:
    from dreieck.core.calculate.calculation import Calculation
    from dreieck.core.checking.subject import Subject
    from dreieck.core.sheet.sheet import Sheet

BlockLook = Callable[["Subject"], Iterator[Finding]]
SheetLook = Callable[["Calculation", "Sheet"], Iterator[Finding]]

BLOCK_RULES: dict[str, BlockLook] = {}
"""What looks at a block, by the rule's identifier."""
SHEET_RULES: dict[tuple[str, ...], SheetLook] = {}
"""What looks at a sheet as a whole, by the identifiers of all that it may find."""


def rule(identifier: str) -> Callable[[BlockLook], BlockLook]:
    """Make a function the rule with this identifier. Raises ValueError where there is one."""
    _is_new(identifier)

    def register(look: BlockLook) -> BlockLook:
        def named(subject: Subject) -> Iterator[Finding]:
            for finding in look(subject):
                yield replace(finding, rule=identifier)

        BLOCK_RULES[identifier] = named
        return look

    return register


def sheet_rule(*identifiers: str) -> Callable[[SheetLook], SheetLook]:
    """Make a function a rule for whole sheets; what it does not name itself is the first.

    Raises ValueError where there is a rule with one of these identifiers.
    """
    for each in identifiers:
        _is_new(each)

    def register(look: SheetLook) -> SheetLook:
        def named(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
            for finding in look(calculation, sheet):
                yield replace(finding, rule=finding.rule or identifiers[0])

        SHEET_RULES[identifiers] = named
        return look

    return register


def _is_new(identifier: str) -> None:
    if identifier in BLOCK_RULES or any(identifier in each for each in SHEET_RULES):
        raise ValueError(f"There are two rules {identifier}.")


@dataclass(frozen=True, slots=True)
class Told:
    """What is told of a rule: what is so where it is raised, what mends it, and an example.

    The example is a table: cells are split by ``|`` from A1 on, ``"`` is filled from above, ``<``
    from the left, ``-- Name`` begins another sheet, ``name`` tells a name. ``wrong`` lists what
    is mistaken, ``right`` what a cell holds after the mend. What cells alone cannot show has none.
    """

    raised: str
    mend: str = ""
    example: str = ""


@cache
def told() -> dict[str, Told]:
    """What is told of all rules, by their identifiers."""
    content = tomllib.loads((pkgutil.get_data(__package__, "rules.toml") or b"").decode())
    return {identifier: Told(**each) for identifier, each in content.items()}


class Looks(NamedTuple):
    """What looks at a block, and what at a sheet."""

    block: list[BlockLook]
    sheet: list[SheetLook]


@cache
def looks() -> Looks:
    """All that looks, in the order in which it is told of.

    Raises ValueError where a rule is not told of, or what is told of is no rule.
    """
    here = {*BLOCK_RULES, *(each for names in SHEET_RULES for each in names)}
    if apart := here ^ told().keys():
        raise ValueError(f"Rules that are told or registered alone: {', '.join(sorted(apart))}.")
    in_order = [BLOCK_RULES[each] for each in told() if each in BLOCK_RULES]
    return Looks(in_order, [*SHEET_RULES.values()])
