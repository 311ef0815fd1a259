"""Tables in braces, and ranges whose end is worked out: read, said, filled, moved, lifted."""

import pytest
from tables import WEEKS, filled, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.lifting import lifted, numbers_inside
from dreieck.core.exceptions import FormulaError
from dreieck.core.formula import Shape, may_point, mentions
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values import Place
from dreieck.core.values.look import PLAIN
from dreieck.core.words.reading import reading
from dreieck.core.words.suggest import current_argument

C5 = Cell.parse("C5")


def said(made, cell):
    at = Cell.parse(cell)
    phrases = reading(made, Place("Loads", at), made.content("Loads", at))
    return " ".join(phrase.text for phrase in phrases)


@pytest.mark.parametrize(
    ("typed", "printed"),
    [
        ("={1, 2 ;3,4}", "={1,2;3,4}"),
        ("={1;2|3;4}", "={1,2;3,4}"),
        ("={1|2}", "={1;2}"),
        ('={-1,+2,"a;b",true}', '={-1,+2,"a;b",TRUE}'),
        ("=sum(b4 : index(b4:b9, 2))", "=SUM(B4:INDEX(B4:B9,2))"),
        ("=(B4):(C9)", "=(B4):(C9)"),
        ("=rate:B4", "=rate:B4"),
    ],
)
def test_what_is_typed_is_printed_tidily(typed, printed):
    assert Shape.parse(typed, C5).text(C5) == printed


@pytest.mark.parametrize(
    ("text", "position", "says"),
    [
        ("={1,2;3}", 1, "rows of a table in braces have to be of one length"),
        ("={B4}", 2, "a value such as 3"),
        ("={1,}", 4, "a value such as 3"),
        ("={1,2", 5, "ends too early: a comma, a semicolon or a closing brace"),
        ('={-"a"}', 3, "a value such as 3"),
        ("={1)", 3, "a comma, a semicolon or a closing brace"),
        ("=B4:3", 3, "stands between two references"),
        ("=3:B4+1", 2, "stands between two references"),
        ("=B4:", 4, "ends too early"),
    ],
)
def test_what_cannot_be_read_tells_the_place(text, position, says):
    with pytest.raises(FormulaError, match=says) as caught:
        Shape.parse(text, C5)
    assert caught.value.position == position


def test_references_of_an_end_that_is_worked_out_are_mentioned_and_can_be_pointed_at():
    text = "=SUM(B$4:INDEX(B$4:B$9,2))"
    found = [text[each.start : each.end] for each in mentions(text, C5)]
    assert found == ["B$4", "B$4:B$9"]
    assert may_point("=SUM(B4:", 8)
    argument = current_argument("=IF(B4,{1,2", 11)
    assert (argument.function.name, argument.index) == ("IF", 1)


def test_both_are_said_in_words():
    made = workbook(Loads={**WEEKS, "C5": "=SUM(B4:INDEX(B4:B9,2))+MAX({1,2;3,4})"})
    assert said(made, "C5") == (
        "( the sum of all from Week 1, Guests (the cell 1 up and 1 left)"
        " to entry 2 of Guests (the column to the left, rows that move along) )"
        " + the largest of {1,2;3,4}"
    )


def test_a_running_total_to_a_worked_out_end_is_filled_and_answers_to_changes():
    made = filled(WEEKS, C4_C11="=SUM(B$4:INDEX(B$4:B$11,ROW()-3))", D4_D11="=SUM(B$4:B4)")
    assert values(made, "C4:C11") == values(made, "D4:D11")
    calculation = Calculation(made)
    assert calculation.value("Loads", Cell.parse("C11")) == sum(values(made, "B4:B11"))
    edit = SetCells.of(1, {Cell.parse("B5"): (1000.0, PLAIN)})
    edit.apply(made)
    calculation.edited([edit])
    now = [calculation.value("Loads", cell) for cell in Area.parse("C4:C11").cells()]
    assert now == values(made, "D4:D11")


@pytest.mark.parametrize(
    ("formula", "code"),
    [
        ("=COUNTIF(B4:Season!B5,1)", "#VALUE!"),
        ("=SUM(B4:INDEX(B4:B9,99))", "#REF!"),
        ("=SUM(B4:nobody)", "#NAME?"),
        ("=SUM(C4:INDEX(A1:C9,4,3))", "#LOOP!"),
        ("=INDEX({1,2},1,3)", "#REF!"),
        ("=OFFSET({1,2},0,0)", "#VALUE!"),
        ("=SUMIF({1,2},1,{1,2,3})", 1.0),
    ],
)
def test_what_cannot_be_worked_out_is_an_error_of_its_own_kind(formula, code):
    made = workbook(Loads={**WEEKS, "C4": formula}, Season={"B5": "1"})
    assert values(made, "C4", "Loads") == [code]


def test_a_moved_range_is_followed_by_both_of_its_ends():
    made = workbook(Loads={**WEEKS, "E1": "=SUM(B4:INDEX(B4:B11,3))"})
    before = values(made, "E1")
    edits = cut_to(
        Calculation(made), made.sheets[0], Area.parse("B4:B11"), made.sheets[0], Cell.parse("G14")
    )
    for edit in edits:
        edit.apply(made)
    assert made.content("Loads", Cell.parse("E1")).text(Cell.parse("E1")) == (
        "=SUM(G14:INDEX(G14:G21,3))"
    )
    assert values(made, "E1") == before


def test_a_number_beside_an_end_that_is_worked_out_is_lifted_and_a_table_stays():
    made = filled(WEEKS, C4_C11="=SUM(B$4:INDEX(B$4:B$11,2))*1.8+VLOOKUP(1,{1,1.8},2)")
    chosen = [each for each in numbers_inside(made) if each.number == 1.8]
    edits, rewritings = lifted(made, chosen, made.sheets[0], Cell.parse("F1"), "", "")
    before = values(made, "C4:C11")
    for edit in edits:
        edit.apply(made)
    (only,) = rewritings
    assert only.after.text(only.at) == "=SUM(B$4:INDEX(B$4:B$11,2))*$F$1+VLOOKUP(1,{1,1.8},2)"
    assert values(made, "C4:C11") == before
