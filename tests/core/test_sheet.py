import pytest
from tables import LOADS, workbook

from dreieck.core.address import Area, Cell
from dreieck.core.edits import SetCells
from dreieck.core.exceptions import SheetError
from dreieck.core.look import PLAIN, Look
from dreieck.core.workbook import checked_sheet_name


@pytest.mark.parametrize(
    ("start", "columns", "rows", "end"),
    [
        ("A3", 0, 1, "A6"),
        ("A6", 0, -1, "A3"),
        ("A1", 0, 1, "A3"),
        ("C4", -1, 0, "A4"),
        ("A4", 1, 0, "C4"),
        ("D4", 1, 0, "ZZZ4"),
        ("A6", 0, 1, "A1000000"),
        ("G9", 0, -1, "G1"),
        ("G9", -1, 0, "A9"),
    ],
)
def test_jumps_end_at_the_edge_of_the_data(start, columns, rows, end):
    sheet = workbook(Loads=LOADS).sheets[0]
    assert sheet.edge(Cell.parse(start), columns, rows).text == end


def test_filled_cells_are_found_in_any_area():
    sheet = workbook(Loads=LOADS).sheets[0]
    for area in ("A1:B4", "B:B", "3:3", "C4", "A1:ZZZ1000000"):
        inside = {Cell.parse(a) for a in LOADS if Area.parse(area).holds(Cell.parse(a))}
        assert {cell for cell, _ in sheet.filled(Area.parse(area))} == inside
    assert len(sheet) == len(LOADS)
    assert sheet.used() == Area.parse("A1:D6")


def test_an_edit_gives_the_edit_that_takes_it_back():
    made = workbook(Loads=LOADS)
    sheet = made.sheets[0]
    look = Look("number", 2, "input")
    edit = SetCells.of(1, {Cell.parse("B5"): (None, PLAIN), Cell.parse("G9"): (7.0, look)})
    inverse = edit.apply(made)
    assert (sheet.content(Cell.parse("B5")), sheet.content(Cell.parse("G9"))) == (None, 7.0)
    assert sheet.look(Cell.parse("G9")) == look
    assert inverse.apply(made) == edit
    assert sheet.content(Cell.parse("B5")) == 0.12
    assert sheet.used() == Area.parse("A1:D6")


def test_sheets_are_found_without_case_and_spelled_as_they_are():
    made = workbook(Loads={}, Week_1={"A1": "=loads!b4+'WEEK 1'!b5+nowhere!b6"})
    assert made.sheet("LOADS") is made.sheets[0]
    shape = made.content("Week 1", Cell(1, 1))
    assert shape.text(Cell(1, 1)) == "=Loads!B4+'Week 1'!B5+nowhere!B6"
    for call in (lambda: made.sheet("Tarn"), lambda: made.sheet_by_id(9)):
        with pytest.raises(SheetError):
            call()


@pytest.mark.parametrize("name", ["", "  ", "a!b", "x" * 65, "LOADS", "a\nb"])
def test_names_that_no_sheet_can_have(name):
    with pytest.raises(SheetError):
        checked_sheet_name(name, iter(["Loads"]))
