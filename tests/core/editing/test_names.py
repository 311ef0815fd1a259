"""Names: their rules and kinds, and that formulas follow them with the same values."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import PRICES, WEEKS, filled, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.naming import (
    area_said,
    deleted,
    from_headings,
    put_in,
    renamed,
    taken_out,
    told_about,
    uses,
)
from dreieck.core.editing.naming import given as give
from dreieck.core.editing.rewriting import edits_of
from dreieck.core.editing.sheets import deleted as sheet_deleted
from dreieck.core.editing.sheets import renamed as sheet_renamed
from dreieck.core.exceptions import FormulaError, NameRefused
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.names import checked_name
from dreieck.core.values.look import Look
from dreieck.core.words.reading import by_position


def make(made, edits):
    """Make edits; return what takes them back."""
    return [edit.apply(made) for edit in edits][::-1]


def type_in(made, sheet, cell, entry):
    at = Cell.parse(cell)
    made.sheets[sheet].put(at, made.read_entry(entry, at).content, Look())


def text(made, cell, sheet=0):
    at = Cell.parse(cell)
    return made.sheets[sheet].content(at).text(at)


def season():
    """Guests on one sheet, and formulas over them on another."""
    return workbook(Season=WEEKS, Loads={"A1": "=SUM(Season!$B$4:$B$11)/2", "A2": "=rate*2"})


@pytest.mark.parametrize(
    "name", ["rate", "carry_rate", "_1", "Nächte", "a.b", "TRUEST", "R", "x" * 64]
)
def test_names_that_can_be(name):
    assert checked_name(f" {name} ") == name


@pytest.mark.parametrize(
    ("name", "proposal"),
    [("B5", "B5_"), ("true", "true_"), ("False", "False_"), ("2nd", "_2nd"), ("a b", "a_b"),
     ("", "rate"), ("x" * 65, "x" * 62), ("LOG10", "LOG10_"), ("kg/night", "kg_night")],
)  # fmt: skip
def test_a_refused_name_gets_the_reason_and_one_that_would_do(name, proposal):
    with pytest.raises(NameRefused, match="would do") as refused:
        checked_name(name)
    assert refused.value.proposal == proposal == checked_name(refused.value.proposal)


@pytest.mark.parametrize(
    ("says", "kind", "value"),
    [
        ("Season!$B$4", "cell", 116.0),
        ("Season!$B$4:$B$6", "range", 116.0),
        ("Season!$B:$B", "columns", 116.0),
        ("Season!$B$4:$B$1000000", "growing range", 116.0),
        ("0.25", "constant", 0.25),
        ("=B4/B3-1", "formula by position", None),
    ],
)
def test_a_name_stands_for_many_kinds_of_things(says, kind, value):
    made = season()
    make(made, give(made, "it", says, Cell(1, 5)))
    assert made.names["it"].kind == kind
    if value is not None:
        make(made, give(made, "most", "=MIN(it)" if kind != "constant" else "=it"))
        made.sheets[1].put(
            Cell(3, 4),
            made.read_entry("=most", Cell(3, 4)).content,
            made.sheets[1].look(Cell(3, 4)),
        )
        assert values(made, "C4", "Loads") == [value]


def test_a_growing_name_takes_in_a_row_that_is_added_below():
    made = season()
    says = area_said(made.sheets[0], Area.parse("B4:B11"), "down")
    assert says == "Season!$B$4:$B$1000000"
    make(made, give(made, "guests", says))
    made.sheets[1].put(
        Cell(1, 3),
        made.read_entry("=SUM(guests)", Cell(1, 3)).content,
        made.sheets[1].look(Cell(1, 3)),
    )
    (before,) = values(made, "A3", "Loads")
    type_in(made, 0, "B12", "1000")
    assert values(made, "A3", "Loads") == [before + 1000]


def test_a_name_grows_to_the_right_too():
    made = workbook(Season={"B2": "1", "C2": "2"})
    make(made, give(made, "weeks", area_said(made.sheets[0], Area.parse("B2:C2"), "right")))
    type_in(made, 0, "D2", "4")
    type_in(made, 0, "A5", "=SUM(weeks)")
    assert values(made, "A5") == [7.0]


def test_a_formula_by_position_is_said_in_words():
    made = workbook(Season=WEEKS)
    make(made, give(made, "change", "=B5/B4-1", Cell.parse("B6")))
    change = made.names["change"]
    words = by_position(made, change.shape, change.base)
    assert words == "the cell above ÷ the cell 2 up − 1"


@pytest.mark.parametrize(
    ("formula", "words"),
    [
        (
            "=VLOOKUP(A5,Prices!A1:C9,2,FALSE)",
            "the Price of the cell 1 up and 1 left, from the list all from the column to the left"
            " to the column to the right, from the row 5 up to the row 3 down on Prices",
        ),
        (
            "=VLOOKUP($A$5,Prices!$A$1:$C$9,2,FALSE)",
            "the Price of always A5, from the list always A1:C9 on Prices",
        ),
        ("=SUM(B2:B5)", "the sum of this column, from the row 4 up to the row above"),
        ("=SUM(B$2:B5)", "the sum of this column, always from row 2 to the row above"),
    ],
)
def test_what_is_said_by_position_names_places_alone(formula, words):
    made = workbook(Season=WEEKS, Prices={"A1": "Item", "B1": "Price"})
    at = Cell.parse("B6")
    assert by_position(made, made.read_entry(formula, at).content, at) == words


def test_a_formula_by_position_works_on_two_sheets():
    made = workbook(Season={"A1": "2", "A2": "3"}, Loads={"C1": "10", "C2": "15"})
    make(made, give(made, "change", "=A2/A1-1", Cell.parse("A3")))
    for sheet, cell in ((0, "A3"), (1, "C3")):
        at = Cell.parse(cell)
        made.sheets[sheet].put(
            at, made.read_entry("=change", at).content, made.sheets[sheet].look(at)
        )
        assert values(made, cell, made.sheets[sheet].name) == [0.5]


def test_a_name_is_taken_once_and_never_stands_for_itself():
    made = season()
    make(made, give(made, "rate", "2"))
    with pytest.raises(NameRefused, match=r"already\. “Rate_2” would do"):
        give(made, "Rate", "3")
    with pytest.raises(NameRefused, match="cannot stand for itself"):
        give(made, "loop", "=loop+1")
    with pytest.raises(FormulaError):
        give(made, "half", "=1+")


def test_counting_by_address_and_by_name_is_the_same_and_is_rewritten_both_ways():
    made = workbook(Season=WEEKS)
    formulas = ("=COUNT(Season!$B$4:$B$11)", "=SUM($B$4:$B$11)", "=AVERAGE($B$4:$B$11)*1")
    for row, formula in enumerate(formulas, 1):
        type_in(made, 0, f"E{row}", formula)
    before = values(made, "E1:E3")
    make(made, give(made, "guests", "Season!$B$4:$B$11"))
    rewritings = put_in(made, made.sheets, list(made.names.values()))
    back = make(made, edits_of(rewritings))
    assert [text(made, f"E{row}") for row in (1, 2, 3)] == [
        "=COUNT(guests)", "=SUM(guests)", "=AVERAGE(guests)*1",
    ]  # fmt: skip
    assert values(made, "E1:E3") == before
    make(made, edits_of(taken_out(made.sheets, list(made.names.values()))))
    assert [text(made, f"E{row}") for row in (1, 2)] == ["=COUNT($B$4:$B$11)", "=SUM($B$4:$B$11)"]
    make(made, back)
    assert text(made, "E1") == formulas[0] and values(made, "E1:E3") == before


def test_an_address_is_replaced_where_its_whole_block_reads_the_same_by_it():
    made = filled(PRICES, C4_C9="=B4*B$1", D4_E9="=B4*$B$1", G4_H9="=B4*B$1")
    make(made, give(made, "price", "Loads!$B$1"))
    rewritings = put_in(made, made.sheets, list(made.names.values()))
    assert [(r.before.text(r.at), r.after.text(r.at), r.count) for r in rewritings] == [
        ("=B4*B$1", "=B4*price", 6), ("=B4*$B$1", "=B4*price", 12)
    ]  # fmt: skip
    names = list(made.names.values())
    assert [r.count for r in put_in(made, made.sheets, names, Cell.parse("C7"))] == [6]


def test_formulas_follow_a_rename_and_go_back_to_addresses_or_to_an_error():
    made = filled(PRICES, C4_C9="=B4*price")
    make(made, give(made, "price", "Loads!$B$1"))
    before = values(made, "C4:C9")
    make(made, renamed(made, "price", "carry_price"))
    assert text(made, "C9") == "=B9*carry_price" and values(made, "C4:C9") == before
    back = make(made, deleted(made, "carry_price", keep_addresses=True))
    assert text(made, "C9") == "=B9*$B$1" and values(made, "C4:C9") == before
    make(made, back)
    make(made, deleted(made, "carry_price", keep_addresses=False))
    assert values(made, "C4") == ["#NAME?"]


def test_a_spelled_out_formula_keeps_its_brackets():
    made = workbook(Loads={"A1": "2", "B1": "=more*3"})
    make(made, give(made, "more", "=Loads!$A$1+1"))
    make(made, deleted(made, "more", keep_addresses=True))
    assert text(made, "B1") == "=(Loads!$A$1+1)*3" and values(made, "B1") == [9.0]


def test_names_follow_sheets_and_moved_cells():
    made = season()
    make(made, give(made, "guests", "Season!$B$4:$B$11"))
    make(made, sheet_renamed(made, made.sheets[0], "Summer"))
    assert made.names["guests"].shape_text == "Summer!$B$4:$B$11"
    calculation = Calculation(made)
    make(
        made, cut_to(calculation, made.sheets[0], Area.parse("B3:B11"), made.sheets[1], Cell(4, 1))
    )
    assert made.names["guests"].shape_text == "Loads!$D$2:$D$9"
    back = make(made, give(made, "guests", "Summer!$A$4", anew=True))
    make(made, back)
    make(made, sheet_deleted(made, made.sheets[1]))
    assert made.names["guests"].shape_text == "#REF!"


def test_headings_propose_names():
    made = workbook(Loads={**PRICES, "D3": "B5"})
    make(made, give(made, "cost", "1"))
    found = from_headings(made, made.sheets[0], Area.parse("A3:D9"))
    assert [(p.name, p.area.text) for p in found] == [
        ("item", "A4:A9"), ("weight_kg", "B4:B9"), ("b5_", "D4:D9"),
    ]  # fmt: skip


def test_what_is_odd_about_names_is_told():
    made = season()
    make(made, give(made, "guests", "Season!$B$4:$B$8"))
    make(made, give(made, "visitors", "Season!$B$4:$B$8"))
    make(made, give(made, "early", "Season!$B$4:$B$5"))
    make(made, give(made, "rate", "2"))
    told = told_about(made)
    assert ("guests", "It stops short of its data, which goes on to B11.") in told
    assert ("visitors", "guests stands for the same place.") in told
    assert ("early", "No formula uses this name.") in told
    assert ("guests", "It overlaps early: B4:B5.") in told
    assert not any(name == "rate" for name, _ in told)
    assert [(s.name, a.text) for s, a in uses(made)["rate"]] == [("Loads", "A2")]


leaves = st.sampled_from(["$B$1", "Loads!$B$1", "$A$1:$A$3", "B1", "A$1", "5"])


@given(st.lists(leaves, min_size=1, max_size=3), st.sampled_from(["+", "*", "-"]))
def test_putting_names_in_and_taking_them_out_keeps_all_values(parts, operator):
    formula = "=" + operator.join(f"SUM({part})" for part in parts)
    made = filled({"A1": "2", "A2": "3", "A3": "4", "B1": "7"}, D1_E3=formula)
    before = values(made, "D1:E3")
    make(made, give(made, "one", "Loads!$B$1"))
    make(made, give(made, "list", "Loads!$A$1:$A$3"))
    for rewrite in (put_in, lambda _, sheets, names: taken_out(sheets, names)):
        make(made, edits_of(rewrite(made, made.sheets, list(made.names.values()))))
        assert values(made, "D1:E3") == before
