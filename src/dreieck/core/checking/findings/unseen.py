"""The rule about what a range reads and nobody sees."""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.analysis.uses import Use
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.formula import tree
from dreieck.core.functions import Trait, has
from dreieck.core.functions.families.subtotals import SEEN_ONLY
from dreieck.core.grid import AXES, Area, Cell, Lines
from dreieck.core.grid.areas import joined
from dreieck.core.words.conditions import number_of

_LISTED = 3


@rule("reads-hidden")
def reads_hidden(subject: Subject) -> Iterator[Finding]:
    """A range reads rows or columns that are hidden."""
    for use in subject.range_uses:
        read_on = subject.sheet_of(use.reference)
        some_hidden = read_on and any(read_on.layout.on(axis).hidden for axis in AXES)
        if not some_hidden or _leaves_hidden_out(subject, use):
            continue
        found = {at: unseen for at in subject.landings if (unseen := _unseen(subject, use, at))}
        if not found:
            continue
        first, unseen = next(iter(found.items()))
        said = " and ".join(each.text for each in unseen[:_LISTED])
        more = " and more" if len(unseen) > _LISTED else ""
        are = "is" if sum(each.count for each in unseen) == 1 else "are"
        read = subject.named(use.reference, first)
        yield Finding(
            "note",
            subject.sheet.name,
            joined([Area.of(landing) for landing in found]),
            f"{first.text} reads {read}; {said}{more} {are} hidden there.",
            "What is hidden counts like everything else, though nobody sees it.",
            use.number,
        )


def _leaves_hidden_out(subject: Subject, use: Use) -> bool:
    """Whether a reference is an argument of a subtotal that counts what is seen alone."""
    calls = (
        node
        for node in tree.walk(subject.shape.tree)
        if isinstance(node, tree.Call) and has(node.function, Trait.SEES_HIDDEN)
    )
    return any(
        use.reference in call.arguments[1:] and (number_of(call.arguments[0]) or 0) > SEEN_ONLY
        for call in calls
    )


def _unseen(subject: Subject, use: Use, landing: Cell) -> list[Lines]:
    """The hidden lines that hold something a landing reads; its own are hidden with it."""
    sheet, area = subject.sheet_of(use.reference), use.reference.area(landing)
    if not sheet or not area:
        return []
    found: list[Lines] = []
    for axis in AXES:
        low, high = area.on(axis)
        for first, last in sheet.layout.on(axis).hidden:
            part = max(first, low), min(last, high)
            own = sheet is subject.sheet and part[0] <= landing.on(axis) <= part[1]
            if part[0] <= part[1] and not own and sheet.count(area.spanning(axis, *part)):
                found.append(Lines.between(axis, *part))
    return found
