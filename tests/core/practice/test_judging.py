"""Answers: right ones of all kinds are taken, wrong ones are told by what they would read."""

from itertools import product
from random import Random

import pytest
from effort import share
from hypothesis import given
from hypothesis import strategies as st

from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.practice import asking, explaining, hints, predicting
from dreieck.core.practice.exercise import alike
from dreieck.core.practice.faults import find, slid, typed_over
from dreieck.core.practice.judging import MISTAKES, Given, judge

from .conftest import GRID, RATED, exercise

HOLDS = ("moves", "stays")


@pytest.mark.parametrize(
    "formula", ["=$B5*C$4", "=C$4*$B5", " =$b5 * c$4 ", "$B5*C$4", "=PRODUCT($B5,C$4)"]
)
def test_a_formula_that_gives_the_same_is_right_however_it_is_written(grid, formula):
    verdict = judge(asking.write(Random(1), grid), Given(formula=formula))
    assert verdict.is_right
    assert verdict.given is None


@pytest.mark.parametrize(
    ("formula", "at", "says", "mistake"),
    [
        ("=B5*C4", "D5", "ⓐ B5: the column is free and goes along, 1 to the right. So D5 reads C5."
         " It should read B5.", "column-moved"),
        ("=$B5*$C$4", "D5", "ⓑ $C$4: the column and the row are locked and stay. So D5 reads C4."
         " It should read D4.", "column-stayed"),
        ("=C4*$B5", "C6", "ⓐ C4: the row is free and goes along, 1 down. So C6 reads C5."
         " It should read C4.", "row-moved"),
        ("=$B$5*C$4", "C6", "ⓐ $B$5: the column and the row are locked and stay. So C6 reads B5."
         " It should read B6.", "row-stayed"),
        ("=$B5+C$4", "C5", "Your formula reads B5 and C4 there; right is =$B5*C$4.", "start"),
        ("=50.4", "D5", "Your formula reads no cell there; right is =$B5*D$4.", "start"),
    ],
)  # fmt: skip
def test_a_wrong_formula_is_told_by_its_first_wrong_landing(grid, formula, at, says, mistake):
    verdict = judge(asking.write(Random(1), grid), Given(formula=formula))
    assert not verdict.is_right
    assert verdict.landing.text == at
    assert verdict.says[1] == says
    assert verdict.mistake == mistake
    assert mistake in MISTAKES


def test_a_number_that_happens_to_be_right_is_no_answer(rated):
    written = asking.write(Random(1), rated)
    verdict = judge(written, Given(formula="=B5*1.8"))
    assert (verdict.is_right, verdict.mistake) == (False, "constant")
    assert "A number is typed into your formula" in verdict.says[0]
    # Here B6 holds what the input holds: right now, and wrong with another input.
    chance = exercise(RATED | {"B6": "1.8"}, "=B5*$B$2", "C5:C7", "absolute", 1)
    verdict = judge(asking.write(Random(1), chance), Given(formula="=B5*$B$6"))
    assert not verdict.is_right
    assert "with other numbers in the inputs" in verdict.says[0]


def test_a_name_that_is_asked_for_has_to_be_used():
    named = exercise(RATED, "=B5*price", "C5:C7", "names", 0, {"price": "Loads!$B$2"})
    written = asking.write(Random(1), named)
    assert written.asks.endswith("Use the name price.")
    assert judge(written, Given(formula="=price*B5")).is_right
    verdict = judge(written, Given(formula="=B5*$B$2"))
    assert (verdict.is_right, verdict.mistake) == (False, "name")


@pytest.mark.parametrize(
    ("formula", "says"),
    [
        ("", "Write the formula for C5 first"),
        ("=", "Write the formula for C5 first"),
        ("=$B5*", "=\\$B5\\* can't be read yet. The formula ends too early"),
        ("=" + "1+" * 600 + "1", "1,000 characters"),
    ],
)
def test_what_is_no_formula_is_told_and_does_not_count(grid, formula, says):
    with pytest.raises(DreieckError, match=says):
        judge(asking.write(Random(1), grid), Given(formula=formula))


@pytest.mark.parametrize(
    ("entries", "formula", "target"), [(GRID, "=$B5*C$4", "C5:E7"), (RATED, "=B5*$B$2", "C5:C7")]
)
def test_locks_are_right_just_where_the_values_come_out(entries, formula, target):
    asked = asking.lock(Random(1), exercise(entries, formula, target))
    right = asked.exercise.values(asked.exercise.shape)
    taken = set()
    for choice in product(HOLDS, repeat=4):
        keys = [(n, axis) for n in (0, 1) for axis in ("column", "row")]
        written = asking.locked(asked.exercise, dict(zip(keys, choice, strict=True)))
        values = asked.exercise.values(Shape.parse(written, asked.exercise.start))
        comes_out = all(alike(one, two) for one, two in zip(values, right, strict=True))
        assert judge(asked, Given(formula=written)).is_right == comes_out
        taken |= {written} if comes_out else set()
    assert formula in taken
    # Down a column it does not matter whether columns are locked.
    assert len(taken) == (1 if target == "C5:E7" else 4)


@given(st.randoms())
@share(0.25)
def test_of_a_question_to_choose_from_one_answer_is_right(rng):
    asked = exercise(GRID, "=$B5*C$4", "C5:E7", number=1)
    for form in (predicting.stands, predicting.shows, explaining.sentence, explaining.drawing):
        question = form(rng, asked)
        verdicts = [judge(question, Given(number)) for number in range(len(question.choices))]
        assert [verdict.is_right for verdict in verdicts].count(True) == 1
        for verdict in verdicts:
            if not verdict.is_right:
                assert verdict.given is not None
                assert verdict.mistake in MISTAKES


def test_the_cell_that_is_read_is_pointed_at(grid):
    question = predicting.reads(Random(3), grid)
    at = question.landing
    right = Cell(at.column, 4)
    assert judge(question, Given(cell=right.text.lower())).is_right
    verdict = judge(question, Given(cell="C4"))
    assert verdict.says[0] == "You pointed at C4."
    assert verdict.mistake == "column-stayed"
    assert verdict.given.references[1].area(at) == Area.parse("C4")
    for cell in ("", "nowhere"):
        with pytest.raises(DreieckError):
            judge(question, Given(cell=cell))


def test_a_fault_is_found_named_and_mended(rated):
    asked = find(slid)(Random(1), rated)
    assert asked.planted.first == Cell.parse("C6")
    verdict = judge(asked, Given(asked.right, "C6", "=B6*$B$2"))
    assert verdict.is_right
    assert verdict.says[-1] == "Your mend is right; filled over C5:C7 it holds everywhere."
    wrong = (asked.right + 1) % len(asked.choices)
    for given_, mistake in (
        (Given(asked.right, "C7", "=B6*$B$2"), "place"),
        (Given(wrong, "C6", "=B6*$B$2"), "cause"),
        (Given(asked.right, "C6", "=B6*B2"), "row-moved"),
        (Given(asked.right, "C6", "=B6*B5"), "start"),
    ):
        verdict = judge(asked, given_)
        assert (verdict.is_right, verdict.mistake) == (False, mistake)
        assert verdict.given.text(Cell.parse("C6")) == "=B6*B3"
    with pytest.raises(DreieckError, match="Choose one of the answers"):
        judge(asked, Given(-1, "C6", "=B6*$B$2"))


def test_a_mend_written_for_another_cell_is_told_of_the_cell_that_it_is_for(rated):
    asked = find(slid)(Random(1), rated)
    # This is the formula of the start, typed for C6.
    verdict = judge(asked, Given(asked.right, "C6", "=B5*$B$2"))
    assert verdict.landing == Cell.parse("C6")
    assert "With your formula C6 shows 90; it should show 59.4." in verdict.says
    assert "Your formula reads B5 and B2 there; right is =B6*$B$2." in verdict.says


def test_a_typed_number_is_told_as_such(rated):
    asked = find(typed_over)(Random(2), rated)
    verdict = judge(asked, Given(asked.right, "C6", "=5"))
    assert "A typed number stands there; =B6*$B$2 should." in verdict.says


def test_hints_go_from_what_moves_to_the_answer(grid, rated):
    written = asking.write(Random(1), rated)
    landing = written.landing.text
    said = hints.which_part_moves(written)[1]
    assert said == f"C5 should read B2, and {landing} B2: the same both times."
    assert hints.answer(written)[0] == "In C5 should stand =B5*$B$2."
    stands = predicting.stands(Random(4), grid)
    way, look = hints.which_part_moves(stands)
    assert way.startswith(f"From C5 to {stands.landing.text} the fill goes ")
    assert look.startswith("Look at ⓐ $B5 and ⓑ C$4:")
    growing = exercise(GRID, "=SUM(B$5:B5)", "F5:F7", "corners")
    assert (
        "both begin at the same cell"
        in hints.which_part_moves(asking.write(Random(1), growing))[0]
    )
