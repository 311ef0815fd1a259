"""Find: fills with one mistake of those that findings tell."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from random import Random

from dreieck.core.formula import Shape
from dreieck.core.formula.locks import Lock, axes, lock_of, with_lock
from dreieck.core.formula.reference import RangeReference, Reference
from dreieck.core.grid import Axis, Cell
from dreieck.core.practice.exercise import Exercise, alike
from dreieck.core.practice.question import Choice, Planted, Question
from dreieck.core.sheet.content import Content

_CAUSES = 4


@dataclass(frozen=True, slots=True)
class Cause:
    """A mistake in a fill: its cause in words, and what others could be said of it, too."""

    says: str
    also: tuple[str, ...] = ()


CAUSES: dict[str, Cause] = {
    "slid": Cause(
        "A reference that should stay goes along with the fill.", ("list-slid", "wrong-way")
    ),
    "all-locked": Cause(
        "A reference that should go along with the fill is locked.", ("wrong-way", "short")
    ),
    "wrong-way": Cause(
        "Of a mixed reference the wrong part is locked: column instead of row, or the other way"
        " round.",
        ("slid", "all-locked"),
    ),
    "typed-over": Cause("A number was typed over one of the formulas."),
    "other-formula": Cause("One landing holds another formula than its neighbours."),
    "short": Cause("A range ends before the last row of the list.", ("all-locked",)),
    "list-slid": Cause("The list that is searched goes along with the fill.", ("slid",)),
}
RULES: dict[str, tuple[str, ...]] = {
    "slid": ("input-slid",),
    "all-locked": ("heading-unread", "all-same"),
    "wrong-way": ("input-slid",),
    "typed-over": ("typed-over",),
    "other-formula": ("shape-break",),
    "short": ("misses-neighbours", "begins-late"),
    "list-slid": ("input-slid",),
}
"""The findings that may tell each cause."""
Plant = Callable[[Random, Exercise], Planted | None]


def _relocked(exercise: Exercise, change: Callable[[Reference], Reference]) -> Shape:
    reference = exercise.shape.references[exercise.number]
    return exercise.shape.with_equals(exercise.number, change(reference))


def _over_all(exercise: Exercise, cause: str, shape: Shape) -> Planted | None:
    """A fill of a wrong formula; None where its values are right all the same."""
    first = exercise.differing(shape)
    if first is None:
        return None
    contents: dict[Cell, Content] = {cell: shape.landed(cell) for cell in exercise.landings}
    return Planted(cause, contents, first)


def _in_one(exercise: Exercise, cause: str, at: Cell, content: Content) -> Planted:
    """A right fill but for one landing."""
    contents: dict[Cell, Content] = dict.fromkeys(exercise.landings, exercise.shape)
    return Planted(cause, contents | {at: content}, at)


def _holding(exercise: Exercise, hold: Lock) -> Shape:
    """The right formula, but for the reference in question, which does the same on all axes."""

    def held(reference: Reference) -> Reference:
        for axis in axes(reference):
            reference = with_lock(reference, exercise.start, axis, hold)
        return reference

    return _relocked(exercise, held)


def slid(rng: Random, exercise: Exercise) -> Planted | None:
    """The reference in question is not locked at all, or its list is not."""
    searched = isinstance(exercise.shape.references[exercise.number], RangeReference)
    cause = "list-slid" if searched else "slid"
    return _over_all(exercise, cause, _holding(exercise, "moves"))


def all_locked(rng: Random, exercise: Exercise) -> Planted | None:
    """The reference in question is locked, though it should go along."""
    return _over_all(exercise, "all-locked", _holding(exercise, "stays"))


def wrong_way(rng: Random, exercise: Exercise) -> Planted | None:
    """The wrong part of a mixed reference is locked."""

    def turned(reference: Reference) -> Reference:
        at = exercise.start
        held = [(axis, lock_of(reference, at, axis)) for axis in axes(reference)]
        for (axis, _), (_, hold) in zip(held, reversed(held), strict=True):
            reference = with_lock(reference, at, axis, hold)
        return reference

    return _over_all(exercise, "wrong-way", _relocked(exercise, turned))


def _inner(rng: Random, exercise: Exercise) -> Cell:
    """A landing that has neighbours before and behind it."""
    return rng.choice(exercise.landings[1:-1])


def typed_over(rng: Random, exercise: Exercise) -> Planted | None:
    """A number stands in one landing."""
    at = _inner(rng, exercise)
    value = exercise.with_fill(exercise.shape).value(exercise.sheet_name, at)
    if not isinstance(value, float):
        return None
    typed = round(value * rng.choice((0.5, 0.8, 1.25, 1.5, 2)), 1)
    return None if alike(typed, value) else _in_one(exercise, "typed-over", at, typed)


def other_formula(rng: Random, exercise: Exercise) -> Planted | None:
    """One landing reads what is meant for the next one."""
    at = _inner(rng, exercise)
    axis: Axis = "column" if exercise.target.height == 1 else "row"
    other = Shape.parse(exercise.shape.text(at.step(axis, rng.choice((-1, 1)))), at)
    planted = _in_one(exercise, "other-formula", at, other)
    made = exercise.calculation.with_edits([exercise.put(planted.contents)])
    right = exercise.with_fill(exercise.shape)
    one, two = (each.value(exercise.sheet_name, at) for each in (made, right))
    return None if alike(one, two) else planted


def short(rng: Random, exercise: Exercise) -> Planted | None:
    """A range over the list leaves its last row out."""

    def shorter(reference: Reference) -> Reference:
        area = reference.area(exercise.start)
        assert area is not None
        less = area._replace(bottom=area.bottom - 1)
        return reference.reading(less, exercise.start, exercise.start)

    return _over_all(exercise, "short", _relocked(exercise, shorter))


def find(plant: Plant) -> Callable[[Random, Exercise], Question | None]:
    """The question where a fault begins, what it comes of, and what should stand there."""

    def asked(rng: Random, exercise: Exercise) -> Question | None:
        planted = plant(rng, exercise)
        if planted is None:
            return None
        cause = CAUSES[planted.cause]
        wrong = [
            Choice(other.says, None)
            for key, other in CAUSES.items()
            if key != planted.cause and key not in cause.also and planted.cause not in other.also
        ]
        choices = [Choice(cause.says, None, is_right=True), *rng.sample(wrong, _CAUSES - 1)]
        rng.shuffle(choices)
        asks = (
            f"{exercise.target.text} shall hold {exercise.task}, but something is wrong. Read row"
            " by row: which landing is the first with a wrong value, why, and what should stand"
            " there?"
        )
        return Question("find", exercise, asks, "faults", planted.first, tuple(choices), planted)

    return asked


def cause_of(rule: str) -> str | None:
    """The cause that a finding of this rule tells; None where no drill is about it."""
    return next((cause for cause, rules in RULES.items() if rule in rules), None)
