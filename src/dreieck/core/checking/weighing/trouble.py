"""What a trouble is: evidence against the locks of a block, with its weight.

From ``ENOUGH`` on, and where other locks have far less of it, the locks are in doubt. Weights
grow with the share of landings that are concerned.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal, NamedTuple

from dreieck.core.checking.weighing.reading import Reading
from dreieck.core.grid import AXES, CROSSING, Area, Axis
from dreieck.core.grid.areas import Mask, areas_of
from dreieck.core.tables.labels import texts_along
from dreieck.core.tables.series import counts_on

ENOUGH = 6.0
"""From this weight on locks are in doubt."""


Sort = Literal[
    "empty", "text", "results", "astray", "unread", "same", "twice", "itself", "total left",
    "one", "apart", "shrinks", "corner", "torn", "stuck", "sibling", "inverted", "lost",
]  # fmt: skip


class Trouble(NamedTuple):
    """What speaks against a reference (its number, -1 for all), and in which landings."""

    sort: Sort
    reference: int
    weight: float
    areas: tuple[Area, ...]


def weight(troubles: tuple[Trouble, ...]) -> float:
    """What troubles weigh together."""
    return sum(trouble.weight for trouble in troubles)


def extended(part: Area) -> list[Axis]:
    """The axes along which a part has several landings."""
    return [axis for axis in AXES if part.length(axis) > 1]


def marked(
    reading: Reading, sort: Sort, mask: Mask, least: float, most: float
) -> Iterator[Trouble]:
    """A trouble in the landings marked, between two weights by their share."""
    if mask.any():
        areas = areas_of(reading.part, mask)
        share = float(mask.mean())
        yield Trouble(sort, reading.use.number, least + (most - least) * share, areas)


def whole(reading: Reading, sort: Sort, size: float) -> Trouble:
    return Trouble(sort, reading.use.number, size, (reading.part,))


def labels_of_both(reading: Reading, axis: Axis) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """What is read along an axis is labelled, and what the landings are."""
    part, subject = reading.part, reading.subject
    length = part.length(axis)
    return reading.labels(axis), texts_along(
        subject.calculation, subject.sheet, part.first, axis, length
    )


def is_series_along(reading: Reading, axis: Axis) -> bool:
    part, subject, crossing = reading.part, reading.subject, CROSSING[axis]
    areas = (each.area(part.first) for each in subject.shape.references if not each.sheet)
    read = frozenset(area.on(crossing)[0] for area in areas if area)
    return counts_on(subject.calculation, subject.sheet, part.first, axis, part.length(axis), read)
