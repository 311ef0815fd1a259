"""Questions about one's own blocks."""

import pytest
from laws_of_questions import right_answer

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Area, Cell
from dreieck.core.practice.judging import judge
from dreieck.core.practice.own import own_question
from dreieck.demo.hut_supplies import NAMES, sheets


@pytest.fixture(scope="module")
def calculation():
    return Calculation(typed_workbook({each.name: each.entries for each in sheets()}, NAMES))


@pytest.mark.parametrize(
    ("sheet", "at", "target"),
    [("Loads", "E9", "C5:F10"), ("Prices", "G8", "G7:G13"), ("Prices", "E9", "E7:E12"),
     ("Prices", "C9", "C7:C12"), ("Season", "D6", "D5:D12"), ("Loads", "D12", "C12:F12")],
)  # fmt: skip
def test_a_block_can_be_practised_on(calculation, sheet, at, target):
    forms = set()
    for seed in range(10):
        asked = own_question(calculation, calculation.workbook.sheet(sheet), Cell.parse(at), seed)
        assert asked.exercise.target == Area.parse(target)
        assert judge(asked, right_answer(asked)).is_right
        forms.add(asked.form)
    assert {"stands", "lock"} <= forms
    # Nothing was written.
    assert calculation.workbook.sheet(sheet).content(Cell.parse(at)) is not None


@pytest.mark.parametrize(
    ("at", "says"),
    [("A1", "holds no formula"), ("E15", "holds no formula"), ("F15", "stands in one cell only")],
)
def test_where_there_is_nothing_to_ask_it_is_said(calculation, at, says):
    with pytest.raises(DreieckError, match=says):
        own_question(calculation, calculation.workbook.sheet("Prices"), Cell.parse(at), 1)
