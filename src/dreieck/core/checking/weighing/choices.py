"""Other locks for a block: all that there are, or where they are too many the best in turn."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from itertools import product
from math import prod

from dreieck.core.checking.subject import Subject
from dreieck.core.checking.weighing.range_troubles import range_troubles
from dreieck.core.checking.weighing.trouble import Trouble, weight
from dreieck.core.checking.weighing.troubles import cell_troubles
from dreieck.core.formula import Shape
from dreieck.core.formula.locks import Lock, axes, with_lock
from dreieck.core.formula.reference import CellReference, Reference
from dreieck.core.grid import AXES, Area, Cell

MOST = 256
"""So many choices are all weighed; of more, reference by reference is varied."""
_ROUNDS = 3


def troubles(subject: Subject) -> tuple[Trouble, ...]:
    """All that speaks against the locks of a block."""
    return subject.once(_troubles)


def _troubles(subject: Subject) -> tuple[Trouble, ...]:
    return (*cell_troubles(subject), *range_troubles(subject))


@dataclass(frozen=True)
class Choice:
    """Locks for all references of a block; ``changed`` counts the parts that differ."""

    subject: Subject
    changed: int

    @property
    def shape(self) -> Shape:
        """The formula with these locks."""
        return self.subject.shape

    @cached_property
    def weight(self) -> float:
        """What speaks against it."""
        return weight(troubles(self.subject))

    @cached_property
    def rank(self) -> tuple[float, int, int]:
        """The better the smaller: sound, near to what is written, with few locks.

        A change has to do away with more than a trifle.
        """
        return round(self.weight + self.changed, 3), self.changed, locked_parts(self.shape)


def choices(subject: Subject, start: Cell | None = None) -> list[Choice]:
    """The choices of locks for a block, the best first; the block as it is among them.

    In the start, which is its first cell if none is given, all choices read the same.
    """
    start = start or subject.start
    options = [
        _options(reference, start, subject.block.area) for reference in subject.shape.references
    ]
    if prod(map(len, options)) <= MOST:
        found = [_choice(subject, each) for each in product(*options)]
    else:
        found = list(_in_turn(subject, options))
    unique = {choice.shape: choice for choice in reversed(found)}
    return sorted(unique.values(), key=lambda choice: choice.rank)


def _in_turn(subject: Subject, options: list[list[Reference]]) -> Iterator[Choice]:
    """Vary reference by reference from several starts, each time from the best choice so far."""
    for first in ([each[0] for each in options], [each[-1] for each in options]):
        best = _choice(subject, first)
        yield best
        for _ in range(_ROUNDS):
            before = best
            for number, option in enumerate(options):
                held = best.shape.references
                for reference in option:
                    tried = [*held[:number], reference, *held[number + 1 :]]
                    choice = _choice(subject, tried)
                    yield choice
                    best = min(best, choice, key=lambda each: each.rank)
            if best is before:
                break


def _choice(subject: Subject, references: object) -> Choice:
    shape, changed = subject.shape, 0
    assert isinstance(references, tuple | list)
    for number, reference in enumerate(references):
        held = subject.shape.references[number]
        if reference != held:
            shape = shape.with_reference(number, reference)
            changed += _differences(held, reference)
    return Choice(subject.relocked(shape), changed)


def _options(reference: Reference, start: Cell, area: Area) -> list[Reference]:
    """A reference as it is, and with every other choice of locks on the axes of the fill."""
    found = [reference]
    holds: tuple[Lock, ...] = ("moves", "stays")
    if not isinstance(reference, CellReference):
        holds = ("moves", "first", "stays", "last")
    for axis in axes(reference):
        if area.length(axis) > 1:
            found += [with_lock(each, start, axis, hold) for hold in holds for each in list(found)]
    return list(dict.fromkeys(found))


def _differences(one: Reference, other: Reference) -> int:
    """On how many axes the locks of a reference differ."""
    return sum(one.on(axis) != other.on(axis) for axis in AXES)


def locked_parts(shape: Shape) -> int:
    """How many parts of the references of a formula are locked."""
    return sum(
        part.locked
        for reference in shape.references
        for axis in AXES
        for part in reference.on(axis)
    )
