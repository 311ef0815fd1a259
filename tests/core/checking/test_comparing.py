"""What changed between two workbooks, told by block."""

from dreieck.core.calculate import Calculation
from dreieck.core.checking.comparing import changes
from dreieck.core.editing.entering import typed_workbook

TABLE = {"A1": "kg", "B1": "2"} | {f"A{row}": str(row) for row in range(2, 8)}
FILLED = {f"B{row}": f"=A{row}*B$1" for row in range(2, 8)}


def told(old, new, old_names=None, new_names=None):
    workbooks = (typed_workbook(old, old_names), typed_workbook(new, new_names))
    return [each.says for each in changes(*map(Calculation, workbooks))]


def test_a_formula_that_changed_in_a_block_is_one_change():
    slid = {f"B{row}": f"=A{row}*B{row - 1}" for row in range(2, 8)}
    found = told({"Loads": TABLE | FILLED}, {"Loads": TABLE | slid})
    assert found == ["Loads!B2:B7: =A2*B$1 became =A2*B1, in 6 cells"]


def test_an_entry_and_what_follows_from_it():
    found = told({"Loads": TABLE | FILLED}, {"Loads": TABLE | FILLED | {"B1": "3"}})
    assert found == ["Loads!B1: 2 became 3",
                     "Loads!B2:B7: 6 values changed; the first was 4, is 6"]  # fmt: skip


def test_sheets_and_names():
    found = told(
        {"Loads": TABLE, "Season": {"A1": "1"}}, {"Loads": TABLE, "Prices": {}},
        {"rate": "Loads!$B$1", "gone": "1"}, {"rate": "Loads!$A$1", "come": "2"},
    )  # fmt: skip
    assert found == [
        "sheet Season is gone: 1 cell", "sheet Prices is new: 0 cells",
        "rate: Loads!$B$1 became Loads!$A$1", "name gone is gone: 1", "name come is new: 2",
    ]  # fmt: skip


def test_what_is_the_same_tells_nothing():
    table = TABLE | FILLED | {"C1": "=1/0", "C2": "text", "C3": "=1+", "C4": "TRUE"}
    assert told({"Loads": table}, {"Loads": table}) == []


def test_a_number_over_a_formula_is_told_as_a_formula_that_is_gone():
    found = told({"Loads": TABLE | FILLED}, {"Loads": TABLE | FILLED | {"B4": "8", "B5": "="}})
    assert found == ["Loads!B4:B5: =A4*B$1 became entries, the first of them 8, in 2 cells"]
