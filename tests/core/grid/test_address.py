import pytest
from formulas import cells, columns
from hypothesis import given

from dreieck.core.exceptions import AddressError
from dreieck.core.grid import MAX_COLUMN, Area, Cell, column_letters, column_number


@given(columns)
def test_column_letters_and_numbers_are_inverse(column):
    assert column_number(column_letters(column)) == column


def test_column_letters_at_the_turns():
    assert [column_letters(n) for n in (1, 26, 27, 702, 703, MAX_COLUMN)] == [
        "A", "Z", "AA", "ZZ", "AAA", "ZZZ",
    ]  # fmt: skip


@given(cells, cells)
def test_an_area_reads_back_what_it_says(one, other):
    area = Area.spanned(one, other)
    assert Area.parse(area.text) == area
    assert area.holds(one) and area.holds(other)


@pytest.mark.parametrize(
    ("text", "area"),
    [
        ("$c$5", Area(3, 5, 3, 5)),
        ("F10:C5", Area(3, 5, 6, 10)),
        ("B:C", Area(2, 1, 3, 1_000_000)),
        ("6:4", Area(1, 4, MAX_COLUMN, 6)),
    ],
)
def test_areas_as_people_type_them(text, area):
    assert Area.parse(text) == area


@pytest.mark.parametrize("text", ["", "5C", "C0", "AAAA1", "C5:", "C5:D", "C5:D6:E7", "x" * 500])
def test_what_is_no_area_is_refused_with_an_example(text):
    with pytest.raises(AddressError, match="such as C5"):
        Area.parse(text)


@pytest.mark.parametrize("text", ["A1000001", "C5:D99999999999", "5:1000001"])
def test_beyond_the_last_row_is_told(text):
    with pytest.raises(AddressError, match="beyond the last row, 1,000,000"):
        Area.parse(text)


def test_what_two_areas_share():
    area = Area.parse("B2:D5")
    assert area.common(Area.parse("D5:F9")) == Area.parse("D5")
    assert area.common(Area.parse("E5:F9")) is None
    assert area.size == 12
    assert list(Area.parse("A1:B2").cells()) == [Cell(1, 1), Cell(2, 1), Cell(1, 2), Cell(2, 2)]
