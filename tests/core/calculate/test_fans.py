"""Formulas that give many values fill the cells they need, as long as there is room."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.calculate.runs import Runs
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.cells import Cells
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values import Error, Place
from dreieck.core.values.look import PLAIN

LOADS = {"A1": "50", "A2": "33", "A3": "126"}
ALL = Area.parse("A1:E8")


def told(value):
    return value.code if isinstance(value, Error) else value


def shown(calculation, area):
    return [told(calculation.value("Loads", cell)) for cell in Area.parse(area).cells()]


def edited(calculation, **entries):
    """The same calculation, after something was typed into its workbook."""
    made = calculation.workbook
    held = {
        Cell.parse(at): (made.read_entry(text, Cell.parse(at)).content if text else None, PLAIN)
        for at, text in entries.items()
    }
    edit = SetCells.of(made.sheets[0].id, held)
    edit.apply(made)
    calculation.edited([edit])
    return calculation


@pytest.mark.parametrize(
    ("formula", "area", "values"),
    [
        ("=SORT(A1:A3)", "C1:C4", [33.0, 50.0, 126.0, None]),
        ("=TRANSPOSE(A1:A3)", "C1:E1", [50.0, 33.0, 126.0]),
        ('=SORT(A1:A3)*2&" kg"', "C1:C3", ["66 kg", "100 kg", "252 kg"]),
        ("=IF(A1>0,SEQUENCE(2,2),0)", "C1:D2", [1.0, 2.0, 3.0, 4.0]),
        ("=LET(x,FILTER(A1:A3,A1:A3>40),x/2)", "C1:C3", [25.0, 63.0, None]),
        ("=FILTER(A1:B2,A1:A2>0)", "C1:D2", [50.0, 0.0, 33.0, 0.0]),
        ("=FILTER(A1:A3,A1:A3>126)", "C1:C2", ["#N/A", None]),
        ("=SEQUENCE(1)", "C1:C2", [1.0, None]),
        ("=1/SEQUENCE(2,1,0)", "C1:C2", ["#DIV/0!", 1.0]),
        ("=A1:A3*2", "C1:C2", [100.0, None]),
        ("=XLOOKUP(33,A1:A3,A1:B3)", "C1:D1", [33.0, 0.0]),
    ],
)
def test_a_formula_fills_the_cells_that_it_needs(formula, area, values):
    calculation = Calculation(workbook(Loads={**LOADS, "C1": formula}))
    assert shown(calculation, area) == values


def test_what_it_fills_is_read_as_cells_are_and_follows():
    entries = {**LOADS, "C1": "=FILTER(A1:A5,A1:A5>40)", "D1": "=SUM(C1:C9)", "E1": "=C2+1"}
    calculation = Calculation(workbook(Loads={**entries, "D2": "=SUM(FAN(C1))", "D3": "=C3"}))
    assert shown(calculation, "D1:D3") == [176.0, 176.0, 0.0] and shown(calculation, "E1") == [
        127.0
    ]
    edited(calculation, A4="60")
    assert shown(calculation, "D1:D3") == [236.0, 236.0, 60.0]
    edited(calculation, A1="1", A4=None)
    assert shown(calculation, "C1:C3") == [126.0, None, None]
    assert shown(calculation, "D1:D3") == [126.0, 126.0, 0.0] and shown(calculation, "E1") == [1.0]


def test_where_something_stands_in_the_way_it_says_what():
    calculation = Calculation(workbook(Loads={**LOADS, "C1": "=SORT(A1:A3)", "C3": "kg"}))
    found = calculation.value("Loads", Cell.parse("C1"))
    assert told(found) == "#ROOM!" and "needs C1:C3, but C3 is filled" in found.why
    assert shown(calculation, "C2:C3") == [None, "kg"]
    edited(calculation, C3=None)
    assert shown(calculation, "C1:C3") == [33.0, 50.0, 126.0]
    edited(calculation, C2="7")
    assert shown(calculation, "C1:C3") == ["#ROOM!", 7.0, None]


def test_the_first_of_two_has_the_room_whichever_came_first():
    calculation = Calculation(workbook(Loads={"B2": "=SEQUENCE(1,3)"}))
    assert shown(calculation, "B2:D2") == [1.0, 2.0, 3.0]
    edited(calculation, C1="=SEQUENCE(3)")
    assert shown(calculation, "C1:C3") == [1.0, 2.0, 3.0]
    found = calculation.value("Loads", Cell.parse("B2"))
    assert told(found) == "#ROOM!" and "belong to the formula in C1" in found.why
    edited(calculation, C1="=SEQUENCE(1)")
    assert shown(calculation, "B2:D2") == [1.0, 2.0, 3.0]


@pytest.mark.parametrize(
    "entries",
    [
        {"A1": "=SORT(A1:A3)"},
        {"B1": "=SEQUENCE(3)*B2"},
        {"A1": "=SEQUENCE(IF(B2>2,1,3))", "B1": "=SEQUENCE(3,1,A3+1)"},
    ],
)
def test_what_depends_on_its_own_fills_ends(entries):
    calculation = Calculation(workbook(Loads=entries))
    codes = {told(calculation.value("Loads", Cell.parse(at))) for at in entries}
    assert codes & {"#LOOP!"}


def test_the_end_of_the_sheet_leaves_no_room():
    calculation = Calculation(workbook(Loads={"C999999": "=SEQUENCE(9)"}))
    found = calculation.value("Loads", Cell.parse("C999999"))
    assert told(found) == "#ROOM!" and "ends at row 1,000,000" in found.why


def test_runs_see_what_is_filled():
    entries = {"A1": "2", "C1": "=SEQUENCE(A1)*A1", "D1": "=SUM(C1:C9)"}
    made = workbook(Loads=entries)
    at = [Place("Loads", Cell.parse(each)) for each in ("A1", "D1")]
    (found,) = Runs(Calculation(made), at[:1], at[1:]).of([Cells.of([1.0, 2.0, 4.0])])
    assert found.values() == [1.0, 6.0, 40.0]


formulas = st.sampled_from(
    ["=SEQUENCE(2,2)", "=SEQUENCE(A1)", "=SORT(A1:A3)", "=FILTER(A1:A4,A1:A4>1)", "=SUM(B1:C4)",
     "=TRANSPOSE(A1:A3)", "=B2+1", "=UNIQUE(A1:B3)", "=FAN(B1)*2", "=SUM(FAN(B2))", "=C3&\"x\"",
     "=SORT(B1:B3,1,-1)", "=COUNT(A1:E8)", "=TAKE(C1:D3,A2)", "=INDEX(B1:C4,2,2)", "1", "2", "3",
     "kg", "", ""]
)  # fmt: skip
places = st.sampled_from([cell.text for cell in Area.parse("A1:D5").cells()])


@given(
    st.dictionaries(places, formulas, min_size=2, max_size=8),
    st.lists(st.dictionaries(places, formulas, min_size=1, max_size=2), min_size=1, max_size=4),
)
def test_what_is_shown_does_not_depend_on_what_was_before(entries, changes):
    calculation = Calculation(workbook(Loads={at: text for at, text in entries.items() if text}))
    shown(calculation, "A1:E8")
    for change in changes:
        edited(calculation, **change)
        fresh = Calculation(calculation.workbook)
        assert shown(calculation, "A1:E8") == shown(fresh, "A1:E8")
        trial = calculation.with_edits([])
        assert shown(trial, "A1:E8") == shown(fresh, "A1:E8")


def test_names_that_double_are_looked_at_once():
    names = {f"load{n}_": f"=load{n + 1}_+load{n + 1}_" for n in range(600)} | {"load600_": "=1"}
    made = typed_workbook({"Loads": {"A1": "=load0_*2", "A2": "=load560_*2"}}, names)
    calculation = Calculation(made)
    assert told(calculation.value("Loads", Cell(1, 1))) == "#WORK!"
    assert calculation.value("Loads", Cell(1, 2)) == 2.0**41
