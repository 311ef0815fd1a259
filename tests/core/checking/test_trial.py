"""Trying an input out, and four ways to lock a reference."""

import math

import pytest
from formulas import near_cells, near_formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, PRICES, WEEKS, filled, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.four_ways import four_ways
from dreieck.core.checking.trial import tried
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import EVERYWHERE, Area, Cell


def trial(made, cell, value):
    return tried(Calculation(made), made.sheets[0], Cell.parse(cell), value)


def silent(found):
    return [area.text for _, area in found.silent]


def test_all_that_answers_is_told_with_before_and_after():
    made = filled(PRICES, C4_C9="=B4*B$1", C10_C10="=SUM(C4:C9)")
    found = trial(made, "B1", 2.0)
    assert found.count == 7 and silent(found) == []
    told = [(each.sheet, each.cell.text, each.before, each.after) for each in found.answers]
    weights = [(row, row * 7.5) for row in range(4, 10)]
    each = [("Loads", f"C{row}", kg * 1.8, kg * 2) for row, kg in weights]
    total = sum(kg for _, kg in weights)
    assert told == [("Loads", "C10", total * 1.8, total * 2), *each[:4]]
    assert sorted(area.text for _, area in found.changed) == ["C10", "C4:C9"]
    assert made.content("Loads", Cell.parse("B1")) == 1.8
    found.edit.apply(made)
    assert made.content("Loads", Cell.parse("B1")) == 2.0


@pytest.mark.parametrize(
    ("made", "cell", "expected"),
    [
        (filled(PRICES, C4_C9="=B4*B1"), "B1", ["C5:C9"]),
        (filled(PRICES, C4_C9="=B4*B$1", C6_C6="12"), "B1", []),
        (filled(GRID, C5_E10="=$B5*C$4"), "C4", []),
        (filled(GRID, C5_E10="=$B5*C$4"), "B7", []),
        (filled(GRID, C5_E10="=$B5*C$4", C7_C10="=$B7*D$4"), "C4", []),
        (filled(WEEKS, C4_C11="=SUM(B$4:B4)"), "B6", []),
    ],
)
def test_what_should_have_answered_is_told(made, cell, expected):
    assert silent(trial(made, cell, 999.0)) == expected


def test_each_answer_counts_once_and_totals_of_other_columns_may_keep_silent():
    made = filled(
        PRICES, C4_C9="=B4*B$1", D4_D9="=B4+C4", B10_D10="=SUM(B4:B9)", E4_E10="=D4/D$10*C4"
    )
    found = trial(made, "B1", 2.3)
    cells = [(name, cell) for name, area in found.changed for cell in area.cells()]
    assert len(cells) == len(set(cells)) == found.count
    assert silent(found) == [] and found.answers[0].cell.text == "E10"


def test_a_share_that_stays_but_for_rounding_neither_answers_nor_is_missed():
    made = filled(PRICES, C4_C9="=B4*B$1", D4_D9="=C4/SUM(C$4:C$9)", E4_E9="=MAX(C4,150)")
    found = trial(made, "B1", 2.3)
    assert sorted(area.text for _, area in found.changed) == ["C4:C9", "E9"]
    assert silent(found) == []


def differs(one, two):
    if type(one) is type(two) is float:
        return not math.isclose(one, two, rel_tol=1e-9)
    return one != two or type(one) is not type(two)


@given(
    st.dictionaries(near_cells, near_formulas, min_size=1, max_size=10),
    near_cells,
    st.sampled_from([0.0, 2.0, -7.5]),
)
def test_what_answers_is_what_comes_out_otherwise(entries, cell, value):
    made = workbook(Loads={each.text: entry for each, entry in entries.items()} | {cell.text: "1"})
    found = tried(Calculation(made), made.sheets[0], cell, value)
    formulas = [each for each, _ in made.sheets[0].formulas(EVERYWHERE)]
    before = [Calculation(made).value("Loads", each) for each in formulas]
    found.edit.apply(made)
    after = [Calculation(made).value("Loads", each) for each in formulas]
    other = {
        each for each, one, two in zip(formulas, before, after, strict=True) if differs(one, two)
    }
    assert {each for _, area in found.changed for each in area.cells()} == other
    assert found.count == len(other)
    assert {(each.cell, each.after) for each in found.answers} <= set(
        zip(formulas, after, strict=True)
    )


def test_a_value_that_changes_nothing_has_no_answers():
    made = filled(PRICES, C4_C9="=B4*B$1")
    assert trial(made, "B1", 1.8).count == 0
    assert trial(made, "A1", "Price").count == 0


def test_four_ways_show_what_each_lock_would_give():
    made = filled(GRID, C5_E10="=$B5*C$4")
    start = Cell.parse("C5")
    shape = made.content("Loads", start)
    ways = four_ways(Calculation(made), made.sheets[0], start, shape, Area.parse("C5:E10"), 0)
    assert [way.formula for way in ways] == ["=B5*C$4", "=B$5*C$4", "=$B5*C$4", "=$B$5*C$4"]
    assert [way.is_now for way in ways] == [False, False, True, False]
    corner = Cell.parse("E10")
    for way in ways:
        there = way.calculation.value("Loads", corner)
        way.fill.edit().apply(made)
        assert Calculation(made).value("Loads", corner) == there
    with pytest.raises(DreieckError, match="no such reference"):
        four_ways(Calculation(made), made.sheets[0], start, shape, Area.parse("C5:E10"), 2)


def test_of_two_landings_the_one_that_keeps_silent_is_told():
    made = filled({**PRICES, "B2": "1.8"}, C4_C5="=B4*B1")
    assert silent(trial(made, "B1", 2.0)) == ["C5"]


def test_texts_and_errors_that_differ_are_answers_too():
    made = filled(PRICES, C4_C4='=IF(B$1>1.9,"much","little")', C5_C5="=1/(B$1-2)", C6_C6='=A6&""')
    told = {each.cell.text: each.after for each in trial(made, "B1", 2.0).answers}
    assert told.keys() == {"C4", "C5"}
    assert (told["C4"], told["C5"].code) == ("much", "#DIV/0!")
