"""Findings: what is in doubt or broken about filled formulas, and what mends it.

One rule, one function, in a module of this room, all of which are read; ``rules`` registers
them. ``check_workbook`` asks them all, and a review folds what comes of a mistake into its
finding.
"""

import pkgutil
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from importlib import import_module

from dreieck.core.calculate.blocks import Block, block_at, blocks
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.charts import missed_by
from dreieck.core.checking.findings.finding import Finding, Mend, State
from dreieck.core.checking.findings.pattern import breaks
from dreieck.core.checking.findings.review import brings, reviewed
from dreieck.core.checking.findings.rules import BLOCK_RULES, SheetLook, Told, looks, told
from dreieck.core.checking.subject import Subject
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.values import Place

__all__ = [
    "Checked",
    "Finding",
    "Mend",
    "State",
    "Told",
    "block_findings",
    "breaks",
    "check_sheet",
    "check_workbook",
    "missed_by",
    "pattern_findings",
    "told",
]
for _module in pkgutil.iter_modules(__path__):
    import_module(f"{__name__}.{_module.name}")


@dataclass(frozen=True, slots=True)
class Checked:
    """A block and its findings, the worst first; ``block`` is None for those of the sheet."""

    sheet: Sheet
    block: Block | None
    findings: tuple[Finding, ...]


def block_findings(calculation: Calculation, sheet: Sheet, block: Block) -> tuple[Finding, ...]:
    """The findings about one block, the worst first.

    An error that began elsewhere is told with the finding that is its cause.
    """
    found = reviewed(calculation, _raw(calculation, sheet, block), _Again)
    look = _Again(calculation)
    return tuple(_with_cause(look, finding) for finding in found)


def pattern_findings(calculation: Calculation, sheet: Sheet) -> tuple[Finding, ...]:
    """The findings that are about cells outside of blocks, or about several blocks."""
    return tuple(reviewed(calculation, _raw_of_sheet(calculation, sheet), _Again))


def check_sheet(
    calculation: Calculation, sheet: Sheet, most: int | None = None
) -> Iterator[Checked]:
    """The findings of every block of a sheet, then those about its pattern as a whole.

    With ``most`` only so many blocks are looked at, the first ones in reading order.
    """
    look = _Again(calculation)
    for checked in _checked(calculation, [sheet], most):
        told = tuple(_with_cause(look, finding) for finding in checked.findings)
        yield replace(checked, findings=told)


def check_workbook(calculation: Calculation) -> Iterator[Checked]:
    """The same for every sheet; what comes of a mistake is folded in from all of them."""
    return _checked(calculation, calculation.workbook.sheets, None)


def _checked(
    calculation: Calculation, sheets: Sequence[Sheet], most: int | None
) -> Iterator[Checked]:
    places: list[tuple[Sheet, Block | None]] = []
    found: list[Finding] = []
    for sheet in sheets:
        if most is None:
            _work_out(calculation, sheet)
        for block in (*blocks(sheet)[:most], None):
            found += _owned(calculation, sheet, block, len(places))
            places.append((sheet, block))
    by_place: dict[int, list[Finding]] = {}
    for finding in reviewed(calculation, found, _Again):
        by_place.setdefault(finding.owner, []).append(finding)
    for number, (sheet, block) in enumerate(places):
        yield Checked(sheet, block, tuple(by_place.get(number, ())))


def _owned(
    calculation: Calculation, sheet: Sheet, block: Block | None, owner: int
) -> list[Finding]:
    """What is found about a block, or a sheet, with the number that this has among all."""

    def find() -> list[Finding]:
        raw = _raw(calculation, sheet, block) if block else _raw_of_sheet(calculation, sheet)
        return [replace(finding, owner=owner) for finding in raw]

    return calculation.recall(sheet.name, (owner, block), find)


def _work_out(calculation: Calculation, sheet: Sheet) -> None:
    """Have all values of a sheet: at once they cost less than block by block."""

    def work_out() -> None:
        for _ in calculation.columns(sheet.name, sheet.used() or Area(1, 1, 1, 1)):
            pass

    calculation.recall(sheet.name, _work_out, work_out)


def _raw(calculation: Calculation, sheet: Sheet, block: Block) -> list[Finding]:
    return calculation.recall(sheet.name, block, lambda: _of_block(calculation, sheet, block))


def _of_block(calculation: Calculation, sheet: Sheet, block: Block) -> list[Finding]:
    subject = Subject(calculation, sheet, block)
    found = (finding for look in looks().block for finding in look(subject))
    # Equal references share a letter, and what is found about one of them is found about all.
    told = [_lettered(block, finding) for finding in found]
    alike = {(each.rule, each.reference, each.areas, each.says): each for each in reversed(told)}
    return list(reversed(alike.values()))


def _lettered(block: Block, finding: Finding) -> Finding:
    number, letters = finding.reference, block.shape.letters
    if number is None or number >= len(letters):
        return finding
    return replace(finding, reference=letters[number])


def _raw_of_sheet(calculation: Calculation, sheet: Sheet) -> list[Finding]:
    def found(look: SheetLook) -> list[Finding]:
        return calculation.recall(sheet.name, look, lambda: list(look(calculation, sheet)))

    return [finding for look in looks().sheet for finding in found(look)]


class _Again:
    """What the rules say with other values."""

    def __init__(self, calculation: Calculation) -> None:
        self._calculation = calculation

    def __call__(self, finding: Finding) -> Iterable[Finding]:
        sheet = self._calculation.workbook.sheet(finding.sheet)
        if finding.rule not in BLOCK_RULES:
            yield from _raw_of_sheet(self._calculation, sheet)
            return
        for area in finding.areas[:3]:
            if block := block_at(sheet, area.first):
                yield from _raw(self._calculation, sheet, block)

    def at(self, place: Place) -> Iterable[Finding]:
        """What is found about the block of a cell, and about its sheet."""
        if self._calculation.workbook.has_sheet(place.sheet):
            sheet = self._calculation.workbook.sheet(place.sheet)
            if block := block_at(sheet, place.cell):
                yield from _raw(self._calculation, sheet, block)
            yield from _raw_of_sheet(self._calculation, sheet)


def _with_cause(look: _Again, finding: Finding) -> Finding:
    """An error that began in other cells, with what is found about those."""
    began = finding.began
    if finding.rule != "error" or began is None:
        return finding
    if began.sheet == finding.sheet and finding.holds(began.cell):
        return finding
    others = (each for each in look.at(began) if each.rule != "error")
    cause = next((each for each in others if brings(each, finding)), None)
    if cause is None:
        return finding
    return replace(finding, says=f"{finding.says} {cause.says}", mends=cause.mends)
