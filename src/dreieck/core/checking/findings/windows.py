"""The rule about moving windows that are one longer or shorter than their heading says."""

from __future__ import annotations

import re
from collections.abc import Iterator

from dreieck.core.analysis.uses import Use, is_plain_summary
from dreieck.core.checking.findings.finding import Finding
from dreieck.core.checking.findings.mends import stretched
from dreieck.core.checking.findings.rules import rule
from dreieck.core.checking.subject import Subject, moves
from dreieck.core.grid import AXES, CROSSING, Axis
from dreieck.core.words.counting import quoted
from dreieck.core.words.headings import label_on

_COUNTED = re.compile(r"(?<![\w.,])(\d{1,3})[\s-]*(?=[^\W\d])")
"""A number before a word, as in *mean of 7 days*, *12-month total*."""


@rule("window-size")
def window_size(subject: Subject) -> Iterator[Finding]:
    """A window that moves along covers one cell more, or one less, than its heading counts."""
    for use in subject.range_uses:
        if not is_plain_summary(use):
            continue
        for axis in AXES:
            told = label_on(subject.sheet, subject.start, CROSSING[axis])
            found = _off(subject, use, axis, told)
            if found:
                yield _finding(subject, use, axis, found, told)
                return


def _off(subject: Subject, use: Use, axis: Axis, told: str) -> int | None:
    """How many cells a window should cover, if that is one more or one less than it does."""
    area = use.reference.area(subject.start)
    slides = subject.block.area.length(axis) > 1 and moves(use.reference.on(axis))
    if not area or not slides or area.length(axis) < 2:
        return None
    counted = {int(each) for each in _COUNTED.findall(told)}
    length = area.length(axis)
    off = [each for each in counted if abs(each - length) == 1 and each > 1]
    return off[0] if length not in counted and len(off) == 1 else None


def _finding(subject: Subject, use: Use, axis: Axis, wanted: int, told: str) -> Finding:
    area = use.reference.area(subject.start)
    assert area is not None
    length = area.length(axis)
    more = wanted - length
    at_its_row = area.on(axis)[1] == subject.start.on(axis)
    # A window of the last so many ends with the line of its own landing.
    own = subject.start.on(axis) - area.on(axis)[1] == 1
    first, last = (0, more) if own and more > 0 else (more, 0)
    if more < 0 and not at_its_row:
        first, last = (0, more) if area.on(axis)[1] > subject.start.on(axis) else (more, 0)
    return Finding(
        "doubt",
        subject.sheet.name,
        subject.parts,
        f"{subject.tag(use.number)} covers {length} cells, but {quoted(told)} counts {wanted}.",
        "A window that is one cell off takes one value too many or too few into each result.",
        use.number,
        (stretched(subject, use, axis, first, last),),
        (f"the label says {wanted}",),
    )
