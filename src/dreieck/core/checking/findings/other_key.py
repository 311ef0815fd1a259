"""The rule about searches for one code in the list of another."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import tree
from dreieck.core.formula.reference import CellReference, RangeReference
from dreieck.core.functions import Trait, has
from dreieck.core.grid import Area
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import meaning
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import column_heading, heading_over


@rule("other-key")
def other_key(subject: Subject) -> Iterator[Finding]:
    """What is looked for is headed otherwise than the list, and another cell is headed alike."""
    for call in tree.walk(subject.shape.tree):
        if not isinstance(call, tree.Call) or not has(call.function, Trait.SEARCHES):
            continue
        if len(call.arguments) < 2 or has(call.function, Trait.FITS):
            continue
        key, listed = call.arguments[0], call.arguments[1]
        if not isinstance(key, CellReference) or not isinstance(listed, RangeReference):
            continue
        sheet, area = subject.sheet_of(listed), listed.area(subject.start)
        at, home = key.area(subject.start), subject.sheet_of(key)
        if not sheet or not area or not at or home is not subject.sheet or area.height < 2:
            continue
        if at.top != subject.start.row:
            continue
        wanted = column_heading(sheet, area._replace(right=area.left)) or ""
        now = heading_over(home, at.first) or ""
        if meaning(now) <= meaning(wanted) or meaning(wanted) <= meaning(now):
            continue
        other = _headed(home, at, wanted, area if sheet is home else None)
        if other:
            yield _finding(subject, key, other, now, wanted)
            return


def _headed(sheet: Sheet, at: Area, wanted: str, table: Area | None) -> Area | None:
    """The only other filled cell of a row below a heading that says the same, outside a table."""
    used = sheet.used()
    if used is None:
        return None
    found = [
        Area.of(cell)
        for cell, _ in sheet.filled(used._replace(top=at.top, bottom=at.top))
        if cell != at.first
        and not (table and table.holds(cell))
        and meaning(heading_over(sheet, cell) or "") == meaning(wanted)
    ]
    return found[0] if len(found) == 1 else None


def _finding(subject: Subject, key: CellReference, other: Area, now: str, wanted: str) -> Finding:
    number = subject.shape.references.index(key)
    changed = subject.shape.with_equals(number, key.reading(other, subject.start, subject.start))
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(number)} looks for {quoted(now)} in a list that is headed"
        f" {quoted(wanted)}, as {other.text} is.",
        "A code of one list finds nothing in another, or something else.",
        number,
        (refilled(subject, changed, f"look for {other.text}"),),
        (f"{other.text} and the list are headed alike",),
    )
