import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import LOADS, workbook

from dreieck.core.exceptions import SheetError
from dreieck.core.formula import Shape
from dreieck.core.grid import EVERYWHERE, Area, Cell, Lines
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.sheet import Run, Sheet
from dreieck.core.sheet.workbook import checked_sheet_name
from dreieck.core.values.look import PLAIN, Look


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
        ("A4", 0, 0, "A4"),
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


near_rows = st.integers(1, 30)
far_rows = st.sampled_from([1, 7, 4_000, 90_000, 700_000])
contents = st.sampled_from([None, 1.0, 2.5, True, "kg", Shape.parse("=A1", Cell(1, 2))])


@given(
    st.lists(
        st.tuples(st.just("put"), near_rows | far_rows, st.integers(0, 4), contents)
        | st.tuples(st.just("insert"), near_rows | far_rows, st.integers(1, 5), st.none())
        | st.tuples(st.just("delete"), near_rows | far_rows, st.integers(1, 5), st.none()),
        max_size=12,
    )
)
def test_rows_slide_in_a_dense_and_in_a_sparse_column_as_in_a_dictionary(steps):
    sheet, model = Sheet(1, "Loads"), {}
    for what, row, count, content in steps:
        if what == "put":
            sheet.put_run(Run(1, row, row + count, content, PLAIN))
            model |= dict.fromkeys(range(row, row + count + 1), content)
        elif what == "insert":
            sheet.insert(Lines("row", row, count))
            model = {at + count * (at >= row): held for at, held in model.items()}
        else:
            sheet.delete(Lines("row", row, count))
            model = {
                at - count * (at >= row): held
                for at, held in model.items()
                if not row <= at < row + count
            }
        model = {at: held for at, held in model.items() if held is not None}
        found = {cell.row: held for cell, held in sheet.filled(EVERYWHERE)}
        assert found == model
        assert sheet.end("row") == max(model, default=0)
        ends = (min(model), max(model)) if model else None
        used = sheet.used()
        assert (used and (used.top, used.bottom)) == ends
        cells = sheet.columns[1].cells(1, 40).values() if 1 in sheet.columns else [None] * 40
        assert cells == [model.get(at) for at in range(1, 41)]


def test_runs_tell_every_column_of_an_area_plain_emptiness_too():
    sheet = Sheet(1, "Loads")
    look = Look("percent", 1)
    sheet.put(Cell(3, 2), 0.5, look)
    sheet.dress(4, 5, 6, look)
    empty = [(1, 1, 3, None, PLAIN), (2, 1, 3, None, PLAIN)]
    third = [(3, 1, 1, None, PLAIN), (3, 2, 2, 0.5, look), (3, 3, 3, None, PLAIN)]
    assert list(sheet.runs(Area.parse("A1:C3"))) == empty + third
    assert list(sheet.all_runs()) == [(3, 2, 2, 0.5, look), (4, 5, 6, None, look)]
    assert list(sheet.all_runs(Area.parse("D:D"))) == [(4, 5, 6, None, look)]


def test_a_column_that_is_emptied_is_no_column_any_more():
    sheet = Sheet(1, "Loads")
    sheet.put(Cell(2, 3), 1.0, PLAIN)
    sheet.put(Cell(2, 4), 1.0, PLAIN)
    sheet.put(Cell(2, 3), None, PLAIN)
    assert list(sheet.columns) == [2]
    sheet.put(Cell(2, 4), None, PLAIN)
    assert list(sheet.columns) == [] and sheet.used() is None


@pytest.mark.parametrize("columns", [True, False])
def test_a_copy_of_a_sheet_changes_on_its_own(columns):
    sheet = workbook(Loads=LOADS).sheets[0]
    other = sheet.copy()
    other.put(Cell.parse("B5"), 9.0, Look("percent"))
    lines = Lines("column", 2, 1) if columns else Lines("row", 2, 1)
    other.delete(lines)
    other.insert(lines)
    assert sheet.content(Cell.parse("B5")) == 0.12
    assert sheet.look(Cell.parse("B5")) == PLAIN
    assert sheet.used() == Area.parse("A1:D6") and len(sheet) == len(LOADS)


def test_jumps_go_to_the_nearest_cell_ahead():
    sheet = workbook(Loads={"A2": "1", "A5": "2", "A9": "3", "F2": "4", "C2": "5"}).sheets[0]
    for start, columns, rows, end in (
        ("A1", 0, 1, "A2"), ("A6", 0, -1, "A5"), ("A10", 0, -1, "A9"), ("B2", 1, 0, "C2"),
        ("E2", -1, 0, "C2"), ("G2", -1, 0, "F2"),
    ):  # fmt: skip
        assert sheet.edge(Cell.parse(start), columns, rows).text == end


def test_the_longest_name_is_still_one():
    assert checked_sheet_name(" " + "x" * 64 + " ", iter(["Loads"])) == "x" * 64


def test_what_does_not_look_plain_is_found_up_to_the_edges_of_an_area():
    sheet = workbook(Loads=LOADS).sheets[0]
    look = Look("percent", 1)
    for column in (2, 3, 4):
        sheet.dress(column, 4, 6, look)
    found = list(sheet.looked(Area.parse("C5:D6")))
    assert found == [(Cell(c, r), look) for c in (3, 4) for r in (5, 6)]
    assert list(sheet.looked(Area.parse("A1:B4"))) == [(Cell(2, 4), look)]
