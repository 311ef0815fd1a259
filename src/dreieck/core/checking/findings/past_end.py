"""The rule about fills that go on below all that they read."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import ended
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject, moves
from dreieck.core.checking.weighing.doubt import doubt
from dreieck.core.checking.weighing.guards import is_passed, ways
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.grid.areas import Mask
from dreieck.core.sheet.cells import Kind
from dreieck.core.values import Place
from dreieck.core.words.counting import listed


class PastEnd(NamedTuple):
    """A part of which the landings below a row find nothing to read, and one of their uses."""

    part: Area
    row: int
    use: Use

    @property
    def beyond(self) -> Mask:
        """The landings below that row."""
        mask = np.zeros((self.part.width, self.part.height), bool)
        mask[:, self.row - self.part.top + 1 :] = True
        return mask


@rule("past-end")
def past_end(subject: Subject) -> Iterator[Finding]:
    """The fill lands beyond the end of all lists that it reads."""
    found = past_ends(subject)
    if not found or doubt(subject):
        return
    part, row, use = found
    area = part._replace(top=row + 1)
    read = subject.address(use.reference, area.first)
    lists = [each.number for each in subject.uses if moves(each.reference.on("row"))]
    tags = "".join(subject.tag(number) for number in lists)
    # Lines that are named or numbered already wait for what is to be entered.
    waits = all(_is_begun(subject, cell) for cell in area.lines("row"))
    yield Finding(
        "note" if waits else "doubt",
        subject.sheet.name,
        (area,),
        f"What {tags} read{'s' * (len(lists) == 1)} ends with row {row} of this fill;"
        f" {listed((area,))} read{'s' * (area.size == 1)} beyond it ({read} is empty).",
        "There is nothing to calculate with, so zeros or errors stand below the list.",
        use.number,
        (ended(subject, row),),
        (f"all that moves along with {listed((area,))} is empty",),
    )


def _is_begun(subject: Subject, line: Area) -> bool:
    """Whether something is typed to the left of a line of landings."""
    before = Area(1, line.top, line.left - 1, line.top) if line.left > 1 else line
    return any(not isinstance(each, Shape) for _, each in subject.sheet.filled(before))


def past_ends(subject: Subject) -> PastEnd | None:
    """Where all that moves with the landings of a part has come to its end."""
    return subject.once(_past_ends)


def _past_ends(subject: Subject) -> PastEnd | None:
    for part in subject.parts:
        uses = [use for use in subject.uses if moves(use.reference.on("row"))]
        if part.height < 2 or not uses or any(not _is_list(subject, use, part) for use in uses):
            continue
        ends = [_last_served(subject, use, part) for use in uses]
        if all(end is not None for end in ends):
            row = max(end for end in ends if end is not None)
            if not _passes(subject, uses[0], part, row):
                return PastEnd(part, row, uses[0])
    return None


def _is_list(subject: Subject, use: Use, part: Area) -> bool:
    """Whether a reference goes along one line of cells, none of them its own results."""
    needed = use.how in ("number", "total", "value", "list") and not use.guarded
    return needed and not subject.is_recurrence(use, part)


def _passes(subject: Subject, use: Use, part: Area, row: int) -> bool:
    """Whether the conditions of the formula lead past its reading in the first row beyond."""
    place = Place(subject.sheet.name, Cell(part.left, row + 1))
    return is_passed(subject.calculation, ways(subject.shape)[use.number], place)


def _last_served(subject: Subject, use: Use, part: Area) -> int | None:
    """The last row of landings that read something, if the rows below all read emptiness."""
    found = subject.read(use.reference, part)
    first = use.reference.area(part.first)
    if not found or not first:
        return None
    sheet, area = found
    ends = Area(area.left, area.bottom - part.height + 1, area.right, area.bottom)
    if ends.top < 1:
        return None
    empty = (subject.kinds(sheet, ends) == Kind.EMPTY).all(axis=0)
    filled = np.flatnonzero(~empty)
    if not len(filled) or filled[-1] == len(empty) - 1:
        return None
    last = int(filled[-1])
    # A list has several entries, and the landings were meant to go along with it.
    return part.top + last if last >= 1 and len(filled) > last // 2 else None
