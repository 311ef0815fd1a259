"""All that speaks against the locks of the references of a block to single cells."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.missing import empty, text
from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.checking.weighing.recurring import results, stuck
from dreieck.core.checking.weighing.sliding import (
    astray,
    begins_apart,
    itself,
    sibling,
    total_left,
)
from dreieck.core.checking.weighing.staying import same, torn, twice, unread
from dreieck.core.checking.weighing.trouble import Trouble, extended
from dreieck.core.grid import Axis


def cell_troubles(subject: Subject) -> Iterator[Trouble]:
    """What speaks against the locks of the references to single cells."""
    found: list[Reading] = []
    for part in subject.whole_parts:
        axes = extended(part)
        if not axes:
            continue
        readings: list[Reading] = []
        for use in subject.cell_uses:
            reading = Reading.of(subject, use, part)
            if reading is None and subject.sheet_of(use.reference):
                yield Trouble("lost", use.number, 14.0, (part,))
            elif reading and use.how not in ("place", "text"):
                readings.append(reading)
        for reading in readings:
            for trouble in _CELL_TROUBLES:
                yield from trouble(reading, readings, axes)
        yield from twice(subject, readings)
        found += readings
    yield from same(subject, found)


_CELL_TROUBLES: tuple[Callable[[Reading, list[Reading], list[Axis]], Iterator[Trouble]], ...] = (
    empty,
    text,
    results,
    astray,
    total_left,
    itself,
    unread,
    torn,
    stuck,
    sibling,
    begins_apart,
)
