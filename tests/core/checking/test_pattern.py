"""What breaks the pattern of the formulas around it: how long they and the gap have to be."""

import pytest
from tables import filled

from dreieck.core.checking.findings import breaks

ROWS = {f"{letter}{row}": str(row) for letter in "ABC" for row in range(1, 13)}
ACROSS = {f"{letter}{row}": str(row) for letter in "BCDEFGHI" for row in range(1, 4)}


def broken(entries, **fills):
    return [each.area.text for each in breaks(filled(entries, **fills).sheets[0])]


@pytest.mark.parametrize(
    ("fills", "found"),
    [
        ({"D1_D2": "=B1*2", "D3_D3": "7", "D4_D4": "=B4*2"}, ["D3"]),
        ({"D1_D1": "=B1*2", "D2_D2": "7", "D3_D4": "=B3*2"}, ["D2"]),
        ({"D1_D1": "=B1*2", "D2_D2": "7", "D3_D3": "=B3*2"}, ["D2"]),
        ({"D1_D1": "=$B$1*2", "D2_D2": "7", "D3_D3": "=$B$1*2"}, []),
        ({"D1_D2": "=B1*2", "D3_D5": "7", "D6_D7": "=B6*2"}, ["D3:D5"]),
        ({"D1_D2": "=B1*2", "D3_D6": "7", "D7_D8": "=B7*2"}, []),
        ({"D1_D2": "=B1*2", "D3_D3": "=C3*2", "D4_D5": "=B4*2"}, ["D3"]),
        ({"D1_D2": "=B1*2", "D3_D3": "=SUM(D1:D2)", "D4_D5": "=B4*2"}, []),
        ({"D1_D2": "=B1*2", "D3_D3": "'later", "D4_D5": "=B4*2"}, ["D3"]),
        ({"D1_D2": "=B1*2", "D4_D5": "=B4*2"}, ["D3"]),
        ({"D1_D2": "=B1*2", "D4_D5": "=B4*2", "D7_D8": "=B7*2"}, ["D3", "D6"]),
        ({"D1_D2": "=B1*2", "D4_D5": "=B4*2", "D7_D8": "=B7*2", "D10_D11": "=B10*2"}, []),
        ({"D1_E2": "=B1*2", "D3_E3": "7", "D4_E5": "=B4*2"}, ["D3", "E3"]),
        ({"D1_D5": "=B1*2", "D2_D2": "=B2*2.0"}, []),
    ],
)
def test_a_gap_between_formulas_above_and_below(fills, found):
    assert broken(ROWS, **fills) == found


@pytest.mark.parametrize(
    ("fills", "found"),
    [
        ({"B5_C5": "=B1*2", "D5_D5": "7", "E5_E5": "=E1*2"}, ["D5"]),
        ({"B5_B5": "=B1*2", "C5_C5": "7", "D5_E5": "=D1*2"}, ["C5"]),
        ({"B5_B5": "=B1*2", "C5_C5": "7", "D5_D5": "=D1*2"}, ["C5"]),
        ({"B5_C5": "=B1*2", "D5_D5": "=SUM(B5:C5)", "E5_E5": "=E1*2"}, []),
        ({"B5_C5": "=B1*2", "E5_F5": "=E1*2"}, ["D5"]),
        ({"B5_C5": "=SUM(B1:B4)", "E5_F5": "=SUM(E1:E4)"}, []),
        ({"B5_C5": "=SUM(B1:B4)", "E5_F5": "=SUM(E1:E4)", "H1_H4": "=SUM(B1:F1)"}, ["D5"]),
        ({"B5_B8": "=B1*2", "C5_C5": "7", "D5_D8": "=D1*2"}, ["C5"]),
        ({"B5_B8": "=B1*2", "C5_C8": "7", "D5_D8": "=D1*2"}, []),
    ],
)
def test_a_cell_between_formulas_to_the_left_and_the_right(fills, found):
    assert broken(ACROSS, **fills) == found


def test_an_empty_gap_counts_only_where_its_row_has_the_numbers():
    fills = {"D1_D2": "=B1*2", "D4_D5": "=B4*2"}
    assert broken(ROWS, **fills) == ["D3"]
    assert broken({key: text for key, text in ROWS.items() if key != "B3"}, **fills) == []
    assert broken(ROWS, D1_D2="=B$1*2", D4_D5="=B$1*2") == []
