"""What a mend would do, tried on a fork: which results it changes, and how they were wrong."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from itertools import islice

from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.trial import differing
from dreieck.core.formula import Shape
from dreieck.core.grid import Area
from dreieck.core.grid.areas import cells_of, joined
from dreieck.core.sheet.edits import SetCells, SetCharts
from dreieck.core.values import Error, Value
from dreieck.core.words.counting import listed

_MOST_CELLS = 20_000
_MOST_COMPARED = 300
_MOST_KINDS = 4


def tried(calculation: Calculation, mend: Mend) -> Calculation | None:
    """The values with a mend; None for charts, and where it writes too much to be tried."""
    if any(isinstance(edit, SetCharts) for edit in mend.edits):
        return None
    cells = [edit for edit in mend.edits if isinstance(edit, SetCells)]
    size = sum(area.size for edit in cells for area in edit.areas())
    return calculation.with_edits(mend.edits) if size <= _MOST_CELLS else None


def wrongs(before: Calculation, after: Calculation, finding: Finding) -> Iterator[str]:
    """How results that a finding is about were wrong: *C7 is 0*, *C9 is larger than …*."""
    kinds: dict[tuple[str, str], list[Area]] = {}
    for area in _strips(_results(before, finding)):
        pairs = zip(_values(before, finding, area), _values(after, finding, area), strict=True)
        for row, (one, two) in enumerate(pairs, area.top):
            if kind := _kind(one, two):
                kinds.setdefault(kind, []).append(Area(area.left, row, area.left, row))
    for (one, several), cells in islice(kinds.items(), _MOST_KINDS):
        areas = joined(cells)
        yield f"{listed(areas)} {one if len(cells) == 1 else several}"


def _results(calculation: Calculation, finding: Finding) -> tuple[Area, ...]:
    """What shows a mistake: the cells of a finding, or where these are typed what reads them."""
    sheet = calculation.sheet(finding.sheet)
    if any(isinstance(sheet.content(area.first), Shape) for area in finding.areas):
        return finding.areas
    read = (calculation.read_map().reading(sheet.name, area) for area in finding.areas)
    readers = [each.area for found in read for each in found if each.sheet == sheet.name]
    return tuple(dict.fromkeys(readers)) or finding.areas


def _kind(before: Value, after: Value) -> tuple[str, str] | None:
    """What is wrong with a value beside the right one, of one cell and of several."""
    if isinstance(before, Error):
        return (
            None if isinstance(after, Error) else (f"shows {before.code}", f"show {before.code}")
        )
    if before == after or isinstance(after, Error):
        return None
    if before == "" or before is None:
        return "shows nothing", "show nothing"
    if isinstance(before, float) and isinstance(after, float):
        if before == 0:
            return "is 0", "are 0"
        size = "larger" if before > after else "smaller"
        return f"is {size} than with the mend", f"are {size} than with the mend"
    return "says something else", "say something else"


def changes(before: Calculation, after: Calculation, finding: Finding) -> bool:
    """Whether the cells that a finding is about show anything else."""
    name = finding.sheet
    return any(
        differing(*(each.cells(name, *_rows(area)) for each in (before, after))).any()
        for area in _strips(finding.areas)
    )


def _strips(areas: Iterable[Area]) -> Iterator[Area]:
    """The first cells of some areas, a piece of a column at a time."""
    left = _MOST_COMPARED
    for column in (column for area in areas for column in area.lines("column")):
        if left <= 0:
            return
        strip = column._replace(bottom=min(column.bottom, column.top + left - 1))
        left -= strip.height
        yield strip


def _rows(strip: Area) -> tuple[int, int, int]:
    return strip.left, strip.top, strip.bottom


def _values(calculation: Calculation, finding: Finding, strip: Area) -> list[Value]:
    return calculation.cells(finding.sheet, *_rows(strip)).values()


def errors_gone(before: Calculation, after: Calculation, findings: Iterable[Finding]) -> int:
    """How many errors a mend does away with in the cells of some findings, each counted once."""
    cells = {
        (finding.sheet, cell)
        for finding in findings
        for cell in islice(cells_of(finding.areas), _MOST_COMPARED)
    }
    return sum(
        isinstance(before.value(sheet, cell), Error)
        and not isinstance(after.value(sheet, cell), Error)
        for sheet, cell in cells
    )
