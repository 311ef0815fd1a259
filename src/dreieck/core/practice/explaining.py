"""Explain: which sentence says a formula, which drawing belongs to it."""

from __future__ import annotations

from random import Random

from dreieck.core.formula import Shape
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.misreading import all_relocked, reads, relocked
from dreieck.core.practice.predicting import landing_of, told_apart
from dreieck.core.practice.question import Choice, Question
from dreieck.core.values import Place
from dreieck.core.words.phrases import joined
from dreieck.core.words.reading import reading


def sentence(rng: Random, exercise: Exercise) -> Question | None:
    """Which sentence says what the formula of the start does."""

    def choice(shape: Shape, *, is_right: bool = False) -> Choice:
        place = Place(exercise.sheet_name, exercise.start)
        phrases = tuple(reading(exercise.workbook, place, shape))
        return Choice(joined(phrases), shape, is_right, phrases)

    wrong = [choice(other) for other in all_relocked(exercise)]
    right = choice(exercise.shape, is_right=True)
    choices = told_apart(rng, right, wrong, lambda one, other: one.text == other.text)
    if choices is None:
        return None
    asks = (
        f"In {exercise.start.text} stands {exercise.formula}, which is filled over"
        f" {exercise.target.text}. Which sentence says what it does?"
    )
    landing = landing_of(rng, exercise)
    return Question("sentence", exercise, asks, exercise.skill, landing, tuple(choices))


def drawing(rng: Random, exercise: Exercise) -> Question | None:
    """Which drawing shows what the start and a landing read."""
    landing, number = landing_of(rng, exercise), exercise.number
    right = Choice(exercise.formula, exercise.shape, is_right=True)
    wrong = [Choice(other.text(exercise.start), other) for other in relocked(exercise, number)]

    def same(one: Choice, other: Choice) -> bool:
        assert one.here and other.here
        return reads(one.here, landing) == reads(other.here, landing)

    choices = told_apart(rng, right, wrong, same)
    if choices is None:
        return None
    asks = (
        f"In {exercise.start.text} stands {exercise.formula}. Which drawing shows what it reads"
        f" there (dashed) and what it reads in {landing.text} (solid)?"
    )
    return Question("drawing", exercise, asks, exercise.skill, landing, tuple(choices))
