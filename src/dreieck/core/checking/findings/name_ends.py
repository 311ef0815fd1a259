"""The rule about names that end before their data do."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.reads import read_names
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.findings.together import Column, Together, beyond, data_end
from dreieck.core.checking.subject import Subject
from dreieck.core.formula.printer import area_text
from dreieck.core.formula.reference import RangeReference
from dreieck.core.grid import MAX_ROW, Area
from dreieck.core.sheet.edits import SetName
from dreieck.core.sheet.names import Named, named
from dreieck.core.words.counting import both, quoted

_WIDEST = 40
"""A table of more columns is none that is searched."""


@rule("name-ends")
def name_ends(subject: Subject) -> Iterator[Finding]:
    """A name stands for a list that goes on behind the end of the name."""
    workbook = subject.calculation.workbook
    names = workbook.names
    found = [names[key] for each in read_names(subject.shape) if (key := each.casefold()) in names]
    short = {each: longer for each in found if (longer := _list_of(subject, each))}
    if not short:
        return
    first, longer = next(iter(short.items()))
    assert first.place is not None
    name, area = first.place
    sheet = subject.calculation.sheet(name)
    missed = area._replace(top=area.bottom + 1, bottom=longer.bottom)
    yield Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"The name {quoted(first.name)} stands for {area_text(area, name)}, but"
        f" {beyond(subject, sheet, missed, 'row', after=True)} that list.",
        "What stands outside of a name is in none of the formulas that use it.",
        None,
        (_longer(short),),
        (f"{missed.text} holds the same sorts of values as the list",),
    )


def _list_of(subject: Subject, name: Named) -> Area | None:
    """What the list of a name covers, if that is more than the name stands for."""
    place, reference = name.place, name.shape.tree
    workbook = subject.calculation.workbook
    if not place or not isinstance(reference, RangeReference) or not workbook.has_sheet(place[0]):
        return None
    sheet, area = subject.calculation.sheet(place[0]), place[1]
    if area.width > _WIDEST or area.height < 2 or area.bottom >= MAX_ROW:
        return None
    group = Together(
        "row", tuple(Column(-1, reference, sheet, line) for line in area.lines("column"))
    )
    bottom = data_end(subject, group, area.bottom)
    return area._replace(bottom=bottom) if bottom > area.bottom else None


def _longer(short: dict[Named, Area]) -> Mend:
    """Let names stand for all of their lists."""
    edits: list[SetName] = []
    said: list[tuple[str, str]] = []
    for name, area in short.items():
        reference = name.shape.tree
        assert isinstance(reference, RangeReference)
        at = name.base
        longer = named(
            name.name, name.shape.with_reference(0, reference.reading(area, at, at)).text(at)
        )
        edits.append(SetName(name.key, longer))
        said.append((name.shape_text, longer.shape_text))
    names = both([quoted(name.name) for name in short])
    return Mend(f"let {names} end with row {area.bottom}", *said[0], tuple(edits))
