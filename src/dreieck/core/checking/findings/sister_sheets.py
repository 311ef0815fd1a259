"""Rules about sheets that are copies of each other, or follow one another."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from dataclasses import replace

from dreieck.core.analysis.slots import slots
from dreieck.core.calculate.blocks import Patch, patches
from dreieck.core.calculate.calculation import Calculation
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.meant import note_on
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule, sheet_rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import AXES, Area, Cell
from dreieck.core.sheet.cells import Kind
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import LONGEST, says
from dreieck.core.words.counting import both, quoted
from dreieck.core.words.headings import label_on

_MOST_COLUMNS, _MOST_ROWS, _MOST_LABELS = 40, 400, 20
"""So much of a sheet is looked at to tell its copies; of each column so many labels."""
_ALIKE = 0.6
"""So much of the labels of two copies is the same."""
_Label = tuple[int, int, str]
_PERIOD = re.compile(r"\d{4}|\bq[1-4]\b|\bh[12]\b", re.IGNORECASE)


@sheet_rule("differs-from-copies")
def differs_from_copies(calculation: Calculation, sheet: Sheet) -> Iterator[Finding]:
    """A formula differs from those in the same cell of all sheets that are copies of its own."""
    first = calculation.workbook.sheets[0].name
    found = calculation.recall(first, _differences, lambda: _differences(calculation))
    yield from found.get(sheet.name, ())


def _differences(calculation: Calculation) -> dict[str, list[Finding]]:
    """What differs from copies, by the names of the sheets."""
    found: dict[str, list[Finding]] = {}
    for sheets, family in _families(calculation):
        if len(family) < 3:
            continue
        one, *others = family
        others = [each for each in others if patches(each) != patches(one)]
        held_by_all = {
            patch.area.first
            for patch in patches(one)
            if all(each.content(patch.area.first) is patch.shape for each in others)
        }
        for sheet in sheets:
            odd = (each for each in patches(sheet) if each.area.first not in held_by_all)
            told = (_different(calculation, family, sheet, patch) for patch in odd)
            found[sheet.name] = [finding for finding in told if finding]
    return found


def _different(
    calculation: Calculation, family: list[Sheet], sheet: Sheet, patch: Patch
) -> Finding | None:
    """What is found where a patch of a sheet differs from those of all its copies."""
    order = {each.name.casefold(): n for n, each in enumerate(family)}
    own = order[sheet.name.casefold()]
    usual = _usual(family, order, own, patch.area.first)
    if usual is None or usual.plain is patch.shape.plain:
        return None
    if slots(usual).structure != slots(patch.shape).structure:
        # It does something else: a year that sums up its months.
        return None
    if note_on(calculation, sheet, patch.area.first):
        return None
    same = _usual(family, order, own, patch.area.last) is usual
    area = patch.area if same else Area.of(patch.area.first)
    return _finding(sheet, family, patch.shape, usual, area)


def _families(calculation: Calculation) -> Iterator[tuple[list[Sheet], list[Sheet]]]:
    """Sheets with one set of labels, and all that have mostly these labels in these cells."""
    labels = {sheet.name: _labels(calculation, sheet) for sheet in calculation.sheets()}
    sheets = calculation.workbook.sheets
    for own in set(labels.values()):
        alike = {
            other
            for other in set(labels.values())
            if len(own) > 2 and len(own & other) >= _ALIKE * max(len(own), len(other))
        }
        yield (
            [sheet for sheet in sheets if labels[sheet.name] == own],
            [sheet for sheet in sheets if labels[sheet.name] in alike],
        )


def _labels(calculation: Calculation, sheet: Sheet) -> frozenset[_Label]:
    """The first labels of a sheet, and where they stand."""
    return calculation.recall(sheet.name, _labels, lambda: _labels_of(sheet))


def _labels_of(sheet: Sheet) -> frozenset[_Label]:
    found: list[_Label] = []
    for number, column in list(sheet.columns.items())[:_MOST_COLUMNS]:
        extent = column.extent()
        if not extent:
            continue
        cells = column.cells(extent[0], min(extent[1], extent[0] + _MOST_ROWS))
        for index in (cells.kinds == Kind.TEXT).nonzero()[0][:_MOST_LABELS].tolist():
            text = str(cells.pool.objects[int(cells.payload[index])])
            found.append((number, extent[0] + index, text.strip()[:LONGEST].casefold()))
    return frozenset(found)


def _usual(family: list[Sheet], order: dict[str, int], own: int, cell: Cell) -> Shape | None:
    """What all other copies hold in a cell, as it would be on this one; None where they differ.

    What reads the copy before reads the one before this.
    """
    found: Counter[Shape] = Counter()
    others = 0
    for number, sheet in enumerate(family):
        content = sheet.content(cell)
        if number == own or not isinstance(content, Shape):
            # The first of a series begins with typed numbers.
            continue
        others += 1
        if shape := _moved(content, family, order, own - number):
            found[shape.plain] += 1
    if not found:
        return None
    (usual, count), *_ = found.most_common(1)
    return usual if count >= 2 and count >= others - (others > 4) else None


def _moved(shape: Shape, family: list[Sheet], order: dict[str, int], by: int) -> Shape | None:
    """A formula that reads other copies so many sheets further on; None where there are none."""
    if not any(each.sheet for each in shape.references):
        return shape
    away = False

    def moved(each: Reference) -> Reference:
        nonlocal away
        at = order.get(each.sheet.casefold()) if each.sheet else None
        if at is None:
            return each
        if not 0 <= at + by < len(family):
            away = True
            return each
        return replace(each, sheet=family[at + by].name)

    changed = shape.changed(moved)
    return None if away else changed


def _finding(sheet: Sheet, family: list[Sheet], shape: Shape, usual: Shape, area: Area) -> Finding:
    first = area.first
    others = [quoted(each.name) for each in family if each is not sheet]
    named = both(others) if len(others) < 4 else f"{len(others)} sheets that are built like this"
    return Finding(
        "doubt",
        sheet.name,
        (area,),
        f"{first.text} holds {shape.text(first)} where {named} have {usual.text(first)}.",
        "Sheets that are copies of each other should work alike, and this one differs here.",
        None,
        (
            Mend(
                "take the formula of the other sheets",
                shape.text(first),
                usual.text(first),
                (SetCells.with_content(sheet, (area,), usual),),
            ),
        ),
        (f"the labels of {named} are the same",),
        strength=2,
    )


@rule("other-period")
def other_period(subject: Subject) -> Iterator[Finding]:
    """A sheet of one period reads the sheet of another, though its own has one."""
    own = _PERIOD.findall(subject.sheet.name)
    if len(own) != 1:
        return
    told = " ".join(label_on(subject.sheet, subject.start, axis) for axis in AXES)
    if says(told, "memo", "agreed", "balance") or _PERIOD.search(told):
        return
    sheets = {each.sheet for each in subject.shape.references if each.sheet}
    for name in sheets:
        wanted = _of_period(subject, name, own[0])
        if wanted is None or wanted in sheets:
            continue
        changed = subject.shape.changed(
            lambda each, name=name, wanted=wanted: (  # type: ignore[misc]
                replace(each, sheet=wanted) if each.sheet == name else each
            )
        )
        number = next(n for n, e in enumerate(subject.shape.references) if e.sheet == name)
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"{subject.tag(number)} reads the sheet {quoted(name)}, though there is"
            f" {quoted(wanted)} for {own[0]}.",
            "A sheet of one period should read what belongs to it.",
            number,
            (refilled(subject, changed, f"read {quoted(wanted)}"),),
            (f"this sheet is named {quoted(subject.sheet.name)}",),
        )
        return


def _of_period(subject: Subject, name: str, period: str) -> str | None:
    """The sheet that is named like another one, but for the period."""
    found = _PERIOD.findall(name)
    workbook = subject.calculation.workbook
    if len(found) != 1 or found[0].casefold() == period.casefold():
        return None
    wanted = _PERIOD.sub(period, name)
    if not workbook.has_sheet(wanted) or workbook.sheet(wanted) is subject.sheet:
        return None
    return workbook.sheet(wanted).name
