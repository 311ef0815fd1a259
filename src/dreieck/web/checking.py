"""The findings that a page shows, looked up once for each revision of a workbook."""

from __future__ import annotations

from weakref import WeakKeyDictionary

from dreieck.core.budget import current
from dreieck.core.calculate import Block
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.findings import (
    Checked,
    Finding,
    block_findings,
    check_sheet,
    pattern_findings,
)
from dreieck.core.sheet import Sheet
from dreieck.store import OpenWorkbook

MOST_BLOCKS = 600
"""How many blocks of a sheet are checked for one page."""

_Known = dict[tuple[object, ...], tuple[Finding, ...] | tuple[Checked, ...]]
_KNOWN: WeakKeyDictionary[OpenWorkbook, tuple[int, _Known]] = WeakKeyDictionary()


def findings_of(opened: OpenWorkbook, sheet: Sheet, block: Block) -> tuple[Finding, ...]:
    """The findings about one block of a workbook as it is kept."""
    if current().hurried:
        return ()
    known = _known(opened)
    key = (sheet.id, block.shape, block.parts)
    if key not in known:
        known[key] = block_findings(opened.calculation, sheet, block)
    return known[key]  # type: ignore[return-value]  # the key is that of a block


def findings_on(opened: OpenWorkbook, sheet: Sheet) -> tuple[Checked, ...]:
    """All blocks of a sheet with findings, those about its pattern last."""
    if current().hurried:
        return ()
    known = _known(opened)
    key = (sheet.id,)
    if key not in known:
        known[key] = checked(opened.calculation, sheet)
    return known[key]  # type: ignore[return-value]  # the key is that of a sheet


def breaks_on(opened: OpenWorkbook, sheet: Sheet) -> tuple[Finding, ...]:
    """What breaks the pattern of a sheet."""
    if current().hurried:
        return ()
    known = _known(opened)
    key = (sheet.id, "pattern")
    if key not in known:
        known[key] = tuple(pattern_findings(opened.calculation, sheet))
    return known[key]  # type: ignore[return-value]  # the key is that of a pattern


def checked(calculation: Calculation, sheet: Sheet) -> tuple[Checked, ...]:
    """The blocks of a sheet that have findings, and its pattern; no more than can be shown."""
    found = check_sheet(calculation, sheet, MOST_BLOCKS)
    return tuple(each for each in found if each.findings)


def _known(opened: OpenWorkbook) -> _Known:
    known = _KNOWN.get(opened)
    if known is None or known[0] != opened.revision:
        known = _KNOWN[opened] = (opened.revision, {})
    return known[1]
