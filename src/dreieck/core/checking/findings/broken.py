"""Rules for what is broken: errors, lost references, loops."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.mends import room_made, stretched
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import tree
from dreieck.core.formula.printer import place_text
from dreieck.core.functions import Trait, calls
from dreieck.core.grid import AXES, Area
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.cells import Kind
from dreieck.core.values import LOOP, NA, REF, ROOM, UNFINISHED, Error, Place
from dreieck.core.words.counting import listed, many
from dreieck.core.words.explain import explain

Cause = tuple[str, object]


@rule("error")
def error(subject: Subject) -> Iterator[Finding]:
    """A result is an error, told with its first cause."""
    for (code, _), (areas, first) in _errors(subject).items():
        lost = code == REF and _has_lost(subject)
        if code == LOOP or lost or (code == NA and _is_meant(subject)):
            continue
        count = sum(area.size for area in areas)
        here = Place(subject.sheet.name, areas[0].first)
        began = first.origin
        cause = f" It began in {place_text(began)}." if began and began != here else ""
        says = explain(first)
        yield Finding(
            "broken",
            subject.sheet.name,
            areas,
            f"{many(count, 'landing')} of {subject.block.size:,} show{'s' * (count == 1)} {code}:"
            f" {listed(areas)}. {first.why}{cause}",
            says.mend,
            mends=room_made(subject, areas[0].first) if code == ROOM else (),
            began=began,
        )


@rule("lost-reference")
def lost_reference(subject: Subject) -> Iterator[Finding]:
    """A part fell off the sheet, or its cell was deleted."""
    if _has_lost(subject):
        yield Finding(
            "broken",
            subject.sheet.name,
            subject.parts,
            f"{listed(subject.parts)} reads a cell that is not there any more.",
            "The reference fell off the sheet when the formula was filled or copied, or its cell"
            " was deleted. Point at the cell anew, and let stay what has to.",
        )


@rule("loop")
def loop(subject: Subject) -> Iterator[Finding]:
    """Cells that read themselves."""
    found = next((each for (code, _), each in _errors(subject).items() if code == LOOP), None)
    if found:
        areas, _ = found
        yield Finding(
            "broken",
            subject.sheet.name,
            areas,
            f"{listed(areas)} {'reads itself' if len(areas) == 1 else 'read themselves'},"
            " directly or over other cells.",
            "Such a cell has no value. Let its range end one cell before the formula.",
            mends=tuple(_ended_before(subject)),
            because=("a loop never comes to a value",),
        )


def _ended_before(subject: Subject) -> Iterator[Mend]:
    """Let a range that takes in its own formula end before it."""
    start = subject.start
    for use in subject.range_uses:
        area = use.reference.area(start)
        if not area or subject.sheet_of(use.reference) is not subject.sheet:
            continue
        for axis in AXES:
            low, high = area.on(axis)
            at = start.on(axis)
            if not area.holds(start) or area.length(axis) < 2:
                continue
            if at - low >= high - at and at > low:
                yield stretched(subject, use, axis, 0, at - 1 - high)
            elif at < high:
                yield stretched(subject, use, axis, low - at - 1, 0)


def errors_shown(calculation: Calculation, sheet: str, landings: Sequence[Area]) -> list[Area]:
    """Where landings show errors; none where they are still being worked out."""
    found = _errors_in(calculation, sheet, landings).values()
    return [area for areas, first in found if first is not UNFINISHED for area in areas]


def _errors(subject: Subject) -> dict[Cause, tuple[tuple[Area, ...], Error]]:
    return _errors_in(subject.calculation, subject.sheet.name, subject.parts)


def _errors_in(
    calculation: Calculation, sheet: str, parts: Sequence[Area]
) -> dict[Cause, tuple[tuple[Area, ...], Error]]:
    """The landings that show each error by its cause, and the first of these errors."""
    found: dict[Cause, tuple[list[Area], Error]] = {}
    causes: dict[tuple[str, Place | None], Cause] = {}
    for part in parts:
        for column in range(part.left, part.right + 1):
            cells = calculation.cells(sheet, column, part.top, part.bottom)
            where = np.flatnonzero(cells.kinds == Kind.ERROR)
            if not len(where):
                continue
            values = cells.taken(where).values()
            for index, value in zip(where.tolist(), values, strict=True):
                assert isinstance(value, Error)
                key = value.code, value.origin
                if key not in causes:
                    causes[key] = _cause(calculation, value)
                areas, _ = found.setdefault(causes[key], ([], value))
                row = part.top + index
                if areas and areas[-1].left == column and areas[-1].bottom == row - 1:
                    areas[-1] = areas[-1]._replace(bottom=row)
                else:
                    areas.append(Area(column, row, column, row))
    return {cause: (joined(areas), first) for cause, (areas, first) in found.items()}


def _cause(calculation: Calculation, error: Error) -> Cause:
    """An error's code, and the formula in which it began: what is one block fails as one."""
    if error.origin is None or error.code == LOOP:
        return error.code, None
    return error.code, calculation.workbook.content(*error.origin)


def _has_lost(subject: Subject) -> bool:
    return any(isinstance(node, tree.Lost) for node in tree.walk(subject.shape.tree))


def _is_meant(subject: Subject) -> bool:
    """Whether the formula itself says that there is no value."""
    formula = subject.shape.tree
    literal = any(isinstance(node, tree.ErrorLiteral) for node in tree.walk(formula))
    return literal or calls(formula, Trait.MEANT)
