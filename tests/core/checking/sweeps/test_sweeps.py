"""Sweeps: what they ask for, what comes out, and sheets that give the same."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import apply, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.sweeps.asked import MAX_RUNS, asked, place_of
from dreieck.core.checking.sweeps.patterns import pattern
from dreieck.core.checking.sweeps.proposing import results_for, values_for
from dreieck.core.checking.sweeps.running import Running, run
from dreieck.core.checking.sweeps.sheets import as_formulas, as_values
from dreieck.core.checking.sweeps.solving import solved
from dreieck.core.editing.stating import stated
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.values import Error, Place
from dreieck.core.values.look import PLAIN
from dreieck.files.delimited.sweeps import sweep_text

PRICES = {
    "A1": "Carrying", "B1": "2", "A2": "Reserve", "B2": "10%",
    "A4": "Item", "B4": "kg", "C4": "Cost",
    "A5": "Flour", "B5": "10", "C5": "=B5*B$1*(1+B$2)", "A6": "Oil", "B6": "5",
    "C6": "=B6*B$1*(1+B$2)", "A7": "Total", "B7": "=SUM(B5:B6)", "C7": "=SUM(C5:C6)",
    "C8": "=IF(C7>40,1/0,C7/B7)", "E1": "1", "E2": "=E1*1.5", "E3": "=E2*1.5", "E4": "=E3*1.5",
    "F1": '="at "&B1', "G1": "=COUNTIF(C5:C6,C5)", "G2": "=ROW()*B1", "G3": "=B1^2-6*B1+8",
}  # fmt: skip


def made(**more):
    return workbook(Prices=PRICES | more, Season={"A1": "1", "A2": "=Prices!C7*A1"})


def swept(book, text):
    calculation = Calculation(book)
    return calculation, run(calculation, asked(calculation, stated(text, book.sheets[0])))


def columns(outcome):
    return [[v.code if isinstance(v, Error) else v for v in each.values()]
            for each in outcome.columns]  # fmt: skip


def test_an_input_runs_over_values_and_nothing_else_changes():
    book = made()
    calculation, outcome = swept(book, "=SWEEP(OVER(B2,0%,30%,10%),C7,Season!A2,F1)")
    assert outcome.asked.inputs[0].values.values() == [0.0, 0.1, 0.2, 0.3]
    assert columns(outcome) == [[30, 33, 36, 39]] * 2 + [["at 2"] * 4]
    assert calculation.value("Prices", Cell.parse("C7")) == 33
    _, outcome = swept(book, "=SWEEP(OVER(B1,{1;2;5}),C8,E1:E2)")
    assert columns(outcome) == [[16.5 / 15, 33 / 15, "#DIV/0!"], [1, 1, 1], [1.5, 1.5, 1.5]]
    _, outcome = swept(book, "=SWEEP(OVER(B1,B5:B6),C7)")
    assert columns(outcome) == [[pytest.approx(165), pytest.approx(82.5)]]
    _, chain = swept(book, "=SWEEP(OVER(E1,1,3,1),E1:E4)")
    assert columns(chain)[3] == [1.5**3, 2 * 1.5**3, 3 * 1.5**3]
    first, again = (swept(book, "=SWEEP(DRAWN(B1,1,3,50,7),C7)")[1] for _ in range(2))
    assert columns(first) == columns(again) and len(set(columns(first)[0])) == 50
    assert columns(first) != columns(swept(book, "=SWEEP(DRAWN(B1,1,3,50,8),C7)")[1])


def test_two_inputs_give_a_grid_whose_formulas_with_mixed_locks_give_the_same():
    book = made()
    calculation, outcome = swept(book, "=SWEEP(OVER(B2,0%,20%,10%),OVER(B1,1,2,1),C7)")
    assert columns(outcome) == [[15, 30, 16.5, 33, 18, 36]]
    edit = as_formulas(calculation, outcome, 9)
    apply(book, [edit])
    sheet = book.sheet("Sweep of Reserve")
    shapes = {sheet.content(cell) for cell in Area.parse("B4:C6").cells()}
    (shape,) = shapes
    assert isinstance(shape, Shape)
    assert shape.text(Cell(2, 4)) == ("=SUM(Prices!$B$5*B$3*(1+$A4),Prices!$B$6*B$3*(1+$A4))")
    again = Calculation(book)
    found = [again.value(sheet.name, cell) for cell in Area.parse("B4:C6").cells()]
    assert found == columns(outcome)[0]
    values = as_values(calculation, outcome, 10)
    assert values.name == "Sweep of Reserve 2"
    apply(book, [values])
    held = book.sheet("Sweep of Reserve 2")
    assert [held.content(cell) for cell in Area.parse("B4:C6").cells()] == columns(outcome)[0]


def test_several_results_of_two_inputs_are_grids_below_each_other():
    book = made()
    calculation, outcome = swept(book, "=SWEEP(OVER(B2,0%,20%,10%),OVER(B1,1,2,1),C7,C8)")
    edit = as_formulas(calculation, outcome, 9)
    apply(book, [edit])
    sheet, again = book.sheet(edit.name), Calculation(book)
    assert sheet.content(Cell.parse("A8")) == "Carrying →; inside: Cost"
    assert sheet.content(Cell.parse("B10")).text(Cell.parse("B10")).count("B$9*(1+$A10)") == 4
    for number, area in enumerate(("B4:C6", "B10:C12")):
        found = [again.value(sheet.name, cell) for cell in Area.parse(area).cells()]
        assert found == [pytest.approx(each) for each in columns(outcome)[number]]


@pytest.mark.parametrize(
    ("results", "why"),
    [("G1", "reads C5:C6 as a range"), ("G2", "depends on where it stands"), ("C8,G1", "range")],
)
def test_what_cannot_be_one_formula_says_why(results, why):
    calculation, outcome = swept(made(), f"=SWEEP(OVER(B1,1,3,1),{results})")
    with pytest.raises(DreieckError, match=why):
        as_formulas(calculation, outcome, 9)
    assert as_values(calculation, outcome, 9).runs


@pytest.mark.parametrize("length", [60, 80, 120, 900])
def test_a_chain_is_one_formula_only_if_that_can_be_read_again(length):
    chain = {f"H{row}": f"=H{row - 1}*1.01" for row in range(2, length + 1)}
    calculation, outcome = swept(made(H1="1", **chain), f"=SWEEP(OVER(H1,1,3,1),H{length})")
    if length == 60:
        shape = as_formulas(calculation, outcome, 9).runs[-1].content
        assert Shape.parse(shape.text(Cell(2, 4)), Cell(2, 4)) is shape
        return
    with pytest.raises(DreieckError, match="too long"):
        as_formulas(calculation, outcome, 9)


@given(
    formulas=st.lists(
        st.sampled_from(["=B5*B$1", "=C5+B$2", "=IF(B5>B$1,B5,B$2)", "=SUM(B$5:B5)*B$1", "=C4",
                         "=-B5^2/B$1", "=MAX(C$5:C5)", "=B5&B$1", "=SUM(D5:E5)", "=B$1*1.5"]),
        min_size=3, max_size=3,
    ),
    one=st.lists(st.integers(-4, 9), min_size=1, max_size=4),
    two=st.lists(st.floats(0, 3), min_size=0, max_size=3),
)  # fmt: skip
def test_formulas_on_a_new_sheet_give_what_came_out_or_none_are_written(formulas, one, two):
    book = made()
    for column, formula in zip("CDE", formulas, strict=True):
        at = Cell.parse(column + "5")
        shape = book.read_entry(formula, at).content
        for row in (5, 6):
            book.sheets[0].put(Cell(at.column, row), shape.landed(Cell(at.column, row)), PLAIN)
    over = f"OVER(B1,{{{';'.join(map(str, one))}}})"
    if two:
        over += f",OVER(B2,{{{';'.join(map(repr, two))}}})"
    calculation, outcome = swept(book, f"=SWEEP({over},E6)")
    try:
        edit = as_formulas(calculation, outcome, 9)
    except DreieckError:
        return
    apply(book, [edit])
    again = Calculation(book)
    width = max(len(two), 1)
    area = Area(2, 4, 1 + width, 3 + len(one))
    for cell, wanted in zip(area.cells(), outcome.columns[0].values(), strict=True):
        found = again.value(edit.name, cell)
        if isinstance(wanted, Error):
            assert isinstance(found, Error) and found.code == wanted.code
        else:
            assert found == (pytest.approx(wanted) if isinstance(wanted, float) else wanted)


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("=SUM(B1)", "is written SWEEP"), ("=SWEEP(C7)", "one input, or two"),
        ("=SWEEP(OVER(B1,1,2,1))", "which results"), ("=SWEEP(OVER(B1,1,2,1),OVER(B1,1,2,1),C7)",
        "same cell"), ("=SWEEP(OVER(B1:B2,1,2,1),C7)", "more than one cell"),
        ("=SWEEP(OVER(B1,1,9,0),C7)", "never gets"), ("=SWEEP(OVER(B1,1,9,-1),C7)", "never gets"),
        ("=SWEEP(OVER(B1,1,9),C7)", "from, to, step"), ("=SWEEP(OVER(B1,0,1,1E-9),C7)", "steps"),
        ("=SWEEP(OVER(B1,F1,2,1),C7)", "single number"), ("=SWEEP(DRAWN(B1,1,2),C7)", "how many"),
        ("=SWEEP(DRAWN(B1,3,2,5),C7)", "above"), ("=SWEEP(DRAWN(B1,1,2,1E9),C7)", "can be drawn"),
        ("=SWEEP(OVER(B1,H1:H9),C7)", "no values"), ("=SWEEP(OVER(B1,{1;#N/A}),C7)", "an error"),
        ("=SWEEP(OVER(Gone!B1,1,2,1),C7)", "no sheet"), ("=SWEEP(OVER(B1,1,2,1),7)", "a cell"),
        ("=SWEEP(OVER(B1,1,400,1),OVER(B2,1,400,1),C7)", f"{MAX_RUNS:,} runs"),
        ("=SWEEP(OVER(B1,1,2,1),A1:Z99)", "more than 500"),
        ("=SWEEP(OVER(B1,1,50000,1),A1:J40)", "5,000,000"),
    ],
)  # fmt: skip
def test_what_cannot_be_run_is_refused_with_the_reason(text, why):
    book = made()
    with pytest.raises(DreieckError, match=why):
        asked(Calculation(book), stated(text, book.sheets[0]))


def test_it_runs_in_stretches_and_can_be_left():
    book = made()
    calculation = Calculation(book)
    wanted = asked(calculation, stated("=SWEEP(OVER(B1,1,5000,1),C7)", book.sheets[0]))
    running = Running(calculation, wanted)
    assert not running.go_on(lambda: False) and 0 < running.done < running.total == 5000
    assert running.go_on(lambda: True)
    assert columns(running.outcome())[0] == pytest.approx([16.5 * n for n in range(1, 5001)])
    assert sweep_text(running.outcome()).splitlines()[:2] == ["Carrying,Prices!C7", "1,16.5"]


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ([1, 2, 3, 4], "grows steadily, by 1 from one to the next"),
        ([0.3, 0.2, 0.1], "falls steadily, by 0.1 from one to the next"),
        ([1, 2, 4, 8], "grows by the same ratio: 2 times the one before"),
        ([5, 5, 5], "does not answer: always the same"),
        ([1, 3, 2, 1, 3, 2, 1], "repeats after every 3 values"),
        ([0, 5, 7.5, 8.75, 9.4, 9.7, 9.9, 9.999, 9.9999], "grows, and levels off"),
        ([1, 4, 9, 16], "grows faster and faster"), ([1, 5, 8, 10], "grows ever more slowly"),
        ([1, 5, 2], "rises, then falls: highest with 5"),
        ([4, 1, 1.5, 9], "falls, then rises: lowest with 1"),
        ([1, 4, 2, 5, 3], "goes up and down"), ([1, None, 3], "not always a number"),
        ([1], ""), ([1, 2], "grows"), ([0, 0], "does not answer: always the same"),
    ],
)  # fmt: skip
def test_what_a_series_does_is_told(values, says):
    found = pattern([None if each is None else float(each) for each in values])
    assert found.says == says
    assert len(found.differences) == len(found.ratios) == len(values)


def test_differences_and_ratios_stand_beside_the_value_that_they_lead_to():
    found = pattern([2.0, 3.0, 0.0, 6.0])
    assert found.differences == (None, 1.0, -3.0, 6.0) and found.ratios == (None, 1.5, 0.0, None)


def test_the_input_that_gives_a_result_is_found_all_of_them_or_none():
    calculation = Calculation(made())

    def solve(result, wanted, low=0.0, high=10.0):
        input = Place("Prices", Cell.parse("B1"))
        return solved(calculation, input, Place("Prices", Cell.parse(result)), wanted, low, high)

    assert solve("C7", 33).inputs == (pytest.approx(2),)
    assert solve("G3", 0).inputs == (pytest.approx(2), pytest.approx(4))
    assert solve("G3", 0).says == "2 inputs give that."
    assert solve("G3", -5).inputs == () and "goes from -1 to 48" in solve("G3", -5).says
    assert solve("E4", 3.375).says.startswith("The result is that for most")
    assert solve("C8", 50).inputs == ()
    for low, high, why in ((3, 3, "lower bound"), (50, 60, "no number")):
        with pytest.raises(DreieckError, match=why):
            solve("C8", 1, low, high)


def test_a_sweep_is_proposed_around_an_input_with_what_answers():
    calculation = Calculation(made())
    found = values_for(calculation, Place("Prices", Cell.parse("B1")))
    assert (found.low, found.high, found.step) == ("1", "3", "0.2")
    assert values_for(calculation, Place("Prices", Cell.parse("B2"))).step == "5%"
    assert results_for(calculation, Place("Prices", Cell.parse("B1")))[0] == "Prices!C7"
    assert results_for(calculation, Place("Prices", Cell.parse("H9"))) == []
    home = calculation.workbook.sheets[0]
    assert place_of(calculation, "B1", home) == Place("Prices", Cell.parse("B1"))
    for text, why in (("B1:B2", "more than one"), ("2", "a cell is needed"), ("=(", "expected")):
        with pytest.raises(DreieckError, match=why):
            place_of(calculation, text, home)
