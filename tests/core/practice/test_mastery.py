"""Mastery: steps, levels, what is due; and sets of drills."""

from datetime import UTC, datetime, timedelta
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.exceptions import DreieckError
from dreieck.core.practice.catalogue import again, question
from dreieck.core.practice.codes import KINDS
from dreieck.core.practice.mastery import IN_ROW, STEPS, Mastery, due, next_code
from dreieck.core.practice.sets import FIRST_TWELVE, TEST, DrillSet, before_and_after, drawn_set
from dreieck.core.practice.skills import SKILLS

MONDAY = datetime(2026, 11, 23, 8, tzinfo=UTC)


def answered(*rights, begun=MONDAY, every=timedelta(minutes=20)):
    known = Mastery("absolute")
    for turn, right in enumerate(rights):
        known = known.answered_at(begun + turn * every, is_right=right)
    return known


@given(st.lists(st.booleans(), max_size=40))
def test_right_answers_lead_on_and_a_wrong_one_begins_the_level_anew(rights):
    before = Mastery("absolute")
    for turn, right in enumerate(rights):
        after = before.answered_at(MONDAY + timedelta(hours=turn), is_right=right)
        assert 0 <= after.steps <= STEPS
        assert (
            after.steps == min(before.steps + 1, STEPS) if right else after.steps <= before.steps
        )
        assert after.in_row == (before.in_row + 1 if right else 0)
        assert right or after.steps % IN_ROW == 0
        assert right or before.level - after.level <= 1
        before = after
    assert before.answered == len(rights)
    assert before.right == sum(rights)


def test_three_right_ones_in_a_row_lead_to_the_next_level_and_nine_master_it():
    assert [answered(*[True] * count).level for count in (0, 2, 3, 5, 6, 9)] == [1, 1, 2, 2, 3, 3]
    assert [answered(*[True] * count).is_mastered for count in (8, 9, 10)] == [False, True, True]
    assert answered(True, True, True, False).steps == 0
    assert answered(True, True, True, True, False).steps == 3


def test_what_is_known_better_is_due_later():
    def waits(*rights):
        known = answered(*rights, every=timedelta(days=1))
        return known.card.due - known.card.last_review

    assert waits(True, True, True) > waits(True) > timedelta(0)
    assert waits(True, True, True, False) < waits(True, True, True)
    known = answered(True)
    assert not known.is_due(MONDAY)
    assert known.is_due(MONDAY + timedelta(days=400))
    assert not Mastery("names").is_due(MONDAY)


def test_what_is_due_comes_first_and_then_what_one_is_least_far_with():
    later = MONDAY + timedelta(days=30)
    known = {key: Mastery(key) for key in SKILLS}
    known["names"] = Mastery("names").answered_at(MONDAY, is_right=True)
    known["sheets"] = Mastery("sheets").answered_at(MONDAY + timedelta(hours=1), is_right=True)
    assert [each.skill for each in due(known.values(), later)] == ["names", "sheets"]
    assert question(next_code(Random(1), known, later)).skill == "names"
    assert question(next_code(Random(1), known, MONDAY)).skill == "relative"


def test_the_test_after_asks_the_same_with_other_numbers():
    before, after = before_and_after(7)
    assert len(before.codes) == TEST
    assert {question(code).skill for code in before.codes} == set(SKILLS)
    assert [again(code) for code in before.codes] == list(after.codes)
    assert before.is_test
    assert before_and_after(7)[0] == before != before_and_after(8)[0]


def test_the_first_twelve_train_all_skills():
    assert len(FIRST_TWELVE.codes) == 12
    assert {question(code).skill for code in FIRST_TWELVE.codes} == set(SKILLS)


@given(st.integers(0, 999), st.sets(st.sampled_from(list(KINDS)), min_size=1), st.integers(1, 60))
def test_a_set_by_seed_is_the_same_each_time(seed, kinds, count):
    drawn = drawn_set(seed, sorted(kinds), 2, count)
    assert drawn == drawn_set(seed, sorted(kinds), 2, count)
    assert {code.kind for code in drawn.codes} <= kinds
    assert DrillSet.of(drawn.title, drawn.texts) == drawn


@pytest.mark.parametrize(
    ("title", "codes", "says"),
    [
        ("", ["lock-1-1"], "needs a title"),
        ("x" * 81, ["lock-1-1"], "needs a title"),
        ("Monday", [], "at least one drill"),
        ("Monday", ["bake-1-1"], "is no code of a drill"),
        ("Monday", [f"lock-1-{n}" for n in range(61)], "60 drills; this one has 61"),
    ],
)
def test_what_is_no_set_is_refused(title, codes, says):
    with pytest.raises(DreieckError, match=says):
        DrillSet.of(title, codes)
