"""Questions from seeds: the laws that hold for all of them, and that all kinds are there."""

import re

import pytest
from effort import share
from golden import is_kept
from hypothesis import given
from hypothesis import strategies as st
from laws_of_questions import check, check_again

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import EVERYWHERE
from dreieck.core.practice.catalogue import (
    VARIANTS,
    code_for,
    code_of_cause,
    question,
    variants,
)
from dreieck.core.practice.codes import KINDS, LEVELS, MAX_SEED, Code
from dreieck.core.practice.faults import CAUSES, cause_of
from dreieck.core.practice.skills import SKILLS
from dreieck.core.sheet.content import typed_text

EVERY = [
    Code(kind, level, number)
    for kind in KINDS
    for level in LEVELS
    for number in range(len(variants(kind, level)))
]


@pytest.mark.parametrize("code", EVERY, ids=lambda code: code.text)
def test_every_sort_of_question_keeps_the_laws(code):
    asked = check(code)
    assert variants(code.kind, code.level)[code.seed].skill == asked.skill


def written(asked):
    """A question with its tables, row by row; inputs, headings and results are marked."""
    exercise = asked.exercise
    lines = [f"{asked.form}, {asked.skill}: {asked.asks}"]
    lines.append(f"{exercise.formula} in {exercise.start.text} to {exercise.target.text}")
    lines += [f"{'+' if each.is_right else '-'} {each.text}" for each in asked.choices]
    for sheet in exercise.workbook.sheets:
        rows = {}
        for cell, content in sheet.filled(EVERYWHERE):
            role = sheet.look(cell).role
            mark = "" if role == "plain" else f" ({role})"
            rows.setdefault(cell.row, []).append(f"{cell.text} {typed_text(content, cell)}{mark}")
        lines += [f"{sheet.name}: {' | '.join(row)}" for _, row in sorted(rows.items())]
    told = "".join(line.replace("\n", " ") + "\n" for line in lines)
    # Both orders of such ends mean the same; which one is written is up to who wrote it first.
    return re.sub(r"([A-Z]+)(\d+):\1\$\2\b", r"\1$\2:\1\2", told)


@pytest.mark.parametrize("code", EVERY[::3], ids=lambda code: code.text)
def test_what_is_asked_is_kept_word_for_word(code):
    is_kept("core/practice/asked.txt", code.text, written(question(code)))


@pytest.mark.parametrize("level", LEVELS)
@pytest.mark.parametrize("kind", KINDS)
@share(0.08)
@given(seed=st.integers(0, MAX_SEED))
def test_so_does_every_seed(kind, level, seed):
    code = Code(kind, level, seed)
    check(code)
    check_again(code)


def test_all_that_is_practised_has_questions_at_each_level():
    assert set(VARIANTS) == set(KINDS)
    asked = {question(code).skill for code in EVERY}
    assert asked == set(SKILLS)
    forms = {kind: {question(code).form for code in EVERY if code.kind == kind} for kind in KINDS}
    assert forms["predict"] == {"stands", "shows", "reads"}
    assert forms["explain"] == {"sentence", "drawing"}
    assert all(forms[kind] == {kind} for kind in ("lock", "write", "find"))
    causes = {asked.planted.cause for code in EVERY if (asked := question(code)).planted}
    assert causes == set(CAUSES)


@given(st.randoms(), st.sampled_from(list(SKILLS)), st.sampled_from(LEVELS))
@share(0.4)
def test_a_code_for_a_skill_trains_it(rng, skill, level):
    assert question(code_for(rng, skill, level)).skill == skill


@pytest.mark.parametrize(
    "rule", ["input-slid", "all-same", "typed-over", "shape-break", "misses-neighbours"]
)
@given(st.randoms())
@share(0.04)
def test_a_mistake_that_a_finding_tells_can_be_practised(rule, rng):
    code = code_of_cause(rng, cause_of(rule))
    assert question(code).planted.cause == cause_of(rule)
    assert cause_of("old-feed") is None


@given(st.sampled_from(list(KINDS)), st.sampled_from(LEVELS), st.integers(0, MAX_SEED))
def test_a_code_is_read_as_it_is_written(kind, level, seed):
    code = Code(kind, level, seed)
    assert Code.parse(f"  {code.text.upper()} ") == code


@pytest.mark.parametrize(
    "text", ["", "lock", "lock-4-1", "bake-1-1", "lock-2-1234567890", "lock-2--1"]
)
def test_what_is_no_code_is_refused(text):
    with pytest.raises(DreieckError, match="is no code of a drill"):
        Code.parse(text)
