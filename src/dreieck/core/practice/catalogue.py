"""All questions: for each kind and level the forms and tables that it is made of.

The seed chooses among these in turn, so that a seed which is higher by their count gives the same
question with other numbers.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import cache
from itertools import product
from random import Random
from typing import NamedTuple

from dreieck.core.practice.asking import lock, write
from dreieck.core.practice.codes import LEVELS, MAX_SEED, Code
from dreieck.core.practice.exercise import Exercise
from dreieck.core.practice.explaining import drawing, sentence
from dreieck.core.practice.faults import (
    Plant,
    all_locked,
    find,
    other_formula,
    short,
    slid,
    typed_over,
    wrong_way,
)
from dreieck.core.practice.predicting import reads, shows, stands
from dreieck.core.practice.question import Question
from dreieck.core.practice.skills import SkillKey
from dreieck.core.practice.tables import (
    Maker,
    amounts,
    amounts_across,
    grid_by_column,
    grid_by_row,
    grid_elsewhere,
    grid_priced,
    list_elsewhere,
    looked_up,
    looked_up_elsewhere,
    matched,
    named_grid,
    named_list,
    named_rate,
    rate,
    rate_across,
    rate_beside,
    rate_elsewhere,
    running,
    running_by_hut,
    shares_of_range,
    shares_of_total,
    stock,
    takings,
    to_come,
)

Ask = Callable[[Random, Exercise], Question | None]
_MOST_DRAWN = 200
"""So often numbers are drawn for one question before that counts as impossible."""


class Variant(NamedTuple):
    """A form of question, and the table that it is asked about."""

    ask: Ask
    table: Maker
    is_fault: bool = False

    @property
    def skill(self) -> SkillKey:
        """What it trains."""
        return "faults" if self.is_fault else _skill(self.table)


@cache
def _skill(table: Maker) -> SkillKey:
    return table(Random(0)).skill


def _each(*asks: Ask, of: tuple[Maker, ...]) -> list[Variant]:
    return [Variant(ask, table) for table, ask in product(of, asks)]


def _faults(*planted: tuple[Plant, Maker]) -> list[Variant]:
    return [Variant(find(plant), table, is_fault=True) for plant, table in planted]


_ONE = (amounts, rate)
_TWO = (rate_beside, grid_by_row, grid_by_column, amounts_across, shares_of_total, rate_across)
_THREE = (grid_priced, shares_of_range, takings)
VARIANTS: dict[str, tuple[list[Variant], list[Variant], list[Variant]]] = {
    "predict": (
        _each(stands, shows, reads, of=_ONE),
        _each(stands, shows, reads, of=(rate_beside, grid_by_row, grid_by_column, amounts_across)),
        _each(stands, shows, reads, of=(grid_priced, stock, rate_across, shares_of_total)),
    ),
    "lock": (_each(lock, of=_ONE), _each(lock, of=_TWO), _each(lock, of=_THREE)),
    "write": (_each(write, of=_ONE), _each(write, of=_TWO), _each(write, of=_THREE)),
    "find": (
        _faults((slid, rate), (typed_over, amounts), (all_locked, amounts), (slid, rate_beside)),
        _faults(
            (slid, grid_by_row),
            (slid, grid_by_column),
            (other_formula, amounts),
            (slid, shares_of_total),
            (short, shares_of_range),
        ),
        _faults(
            (wrong_way, grid_by_row),
            (slid, looked_up),
            (wrong_way, grid_by_column),
            (other_formula, grid_by_row),
            (short, to_come),
            (typed_over, stock),
        ),
    ),
    "explain": (
        _each(sentence, of=_ONE),
        [
            *_each(sentence, drawing, of=(grid_by_row, grid_by_column)),
            *_each(sentence, of=(rate_beside, shares_of_total)),
        ],
        _each(sentence, drawing, of=(grid_priced, running, shares_of_range)),
    ),
    "name": (
        _each(stands, write, sentence, of=(named_rate,)),
        _each(stands, write, sentence, of=(named_list,)),
        _each(stands, shows, lock, write, of=(named_grid,)),
    ),
    "range": (
        _each(stands, shows, lock, drawing, write, of=(running,)),
        [
            *_each(stands, lock, drawing, write, of=(to_come, shares_of_range)),
            *_each(shows, of=(shares_of_range,)),
        ],
        _each(stands, shows, lock, write, of=(running_by_hut,)),
    ),
    "sheet": (
        _each(stands, shows, lock, write, of=(rate_elsewhere,)),
        _each(stands, shows, lock, write, of=(list_elsewhere,)),
        _each(stands, shows, lock, write, of=(grid_elsewhere,)),
    ),
    "recurrence": (
        _each(stands, shows, reads, write, of=(stock,)),
        _each(stands, shows, reads, lock, write, of=(takings,)),
        [*_faults((typed_over, stock), (slid, takings)), *_each(sentence, of=(takings, stock))],
    ),
    "lookup": (
        _each(stands, lock, of=(looked_up,)),
        _each(stands, lock, write, of=(looked_up, matched)),
        [*_faults((slid, looked_up)), *_each(stands, lock, write, of=(looked_up_elsewhere,))],
    ),
}


def variants(kind: str, level: int) -> list[Variant]:
    """What questions of a kind and level are made of."""
    return VARIANTS[kind][level - 1]


@cache
def _index(skill: SkillKey, level: int) -> tuple[tuple[str, int], ...]:
    found = (
        (kind, number)
        for kind in VARIANTS
        for number, variant in enumerate(variants(kind, level))
        if variant.skill == skill
    )
    return tuple(found)


def code_for(rng: Random, skill: SkillKey, level: int) -> Code:
    """A code of a question that trains a skill; where a level has none, one of another."""
    near = sorted(LEVELS, key=lambda each: (abs(each - level), each))
    level = next(each for each in near if _index(skill, each))
    kind, number = rng.choice(_index(skill, level))
    return _seeded(rng, kind, level, number)


def code_of_cause(rng: Random, cause: str) -> Code | None:
    """A code of a question about a fill with a mistake of this cause; None where there is none."""
    found = _first_of_cause(cause)
    return _seeded(rng, "find", *found) if found else None


@cache
def _first_of_cause(cause: str) -> tuple[int, int] | None:
    """The lowest level of faults with this cause, and the number of the variant there."""
    for level in LEVELS:
        for number in range(len(variants("find", level))):
            planted = question(Code("find", level, number)).planted
            if planted and planted.cause == cause:
                return level, number
    return None


def _seeded(rng: Random, kind: str, level: int, number: int) -> Code:
    count = len(variants(kind, level))
    return Code(kind, level, rng.randrange(MAX_SEED // count) * count + number)


def again(code: Code) -> Code:
    """The same question with other numbers."""
    count = len(variants(code.kind, code.level))
    seed = code.seed + count
    return replace(code, seed=seed if seed <= MAX_SEED else seed % count)


def skill_of(code: Code) -> SkillKey:
    """What the question of a code trains."""
    return _variant(code).skill


def _variant(code: Code) -> Variant:
    options = variants(code.kind, code.level)
    return options[code.seed % len(options)]


def question(code: Code) -> Question:
    """The question of a code: always the same one. Raises LookupError where it asks for none."""
    variant, rng = _variant(code), Random(code.text)
    for _ in range(_MOST_DRAWN):
        found = variant.ask(rng, variant.table(rng))
        if found is not None:
            return found
    raise LookupError(f"{code.text} leads to no question")
