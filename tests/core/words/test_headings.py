import pytest
from tables import LOADS, workbook

from dreieck.core.grid import Area
from dreieck.core.words.headings import heading_of

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
        ("B5:B6", "kg a guest-night, Flour to Lentils"),
        ("C4:E4", "Guest-nights, Kestrel to Scree"),
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
