"""The rule about sums that add parts to what they are parts of."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import Shape, tree
from dreieck.core.formula.reference import moving
from dreieck.core.functions import Trait, has
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import joined
from dreieck.core.sheet.sheet import Sheet
from dreieck.core.tables.closing import says
from dreieck.core.tables.labels import nearest_text
from dreieck.core.words.counting import listed, quoted

_MOST = 400


@rule("adds-of-which")
def adds_of_which(subject: Subject) -> Iterator[Finding]:
    """A sum holds a line that is labelled as a part of the line above it."""
    for use in subject.range_uses:
        sheet, area = subject.sheet_of(use.reference), use.reference.area(subject.start)
        adds = has(use.function, Trait.TOTALS) and not has(use.function, Trait.COUNTS)
        if not adds or sheet is None or area is None or area.width > 1 or area.height > _MOST:
            continue
        parts = [cell for cell in area.cells() if _is_part(subject, sheet, area, cell)]
        if parts and 2 * len(parts) < area.height:
            yield _finding(subject, use, sheet, area, parts)
            return


def _is_part(subject: Subject, sheet: Sheet, area: Area, cell: Cell) -> bool:
    """Whether a line is labelled as a part, and stands behind what it is a part of."""
    told = nearest_text(subject.calculation, sheet, cell, "row")
    number = isinstance(subject.value(sheet, cell), float)
    return number and cell.row > area.top and says(told, "of_which")


def _finding(subject: Subject, use: Use, sheet: Sheet, area: Area, parts: list[Cell]) -> Finding:
    told = nearest_text(subject.calculation, sheet, parts[0], "row")
    left = listed(joined([Area.of(cell) for cell in parts]))
    rest = joined([Area.of(cell) for cell in area.cells() if cell not in parts])
    mends: tuple[Mend, ...] = ()
    if isinstance(subject.shape.tree, tree.Call) and len(subject.shape.references) == 1:
        arguments = tuple(moving(each, subject.start, use.reference.sheet) for each in rest)
        shape = Shape.of(tree.Call(use.function, arguments))
        mends = (refilled(subject, shape, f"leave {left} out"),)
    one = len(parts) == 1
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.start.text} adds {left} ({quoted(told)}), which"
        f" {'is' if one else 'are'} in the number above already.",
        "A part that is added to its whole counts twice.",
        use.number,
        mends,
        (f"the label of {left} says that it is a part",),
    )
