"""The rule about names that stand for another cell than their words say."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.reads import read_names
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula.printer import area_text
from dreieck.core.grid import AXES, Area, Axis, Cell
from dreieck.core.sheet.edits import SetName
from dreieck.core.sheet.names import Named
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import meaning
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on

_REACH = 30


@rule("name-elsewhere")
def name_elsewhere(subject: Subject) -> Iterator[Finding]:
    """A name stands for a cell that is labelled otherwise, and one beside it is labelled so."""
    workbook = subject.calculation.workbook
    for each in read_names(subject.shape):
        name = workbook.names.get(each.casefold())
        found = _meant(subject, name) if name else None
        if name is None or name.place is None or found is None:
            continue
        sheet, wanted = subject.calculation.sheet(name.place[0]), found
        moved = name.shape.with_reference(
            0, name.shape.references[0].reading(Area.of(wanted), name.base, name.base)
        )
        after = Named(name.name, moved)
        axis: Axis = "row" if wanted.column == name.place[1].left else "column"
        told = label_on(sheet, wanted, axis)
        mend = Mend(
            f"let {quoted(name.name)} stand for {after.shape_text}",
            name.shape_text,
            after.shape_text,
            (SetName(name.key, after),),
        )
        yield Finding(
            "doubt",
            subject.sheet.name,
            subject.parts,
            f"The name {quoted(name.name)} stands for {area_text(name.place[1], sheet.name)},"
            f" though {quoted(told)} is the label of {wanted.text}.",
            "All formulas that use the name work with the wrong number.",
            None,
            (mend,),
            (f"the words of the name are the label of {wanted.text}",),
        )
        return


def _meant(subject: Subject, name: Named) -> Cell | None:
    """The cell beside that of a name whose label the name's words are, if its own shares none."""
    workbook = subject.calculation.workbook
    place = name.place
    if place is None or place[1].size > 1 or not workbook.has_sheet(place[0]):
        return None
    sheet, cell = subject.calculation.sheet(place[0]), place[1].first
    others = [each.place for each in workbook.names.values() if each is not name]
    for axis in AXES:
        own = meaning(label_on(sheet, cell, axis))
        found = [
            at
            for at in _beside(sheet, cell, axis)
            if isinstance(subject.value(sheet, at), float)
            and _fits(meaning(name.name), meaning(label_on(sheet, at, axis)), own)
        ]
        if len(found) == 1 and (sheet.name, Area.of(found[0])) not in others:
            return found[0]
    return None


def _fits(words: frozenset[str], label: frozenset[str], own: frozenset[str]) -> bool:
    """Whether a label says what a name does, better than the label of its own cell."""
    return bool(own and label) and label <= words and not (words & own - label)


def _beside(sheet: Sheet, cell: Cell, axis: Axis) -> Iterator[Cell]:
    """The filled cells before and behind a cell, without a gap."""
    for step in (-1, 1):
        at = cell.step(axis, step)
        while at.on_sheet and abs(at.on(axis) - cell.on(axis)) <= _REACH:
            if sheet.content(at) is None:
                break
            yield at
            at = at.step(axis, step)
