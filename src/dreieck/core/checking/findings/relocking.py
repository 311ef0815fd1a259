"""Locks in doubt: references that slid off what they should read, or stay where they should move.

What speaks against the locks is weighed in ``checking/weighing``; here it is put in words.
"""

from __future__ import annotations

from collections.abc import Iterator

from dreieck.core.checking.findings.finding import Finding, Mend
from dreieck.core.checking.findings.mends import refilled
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.choices import Choice
from dreieck.core.checking.weighing.doubt import Change, Doubt, changes, doubt
from dreieck.core.checking.weighing.trouble import Sort, Trouble
from dreieck.core.formula.locks import Lock, lock_of
from dreieck.core.formula.reference import CellReference
from dreieck.core.grid import AXES, Area, Axis
from dreieck.core.grid.areas import joined
from dreieck.core.words.counting import both, listed, many

_MENDS = 3
_STANDS: tuple[Sort, ...] = ("same", "unread")


@rule("input-slid")
def input_slid(subject: Subject) -> Iterator[Finding]:
    """A reference moves that should stay: an input, a heading, a list is left behind."""
    yield from _told(subject, "input-slid")


@rule("all-same")
def all_same(subject: Subject) -> Iterator[Finding]:
    """The landings give one result because everything is locked."""
    yield from _told(subject, "all-same")


@rule("heading-unread")
def heading_unread(subject: Subject) -> Iterator[Finding]:
    """Numbers beside the block, one for each landing, of which only the first is read."""
    yield from _told(subject, "heading-unread")


def _told(subject: Subject, name: str) -> Iterator[Finding]:
    found = doubt(subject)
    if found and _rule(found) == name:
        yield _finding(subject, found, name)


def _rule(found: Doubt) -> str:
    sorts = {trouble.sort for trouble in found.gone}
    if "same" in sorts:
        return "all-same"
    return "heading-unread" if sorts <= set(_STANDS) else "input-slid"


def _finding(subject: Subject, found: Doubt, name: str) -> Finding:
    best = found.better[0]
    changed = changes(subject, best)
    told = [_said(subject, change) for change in changed]
    says = " ".join(told)
    if name == "all-same":
        says = f"All {many(subject.block.size, 'landing')} read the same cells. {says}"
    return Finding(
        "doubt",
        subject.sheet.name,
        wrong_landings(subject, changed) or subject.parts,
        says,
        _WHYS[name],
        changed[0].number,
        tuple(mend(subject, choice) for choice in found.better[:_MENDS]),
        tuple(dict.fromkeys(_evidence(subject, trouble) for trouble in found.gone)),
    )


_WHYS = {
    "input-slid": "Every landing should read the same; others give zeros, errors or nonsense.",
    "all-same": "Nothing moves in this direction. One of the references probably should.",
    "heading-unread": "All landings use the first number of a list that goes on beside them.",
}


def mend(subject: Subject, choice: Choice) -> Mend:
    """Fill the block again with other locks."""
    does = both([_does(subject, change) for change in changes(subject, choice)])
    return refilled(subject, choice.shape, f"let {does}")


def _does(subject: Subject, change: Change) -> str:
    """What becomes of a reference: ``the row of ⓐ stay``."""
    holds = {axis: lock_of(change.after, subject.start, axis) for axis in change.axes}
    tag = subject.tag(change.number)
    if len(set(holds.values())) == 1:
        lines = both([f"the {axis}" for axis in holds])
        return f"{lines} of {tag} {_DOES[next(iter(holds.values()))]}"
    return both([f"the {axis} of {tag} {_DOES[hold]}" for axis, hold in holds.items()])


_DOES: dict[Lock, str] = {
    "stays": "stay",
    "moves": "move",
    "first": "grow from its first cell",
    "last": "shrink to its last cell",
}


def wrong_landings(subject: Subject, changed: list[Change]) -> tuple[Area, ...]:
    """The landings that would read something else with other locks."""
    start = subject.start
    found: list[Area] = []
    for part in subject.parts:
        for axis in AXES:
            if any(axis in change.axes for change in changed):
                found += _beside(part, axis, start.on(axis))
    return joined(_apart(found))


def _beside(part: Area, axis: Axis, at: int) -> Iterator[Area]:
    """What of a part lies before and behind the line of the start."""
    low, high = part.on(axis)
    if low < at:
        yield part.spanning(axis, low, min(high, at - 1))
    if high > at:
        yield part.spanning(axis, max(low, at + 1), high)


def _apart(areas: list[Area]) -> list[Area]:
    """The same cells without any of them twice."""
    found: list[Area] = []
    for area in areas:
        rest = [area]
        for other in found:
            rest = [piece for each in rest for piece in each.without(other)]
        found += rest
    return found


def _said(subject: Subject, change: Change) -> str:
    """What one reference does in the first landing in which it goes wrong."""
    before, after, tag = change.before, change.after, subject.tag(change.number)
    start = subject.named(before, subject.start)
    landing = next(
        (at for at in subject.landings if before.area(at) != after.area(at)), subject.start
    )
    if not isinstance(before, CellReference):
        read = subject.address(before, landing)
        if lock_of(after, subject.start, change.axes[0]) == "first":
            return f"{tag} reads {read} in {landing.text}, not all from the first landing on."
        return f"The range {tag} slides: the start reads {start}, {landing.text} reads {read}."
    if all(lock_of(after, subject.start, axis) == "stays" for axis in change.axes):
        return f"{tag} slides off {start}: {landing.text} reads {subject.found(before, landing)}."
    if any(lock_of(after, subject.start, axis) == "stays" for axis in change.axes):
        read, wanted = subject.found(before, landing), subject.named(after, landing)
        return f"{tag} goes the wrong way: {landing.text} reads {read}, and not {wanted}."
    wanted = subject.named(after, landing)
    return f"{tag} stays on {start}: {landing.text} reads it too, and not {wanted}."


def _evidence(subject: Subject, trouble: Trouble) -> str:
    """A trouble in words."""
    tag = subject.tag(max(trouble.reference, 0))
    here = listed(trouble.areas)
    reads = "reads" if sum(area.size for area in trouble.areas) == 1 else "read"
    return {
        "empty": f"{here} {reads} an empty cell by {tag}",
        "text": f"{here} {reads} text by {tag} where a number is needed",
        "results": f"{here} {reads} results of this fill by {tag}",
        "astray": f"the other cells that {tag} reads are labelled otherwise than its landings",
        "unread": f"numbers go on beside all landings where {tag} stays",
        "same": "all landings show the same",
        "twice": "a cell is compared with itself in every landing",
        "itself": f"by {tag} the list is multiplied with itself, one step apart",
        "total left": f"{tag} begins with a total, and goes on to what is none",
        "one": f"{tag} is one cell in every landing, though it is summed up",
        "shrinks": f"by {tag} the landings read less and less of a whole list",
        "torn": f"the start reads a cell by {tag} and by another reference, which moves on",
        "stuck": f"by {tag} every landing begins with the same balance",
        "apart": f"only the start reads by {tag} what stands before a list",
        "sibling": f"{tag} goes along inputs of which another reference is held",
        "lost": f"{tag} falls off the sheet",
        "inverted": f"{tag} stays above the line",
        "corner": f"one end of {tag} moves, the other stays, though the list is one",
    }[trouble.sort]
