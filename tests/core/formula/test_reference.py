"""What becomes of a reference when its formula is filled or copied."""

import pytest

from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell


def filled(formula, start, landing):
    """The formula that a fill leaves in a landing."""
    at = Cell.parse(landing)
    return Shape.parse(formula, Cell.parse(start)).landed(at).text(at)


@pytest.mark.parametrize(
    ("formula", "start", "landing", "expected"),
    [
        ("=B5", "C5", "E8", "=D8"),
        ("=$B5", "C5", "E8", "=$B8"),
        ("=C$4", "C5", "E8", "=E$4"),
        ("=$G$1", "C5", "E8", "=$G$1"),
        ("=b5*c4", "C5", "C6", "=B6*C5"),
        ("=SUM(B$4:B4)", "C4", "C9", "=SUM(B$4:B9)"),
        ("=SUM($B$4:B4)", "C4", "D9", "=SUM($B$4:C9)"),
        ("=SUM(B:B)", "C4", "D9", "=SUM(C:C)"),
        ("=SUM($B:B)", "C4", "D9", "=SUM($B:C)"),
        ("=SUM(4:$6)", "C4", "D9", "=SUM($6:9)"),
        ("=Loads!B4+'Week 1'!$B4", "A1", "B2", "=Loads!C5+'Week 1'!$B5"),
        ('="B5"&LOG10(B5)&rate_2', "C5", "C6", '="B5"&LOG10(B6)&rate_2'),
    ],
)
def test_each_free_part_moves_by_the_distance(formula, start, landing, expected):
    assert filled(formula, start, landing) == expected


@pytest.mark.parametrize(
    ("formula", "start", "landing", "expected"),
    [
        ("=SUM(B$4:B4)", "C4", "C2", "=SUM(B2:B$4)"),
        ("=SUM($D4:B$7)", "C5", "F9", "=SUM($D$7:E8)"),
        ("=SUM(B4:$C4)", "A1", "D1", "=SUM($C4:E4)"),
    ],
)
def test_crossed_corners_are_turned_and_locks_go_with_their_coordinates(
    formula, start, landing, expected
):
    assert filled(formula, start, landing) == expected


def test_a_part_off_the_sheet_is_lost_for_good():
    shape = Shape.parse("=B5*C$4", Cell.parse("C5"))
    at = Cell.parse("A7")
    landed = shape.landed(at)
    assert landed.text(at) == "=#REF!*A$4"
    back = Cell.parse("C5")
    assert landed.landed(back).text(back) == "=#REF!*C$4"
    assert shape.landed(Cell.parse("B1000000")) is shape


def test_the_last_cells_of_the_sheet_are_not_off_it():
    assert filled("=A1", "B2", "ZZZ1000000") == "=ZZY999999"
    assert filled("=C3", "B2", "ZZZ5") == "=#REF!"
    assert filled("=SUM(A1:B3)", "B2", "C1") == "=SUM(#REF!)"


def test_an_area_is_read_relative_to_the_formula():
    reference = Shape.parse("=SUM(B$4:B4)", Cell.parse("C4")).references[0]
    assert reference.area(Cell.parse("E9")) == Area.parse("D4:D9")
