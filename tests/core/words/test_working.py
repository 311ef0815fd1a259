"""The working in numbers: what a part is worth, the way that is taken, where an error begins."""

import pytest
from sayings import HERE, LINES, calculated, ways_to_tell

from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import typed_workbook
from dreieck.core.values import Place
from dreieck.core.words.working import MAX_STEPS, working

PLACE = Place("Helpers", HERE)


def worked(formula):
    calculation, shape = calculated(formula)
    return calculation, shape, working(calculation, PLACE, shape)


@pytest.mark.parametrize("formula", [line for line in LINES[::2] if "RAND" not in line])
def test_each_step_comes_to_what_its_part_comes_to_by_itself(formula):
    calculation, _, found = worked(formula)
    for step in found.steps:
        assert step.gives in ways_to_tell(step.part, calculation), step


@pytest.mark.parametrize(
    ("formula", "summary"),
    [
        ("=IF(D2>2,D2*D3*(1-0.1),D2)", "4 is more than 2, so 4 × 2 × (1 − 0.1) = 7.2"),
        ("=IF(D3>4,1,IF(D3>1,D3*2,0))", "2 is at most 4 and 2 is more than 1, so 2 × 2 = 4"),
        ("=IF(AND(D3>1,E3<12),\"yes\",\"no\")",
         "2 is more than 1 and 9 is less than 12, so “yes”"),
        ("=IFS(D3>4,\"long\",D3>1,\"mid\",TRUE,\"short\")", "2 is more than 1, so “mid”"),
        ("=IFERROR(D3/F3,\"none\")", "2 ÷ 0 (empty) is #DIV/0!, so “none”"),
        ("=IFERROR(D3/E3,0)", "2 ÷ 9 = 0.222222222"),
        ("=IF(NOT(D3>4),D3,0)", "it is not so that 2 is more than 4, so 2"),
        ("=SUM(D2:D7)*fee", "21 × 12 = 252"),
        ("=ROUND(AVERAGE(D2:D7)*1.5,1)", "3.5 × 1.5, rounded to 1 decimal = 5.3"),
        ("=VLOOKUP(G7,Codes!A2:C4,3,FALSE)*D3", "2.4 × 2 = 4.8"),
        ("=D3", "Ben, Nights = 2"),
        ("=((D3+1)*2)", "(2 + 1) × 2 = 6"),
        ("=A3&\" sleeps in \"&B3", "“Ben” joined with “ sleeps in ” joined with “Larch”"
                                  " = “Ben sleeps in Larch”"),
        ("=SUMPRODUCT(D2:D7*(B2:B7=\"Larch\"))",
         "the sum of Nights (4, 2, 6, 3 and 2 more) where Hut (“Kestrel”, “Larch”, “Kestrel”,"
         " “Scree” and 2 more) is “Larch” = 7"),
        ("=MAX(IF(B2:B7=\"Larch\",D2:D7))",
         "the largest of (false, 2, false, false and 2 more) = 5"),
        ("=SUM(ROUND(D2:D7/4,0))", "the sum of (1, 1, 2, 1 and 2 more) = 6"),
        ("=SUM(1/COUNTIF(B2:B7,B2:B7))", "the sum of 1 ÷ (3, 2, 3, 1 and 2 more) = 3"),
    ],
)  # fmt: skip
def test_the_whole_is_said_in_one_sentence(formula, summary):
    assert worked(formula)[2].summary == summary


def test_steps_are_told_in_their_order_and_copied_as_text():
    _, _, found = worked("=ROUND(SUM(D2:D4)/H4,0)+VLOOKUP(G7,codes,3,FALSE)")
    assert found.text(PLACE, "=…").splitlines() == [
        "Helpers!J3 =…",
        "1. SUM(D2:D4): the sum of Nights, Ada to Cora (4, 2, 6) = 12",
        "2. ROUND(SUM(D2:D4)/H4,0): 12 ÷ 3, rounded to a whole number = 4",
        "3. VLOOKUP(G7,codes,3,FALSE): the Price of “P2”, from the list codes = 2.4",
        "4. ROUND(SUM(D2:D4)/H4,0)+VLOOKUP(G7,codes,3,FALSE): 4 + 2.4 = 6.4",
        "4 + 2.4 = 6.4",
    ]
    assert found.steps[0].reads == ("D2:D4",) and found.steps[1].reads == ("H4",)


def test_an_error_is_told_where_it_begins():
    notes = {step.part: step.note for step in worked("=1+SQRT(0-D3)")[2].steps}
    assert notes == {"SQRT(0-D3)": "the error begins here", "1+SQRT(0-D3)": ""}
    made = typed_workbook({"Loads": {"A1": "=1/0", "A2": "=A1+1", "A3": "=A2*2"}})
    at = HERE._replace(column=1, row=3)
    place = Place("Loads", at)
    (step,) = working(Calculation(made), place, made.content("Loads", at)).steps
    assert step.note == "the error began in Loads!A1"


def test_a_formula_of_a_great_many_parts_is_told_as_far_as_there_is_room():
    _, _, found = worked("=" + "+".join(f"ABS(D3-{n})" for n in range(60)))
    assert found.is_cut and len(found.steps) == MAX_STEPS


def test_a_fan_is_worked_out_with_all_its_values():
    entries = {"A1": "1", "A2": "3", "A3": "2", "C1": "=SORT(FILTER(A1:A3,A1:A3>1))*10"}
    made = typed_workbook({"Loads": entries})
    at = HERE._replace(column=3, row=1)
    found = working(Calculation(made), Place("Loads", at), made.content("Loads", at))
    assert found.summary == "(2, 3) × 10 = (20, 30)"
