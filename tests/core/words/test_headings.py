import pytest
from tables import LOADS, workbook

from dreieck.core.grid import Area, Cell
from dreieck.core.words.headings import heading_of, list_around

MORE = {
    "E3": "Scree", "E4": "315", "C5": "=$B5*C$4", "D5": "=$B5*D$4", "C6": "=$B6*C$4",
    "G1": "9", "I2": "7", "B9": "1",
}  # fmt: skip


@pytest.mark.parametrize(
    ("area", "name"),
    [
        ("C4", "Guest-nights, Kestrel"),
        ("B6", "Lentils, kg a guest-night"),
        ("D6", "Lentils, Larch"),
        ("A5", "“Flour”"),
        ("C3", "“Kestrel”"),
        ("B5:B6", "kg a guest-night"),
        ("C4:E4", "Guest-nights"),
        ("C4:D4", "Guest-nights, Kestrel to Larch"),
        ("C5:D6", "Flour to Lentils, Kestrel to Larch"),
        ("C5:C5", "Flour, Kestrel"),
        ("B:B", "kg a guest-night"),
        ("4:4", "Guest-nights"),
        ("B:C", None),
        ("G1", "Load for the first week, kg"),
        ("I2", None),
        ("B9", "kg a guest-night"),
        ("H:H", None),
    ],
)
def test_cells_are_called_by_the_headings_above_and_left(area, name):
    sheet = workbook(Loads={**LOADS, **MORE}).sheets[0]
    assert heading_of(sheet, Area.parse(area)) == name


def test_a_heading_above_a_long_list_is_found_at_its_top():
    rows = {f"B{row}": "1" for row in range(2, 2600)}
    sheet = workbook(Loads={"B1": "Nights", **rows}).sheets[0]
    assert heading_of(sheet, Area.parse("B2599")) == "Nights"


def test_a_title_names_the_sheet_and_no_column():
    sheet = workbook(Loads={
        "A1": "Loads of the season", "A4": "7", "B1": "Week", "B2": "1",
        "D3": "Nights of all huts", "D5": "9", "E3": "Beds", "E5": "4",
    }).sheets[0]  # fmt: skip
    names = {cell: heading_of(sheet, Area.parse(cell)) for cell in ("A4", "B2", "E5")}
    assert names == {"A4": "Loads of the season", "B2": "Week", "E5": "Beds"}
    alone = workbook(Loads={"A1": "Loads of the season", "A4": "7"}).sheets[0]
    assert heading_of(alone, Area.parse("A4")) is None


def test_rows_are_called_by_what_tells_them_apart_and_corners_call_nothing():
    sheet = workbook(Loads={
        "A1": "Item", "B1": "Hut", "C1": "Kind", "D1": "kg",
        "A2": "Flour", "B2": "Kestrel", "C2": "dry", "D2": "3",
        "A3": "Lentils", "B3": "Larch", "C3": "dry", "D3": "4",
        "A4": "Cheese", "B4": "Larch", "C4": "fresh", "D4": "5",
        "F1": "Hut / week", "G1": "1", "H1": "2",
        "F2": "Kestrel", "G2": "7", "H2": "8", "F3": "Larch", "G3": "9", "H3": "9",
    }).sheets[0]  # fmt: skip
    areas = ("D3", "B3", "F2:F3", "G1", "H3")
    named = {area: heading_of(sheet, Area.parse(area)) for area in areas}
    assert named == {
        "D3": "Lentils, kg", "B3": "Lentils, Hut", "F2:F3": None, "G1": None, "H3": "Larch",
    }  # fmt: skip


def test_a_list_is_what_goes_on_around_a_cell_without_its_heading():
    sheet = workbook(Loads={**LOADS, **MORE}).sheets[0]
    around = {cell: list_around(sheet, Cell.parse(cell)).text for cell in ("B6", "A5", "Z9", "D5")}
    assert around == {"B6": "B5:B6", "A5": "A4:A6", "Z9": "Z9", "D5": "D4:D5"}
