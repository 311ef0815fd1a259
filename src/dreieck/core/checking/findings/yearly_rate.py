"""The rule about yearly rates that are taken month by month."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.factors import other_operand
from dreieck.core.formula import tree
from dreieck.core.grid import AXES, CROSSING, Area, Axis
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import first_text, texts_along
from dreieck.core.tables.series import order_of
from dreieck.core.words.headings import label_on

_MONTHS = 12


@rule("yearly-rate")
def yearly_rate(subject: Subject) -> Iterator[Finding]:
    """A rate a year is multiplied with what goes on month by month, and not divided."""
    if any(isinstance(each, tree.Number) and each.value > 1 for each in
           tree.walk(subject.shape.tree)):  # fmt: skip
        return
    axis = next((axis for axis in AXES if _goes_by_months(subject, axis)), None)
    for use in subject.cell_uses if axis else ():
        told = _yearly(subject, use)
        if told:
            yield _finding(subject, use, told)
            return


def _goes_by_months(subject: Subject, axis: Axis) -> bool:
    """Whether the landings along an axis are labelled by months."""
    count = subject.block.area.length(axis)
    if count < 2:
        return False
    texts = texts_along(subject.calculation, subject.sheet, subject.start, axis, count)
    if texts and all("month" in order_of(text) for text in texts if text):
        return True
    if axis == "column":
        return False
    # Months that are numbered stand below a heading that says so.
    first = Area(1, subject.start.row, subject.start.column - 1, subject.start.row)
    numbered = (
        cell for cell, content in subject.sheet.filled(first) if isinstance(content, float)
    )
    at = next(numbered, None)
    return at is not None and says(label_on(subject.sheet, at, "column"), "month")


def _yearly(subject: Subject, use: Use) -> str:
    """What says that a held factor is a rate of a year; empty where nothing does."""
    sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
    factor = other_operand(subject.shape.tree, use.number, "*") is not None
    if sheet is None or area is None or not factor or not subject.stays(use.reference):
        return ""
    for axis in AXES:
        told = label_on(sheet, area.first, axis)
        if says(told, "yearly"):
            return told
    told = first_text(subject.calculation, sheet, area.first, CROSSING["column"])
    return told if says(told, "yearly") else ""


def _finding(subject: Subject, use: Use, told: str) -> Finding:
    reference = subject.shape.references[use.number]
    twelfth = tree.Group(tree.Binary("/", reference, tree.Number(float(_MONTHS))))
    changed = subject.shape.changed(lambda each: twelfth if each == reference else each)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} is a rate of a year (“{told}”), and {subject.start.text} takes"
        " it for a month.",
        "A year's rate in each month counts twelve times.",
        use.number,
        (refilled(subject, changed, f"take a twelfth of {subject.tag(use.number)}"),),
        ("the landings go on month by month",),
    )
