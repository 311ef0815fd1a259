"""What formulas fill is known to the reviewer."""

from tables import workbook

from dreieck.core.calculate import Calculation
from dreieck.core.checking.findings import check_workbook
from dreieck.core.grid import Cell

TABLE = {
    "A1": "Hut", "B1": "kg", "A2": "Tarn", "B2": "50.4", "A3": "Larch", "B3": "33.6",
    "A4": "Scree", "B4": "126",
}  # fmt: skip


def findings(**entries):
    made = workbook(Loads={**TABLE, **entries})
    return made, [each for found in check_workbook(Calculation(made)) for each in found.findings]


def test_what_reads_a_fan_reads_nothing_empty():
    fan = {"D1": "Hut", "E1": "kg", "D2": "=FILTER(A2:B4,B2:B4>40)"}
    assert findings(**fan, G2="=SUM(E2:E4)", G3="=E3*2")[1] == []


def test_what_stands_in_the_way_can_be_emptied():
    made, (found,) = findings(D2="=SORT(B2:B4)", D4="7")
    assert found.rule == "error" and "D4 is filled" in found.says
    (mend,) = found.mends
    assert mend.says == "empty D4, so that there is room"
    for edit in mend.edits:
        edit.apply(made)
    assert Calculation(made).value("Loads", Cell.parse("D4")) == 126.0
