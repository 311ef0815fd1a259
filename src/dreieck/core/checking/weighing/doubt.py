"""Whether the locks of a block are in doubt, because others have far less against them."""

from __future__ import annotations

from typing import NamedTuple

from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.choices import Choice, choices, troubles
from dreieck.core.checking.weighing.trouble import ENOUGH, Trouble, weight
from dreieck.core.formula.reference import Reference
from dreieck.core.grid import Axis

_LEFT = 0.4
"""Other locks are better if no more than this part of what speaks against these is left."""

_MUCH = 8.0
"""Landings that are all the same are better than so much."""


class Change(NamedTuple):
    """A reference, by its number, before and after, on the axes on which its locks change."""

    number: int
    before: Reference
    after: Reference
    axes: tuple[Axis, ...]


class Doubt(NamedTuple):
    """What speaks against the locks of a block, and the choices that do better."""

    troubles: tuple[Trouble, ...]
    better: tuple[Choice, ...]

    @property
    def gone(self) -> tuple[Trouble, ...]:
        """The troubles that the best choice does not have."""
        left = {(each.sort, each.reference) for each in troubles(self.better[0].subject)}
        return tuple(t for t in self.troubles if (t.sort, t.reference) not in left)


def doubt(subject: Subject) -> Doubt | None:
    """Why other locks are better for a block; None where they are not."""
    return subject.once(_doubt)


def _doubt(subject: Subject) -> Doubt | None:
    if subject.block.size < 2:
        return None
    found = troubles(subject)
    against = weight(found)
    if against < ENOUGH:
        return None
    better = [
        choice
        for choice in choices(subject)[:6]
        if choice.shape is not subject.shape and _is_better(choice, against)
    ]
    if not better:
        return None
    best = better[0]
    alike = (each for each in better if each.weight <= best.weight + 0.5)
    return Doubt(found, tuple(each for each in alike if each.changed == best.changed))


def _is_better(choice: Choice, against: float) -> bool:
    """Whether far less speaks against a choice, or only that all its landings are the same."""
    if choice.weight <= _LEFT * against:
        return True
    sorts = {each.sort for each in troubles(choice.subject)}
    return sorts == {"same"} and against >= _MUCH


def changes(subject: Subject, choice: Choice) -> list[Change]:
    """The references whose locks a choice changes, each once wherever it stands."""
    pairs = zip(subject.shape.references, choice.shape.references, strict=True)
    changed = {pair: number for number, pair in reversed(list(enumerate(pairs)))}
    return [
        Change(number, before, after, _axes(before, after))
        for (before, after), number in sorted(changed.items(), key=lambda each: each[1])
        if before != after
    ]


def _axes(before: Reference, after: Reference) -> tuple[Axis, ...]:
    axes: tuple[Axis, Axis] = ("column", "row")
    return tuple(axis for axis in axes if before.on(axis) != after.on(axis))
