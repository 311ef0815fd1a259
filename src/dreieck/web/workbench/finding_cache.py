"""The findings that a page shows, looked up once for each revision of a workbook."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

from dreieck.core.budget import current
from dreieck.core.calculate import Block
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings import (
    Checked,
    Finding,
    block_findings,
    check_sheet,
    pattern_findings,
)
from dreieck.core.sheet.sheet import Sheet
from dreieck.store import OpenWorkbook
from dreieck.web.workbench.once import once

MAX_BLOCKS = 600
"""How many blocks of a sheet are checked for one page."""

T = TypeVar("T", Finding, Checked)


def findings_of(opened: OpenWorkbook, sheet: Sheet, block: Block) -> tuple[Finding, ...]:
    """The findings about one block of a workbook as it is kept."""
    key = (sheet.id, block.shape, block.parts)
    return _once(opened, key, lambda: block_findings(opened.calculation, sheet, block))


def findings_on(opened: OpenWorkbook, sheet: Sheet) -> tuple[Checked, ...]:
    """All blocks of a sheet with findings, those about its pattern last."""
    return _once(opened, (sheet.id,), lambda: checked(opened.calculation, sheet))


def breaks_on(opened: OpenWorkbook, sheet: Sheet) -> tuple[Finding, ...]:
    """What breaks the pattern of a sheet."""
    key = (sheet.id, "pattern")
    return _once(opened, key, lambda: tuple(pattern_findings(opened.calculation, sheet)))


def checked(calculation: Calculation, sheet: Sheet) -> tuple[Checked, ...]:
    """The blocks of a sheet that have findings, and its pattern; no more than can be shown."""
    found = check_sheet(calculation, sheet, MAX_BLOCKS)
    return tuple(each for each in found if each.findings)


def _once(
    opened: OpenWorkbook, key: tuple[object, ...], find: Callable[[], tuple[T, ...]]
) -> tuple[T, ...]:
    """What is found for a key, looked up once; in a hurry nothing is looked for."""
    return () if current().hurried else once(opened, key, find)
