"""Lifting numbers out of formulas, and marking inputs."""

import pytest
from tables import PRICES, filled, values

from dreieck.core.editing.dressing import with_role
from dreieck.core.editing.lifting import free_place, input_cells, lifted, numbers_inside
from dreieck.core.exceptions import DreieckError, NameRefused
from dreieck.core.grid import Area, Cell
from dreieck.core.values.look import Look


def forty():
    """Six formulas with a rate typed inside, and some with plain numbers."""
    return filled(
        PRICES, C4_C9="=B4*1.8+1.8%", D4_D9="=ROUND(B4*(1+1.8),2)^2", E4_E4="=VLOOKUP(2,A4:B9,2)"
    )


def found(made):
    return [(each.number, each.count, each.belongs) for each in numbers_inside(made)]


def test_numbers_are_listed_by_number_and_shape_the_plain_ones_told_apart():
    assert found(forty()) == [(1.8, 6, False), (1.8, 6, False), (1.0, 6, True)]


@pytest.mark.parametrize(
    ("name", "after"), [("", "=B4*$B$11+$B$11%"), ("carry_price", "=B4*carry_price+carry_price%")]
)
def test_a_lifted_number_is_read_from_its_cell_with_the_same_values(name, after):
    made = forty()
    sheet, before = made.sheets[0], values(made, "C4:D9")
    chosen = [each for each in numbers_inside(made) if each.number == 1.8]
    place = free_place(sheet)
    assert place.text == "B11"
    edits, rewritings = lifted(made, chosen, sheet, place, "Carrying price, typed", name)
    inverse = [edit.apply(made) for edit in edits][::-1]
    assert (rewritings[0].count, rewritings[0].after.text(rewritings[0].at)) == (6, after)
    assert values(made, "C4:D9") == before
    assert sheet.content(Cell.parse("A11")) == "Carrying price, typed"
    assert sheet.look(place).role == "input"
    sheet.put(place, 3.6, sheet.look(place))
    assert values(made, "C4") == [30 * 3.6 + 0.036]
    for edit in inverse:
        edit.apply(made)
    assert values(made, "C4:D9") == before and sheet.content(place) is None


def test_a_number_is_lifted_to_another_sheet_by_address():
    made = forty()
    made.sheets.append(filled({"A1": "x"}).sheets[0])
    made.sheets[1].name, made.sheets[1].id = "Prices", 2
    chosen = [each for each in numbers_inside(made) if each.number == 1.8][:1]
    _, rewritings = lifted(made, chosen, made.sheets[1], Cell(2, 2), "", "")
    assert "Prices!$B$2" in rewritings[0].after.text(rewritings[0].at)


def test_a_lift_that_cannot_be_says_why():
    made = forty()
    sheet, every = made.sheets[0], numbers_inside(made)
    with pytest.raises(DreieckError, match="one number"):
        lifted(made, every, sheet, Cell(2, 11), "", "")
    with pytest.raises(DreieckError, match="holds something else"):
        lifted(made, every[:1], sheet, Cell(2, 4), "", "")
    with pytest.raises(DreieckError, match="no free cell to the left"):
        lifted(made, every[:1], sheet, Cell(1, 20), "rate", "")
    with pytest.raises(NameRefused):
        lifted(made, every[:1], sheet, Cell(2, 11), "", "B5")


def test_cells_are_marked_as_inputs_and_back():
    made = filled(PRICES)
    sheet = made.sheets[0]
    sheet.dress(2, 4, 4, Look("number", 2))
    with_role(sheet, [Area.parse("B4:B6")], "input")[0].apply(made)
    assert [cell.text for cell in input_cells(sheet)] == ["B4", "B5", "B6"]
    assert sheet.look(Cell.parse("B4")) == Look("number", 2, "input")
    with_role(sheet, [Area.parse("B4:B6")], "input")[0].apply(made)
    assert input_cells(sheet) == [] and sheet.look(Cell.parse("B4")) == Look("number", 2)


def test_the_frequent_numbers_come_first_then_the_smaller_ones_then_the_larger_blocks():
    made = filled(PRICES, C4_C5="=B4*7.7", D4_D6="=B4+7.7", E4_E8="=B4*3.3", F4_F8="=B4/2.2")
    assert [(number, count) for number, count, _ in found(made)] == [
        (2.2, 5), (3.3, 5), (7.7, 3), (7.7, 2),
    ]  # fmt: skip
