"""Copy, cut and paste, and plain values that count on."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, PRICES, WEEKS, apply, filled, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.copying import copy_text, pasted, pasted_text
from dreieck.core.editing.cutting import cut_to
from dreieck.core.editing.fill import alongside, can_count_on, plan_fill
from dreieck.core.exceptions import DreieckError, FillError
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.values.look import Look
from dreieck.core.values.numerals import date_of


def shown_in(made, area, sheet=None):
    """What stands in the cells of an area, as it would be typed, row by row."""
    sheet = made.sheet(sheet) if sheet else made.sheets[0]
    found = []
    for cell in Area.parse(area).cells():
        content = sheet.content(cell)
        found.append(content.text(cell) if hasattr(content, "tree") else content)
    return found


def paste(made, area, at, what="all", source=0, target=0):
    calculation = Calculation(made)
    edit = pasted(
        calculation, made.sheets[source], Area.parse(area), made.sheets[target],
        Area.parse(at), what,
    )  # fmt: skip
    return edit.apply(made)


def test_a_copied_formula_moves_its_references_and_fills_a_larger_area():
    made = filled(PRICES, C4_C4="=B4*B$1")
    paste(made, "C4", "C5:C9")
    assert shown_in(made, "C5:C6") == ["=B5*B$1", "=B6*B$1"]
    paste(made, "C4", "A1")
    assert shown_in(made, "A1") == ["=#REF!*#REF!"]


def test_parts_of_what_was_copied_can_be_pasted():
    made = filled(PRICES, C4_C5="=B4*$B$1")
    sheet = made.sheets[0]
    sheet.dress(3, 4, 4, Look("number", 2))
    paste(made, "C4:C5", "E4", "values")
    assert shown_in(made, "E4:E5") == [54.0, 67.5]
    paste(made, "C4:C5", "F4", "formulas")
    assert shown_in(made, "F4") == ["=E4*$B$1"] and sheet.look(Cell.parse("F4")) == Look()
    paste(made, "C4:C5", "B4", "looks")
    assert shown_in(made, "B4") == [30.0] and sheet.look(Cell.parse("B4")) == Look("number", 2)
    inverse = paste(made, "A4:C5", "A20:C23")
    assert shown_in(made, "C22:C23") == ["=B22*$B$1", "=B23*$B$1"]
    inverse.apply(made)
    assert shown_in(made, "A20:C23") == [None] * 12


def test_a_copy_to_another_sheet_reads_that_sheet():
    made = workbook(Loads={**GRID, "C5": "=$B5*C$4"}, Season={"B5": "2", "C4": "3"})
    paste(made, "C5", "C5", source=0, target=1)
    assert values(made, "C5", "Season") == [6.0]


def test_text_goes_to_and_comes_from_other_programs():
    made = filled({"A1": "Item", "B1": "kg", "A2": "Lamp\toil", "B2": "1.5"}, C2_C2="=B2*2")
    text = copy_text(Calculation(made), made.sheets[0], Area.parse("A1:C2"))
    assert text == 'Item\tkg\t\n"Lamp\toil"\t1.5\t3\n'
    other = workbook(Loads={})
    pasted_text(other, other.sheets[0], Cell.parse("B2"), text + "\r\n=B2\t10%\n").edit.apply(
        other
    )
    assert shown_in(other, "B2:D3") == ["Item", "kg", None, "Lamp\toil", 1.5, 3.0]
    with pytest.raises(DreieckError, match="no text"):
        pasted_text(other, other.sheets[0], Cell(1, 1), "")
    with pytest.raises(FillError):
        pasted_text(other, other.sheets[0], Cell.parse("ZZZ1"), "1\t2")


def test_pasted_dates_of_a_column_are_read_in_one_order():
    made = workbook(Loads={})
    text = "1/2/2026\t1/2/2026\n2/13/2026\t2,5\n2/30/2026\n4.5.2026\n12/1/26"
    typed = pasted_text(made, made.sheets[0], Cell(1, 1), text)
    typed.edit.apply(made)
    shown_there = [date_of(each).isoformat() if type(each) is float else each
                   for each in values(made, "A1:B5") if each is not None]  # fmt: skip
    assert shown_there == [
        "2026-01-02", "2026-02-01", "2026-02-13", "2,5", "2/30/2026", "2026-05-04", "2026-12-01",
    ]  # fmt: skip
    assert [cell.text for cell in typed.doubts] == ["A4", "B1", "B2"]


entries = st.sampled_from(
    [
        "1", "2.5", "kg", "=A1+B2", "=$A$1*C3", "=D4",
        "=OFFSET(B2,0,0)", "=OFFSET($A$1,0,0)&ISBLANK(C3)", "=COUNTIF(D4,1)+SUMPRODUCT(B2*2)",
        "=INDEX(C3,1)", "=IF(A1>1,B2,C3)", "=SUM(A1~$C3)", "=SUM(B2 B$2)", "=ISREF(B3)",
        "=MATCH(1,D$4,0)", "=CHOOSE(2,A1,B2)", "=TYPE(A2)",
    ]
)  # fmt: skip
cells_of_table = list(Area.parse("A1:D4").cells())
cells = st.sampled_from(cells_of_table)


@given(
    st.dictionaries(cells.map(lambda cell: cell.text), entries, max_size=10),
    cells, cells, st.sampled_from(["G7", "F1", "B9"]),
)  # fmt: skip
def test_moved_cells_keep_their_values_and_are_followed(held, one, other, place):
    area, to = Area.spanned(one, other), Cell.parse(place)
    made = workbook(Loads=held)
    before = {cell: Calculation(made).value("Loads", cell) for cell in Area.parse("A1:D4").cells()}
    edits = cut_to(Calculation(made), made.sheets[0], area, made.sheets[0], to)
    inverse = [edit.apply(made) for edit in edits]
    after = Calculation(made)
    for cell, value in before.items():
        steps = (to.column - area.left, to.row - area.top) if area.holds(cell) else (0, 0)
        there = cell.offset(*steps)
        assert after.value("Loads", there) == value, (cell.text, held)
        if area.holds(cell):
            assert made.content("Loads", cell) is None
    for edit in reversed(inverse):
        edit.apply(made)
    again = Calculation(made)
    assert {cell: again.value("Loads", cell) for cell in before} == before


@given(
    st.sampled_from(["A1:B2", "B$1:C3", "$D$2:D4", "A1:D4", "B3:B3", "A:A", "2:3"]),
    cells, cells, st.sampled_from(["G7", "F1", "B9"]),
)  # fmt: skip
def test_a_range_moves_as_a_whole_or_stays(text, one, other, place):
    area, to, at = Area.spanned(one, other), Cell.parse(place), Cell.parse("K20")
    numbers = {cell.text: str(2**index) for index, cell in enumerate(cells_of_table)}
    made = workbook(Loads={**numbers, at.text: f"=SUM({text})"})
    read = made.content("Loads", at).references[0].area(at)
    undo = apply(made, cut_to(Calculation(made), made.sheets[0], area, made.sheets[0], to))
    steps = (to.column - area.left, to.row - area.top) if read.common(area) == read else (0, 0)
    now = read.offset(*steps)
    assert made.content("Loads", at).references[0].area(at) == now
    held = [value for cell, value in made.sheets[0].filled(now) if isinstance(value, float)]
    assert Calculation(made).value("Loads", at) == sum(held)
    apply(made, undo)
    assert made.content("Loads", at).references[0].area(at) == read
    assert {cell.text: str(int(made.content("Loads", cell))) for cell in cells_of_table} == numbers


def test_a_formula_that_tells_a_place_follows_it():
    made = workbook(
        Loads={
            "C6": "5",
            "A1": "=OFFSET(C6,0,0)",
            "A2": "=ROW(C6)*100+COLUMN($C$6)",
            "A3": "=ROWS(C6:C6)+SHEET(C6)",
            "A4": "=OFFSET(A1,5,2)",
        }
    )
    edits = cut_to(Calculation(made), *_one_cell(made, "C6"), made.sheets[0], Cell.parse("E2"))
    apply(made, edits)
    assert shown_in(made, "A1:A4") == [
        "=OFFSET(E2,0,0)", "=ROW(E2)*100+COLUMN($E$2)", "=ROWS(E2:E2)+SHEET(E2)",
        "=OFFSET(A1,5,2)",
    ]  # fmt: skip
    assert values(made, "A1:A4") == [5.0, 205.0, 2.0, 0.0]


def _one_cell(made, address):
    return made.sheets[0], Area.parse(address)


def test_a_move_to_another_sheet_is_followed_by_all_that_read_it():
    made = workbook(
        Loads={"A1": "4", "B1": "=A1*C1", "C1": "5"}, Season={"A1": "=Loads!A1+Loads!B1"}
    )
    for edit in cut_to(
        Calculation(made), made.sheets[0], Area.parse("A1:B1"), made.sheets[1], Cell.parse("D3")
    ):
        edit.apply(made)
    assert shown_in(made, "D3:E3", "Season") == [4.0, "=D3*Loads!C1"]
    assert shown_in(made, "A1", "Season") == ["=Season!D3+Season!E3"]
    assert values(made, "A1", "Season") == [24.0]


def counted(starts, target, values="", looks=None):
    """What a fill of the starts down a column gives."""
    made = workbook(Season={f"A{row}": text for row, text in enumerate(starts, 1)})
    for row in range(1, len(starts) + 1):
        if looks:
            made.sheets[0].dress(1, row, row, looks)
    source = Area(1, 1, 1, len(starts))
    fill = plan_fill(made, 1, source, Area.parse(target), values=values)
    fill.edit().apply(made)
    return shown_in(made, target), fill


@pytest.mark.parametrize(
    ("starts", "target", "expected"),
    [
        (["1", "2"], "A1:A4", [1, 2, 3, 4]),
        (["0.1", "0.2"], "A1:A4", [0.1, 0.2, 0.3, 0.4]),
        (["5"], "A1:A3", [5, 5, 5]),
        (["3", "9", "4"], "A1:A5", [3, 9, 4, 3, 9]),
        (["Week 1"], "A1:A3", ["Week 1", "Week 2", "Week 3"]),
        (["Hut 08"], "A1:A3", ["Hut 08", "Hut 09", "Hut 10"]),
        (["Week 1", "Week 3"], "A1:A4", ["Week 1", "Week 3", "Week 5", "Week 7"]),
        (["Mon"], "A1:A3", ["Mon", "Tue", "Wed"]),
        (["NOVEMBER"], "A1:A3", ["NOVEMBER", "DECEMBER", "JANUARY"]),
        (["Jan", "Apr"], "A1:A4", ["Jan", "Apr", "Jul", "Oct"]),
        (["Flour"], "A1:A3", ["Flour"] * 3),
        (["Flour", "Lentils"], "A1:A4", ["Flour", "Lentils"] * 2),
        (["7"], "A1:A2", [7, 7]),
        (["Day 2", "Day 1"], "A1:A5", ["Day 2", "Day 1", "Day 0", "Day -1", "Day -2"]),
        (["1st"], "A1:A4", ["1st", "2nd", "3rd", "4th"]),
        (
            ["10TH week", "11TH week"],
            "A1:A4",
            ["10TH week", "11TH week", "12TH week", "13TH week"],
        ),
        (["20th"], "A1:A2", ["20th", "21st"]),
        (["1st", "3rd"], "A1:A3", ["1st", "3rd", "5th"]),
        (["1st", "Week 2"], "A1:A3", ["1st", "Week 2", "1st"]),
    ],
)
def test_plain_values_are_copied_or_count_on(starts, target, expected):
    assert counted(starts, target)[0] == expected


def test_one_key_switches_between_copying_and_counting_on():
    assert counted(["5"], "A1:A3", "count")[0] == [5, 6, 7]
    found, fill = counted(["1", "2"], "A1:A4", "copy")
    assert found == [1, 2, 1, 2] and can_count_on(fill)
    assert not can_count_on(counted(["Flour"], "A1:A3")[1])


def test_dates_count_on_by_days_weeks_months_and_years():
    day = Look("date")
    made = workbook(Season={"A1": "2026-01-31", "A2": "2026-02-28"})
    assert made.content("Season", Cell(1, 1)) == 46053.0
    assert counted(["2026-03-01", "2026-03-08"], "A1:A3", looks=day)[0][2] == 46096.0
    months = counted(["2026-01-15", "2026-02-15"], "A1:A4", looks=day)[0]
    assert [b - a for a, b in pairwise(months)] == [31, 28, 31]
    years = counted(["2024-05-01", "2025-05-01"], "A1:A3", looks=day)[0]
    assert years[2] - years[1] == 365


@pytest.mark.parametrize(
    ("starts", "then"),
    [
        (["2026-01-31", "2026-02-28"], ["2026-03-31", "2026-04-30"]),
        (["2026-02-28", "2026-03-31"], ["2026-04-30", "2026-05-31"]),
        (["2026-06-30", "2026-09-30"], ["2026-12-31", "2027-03-31"]),
        (["2026-01-30", "2026-02-28"], ["2026-03-30", "2026-04-30"]),
        (["2026-01-31", "2026-02-28", "2026-03-31"], ["2026-04-30", "2026-05-31"]),
        (["2026-02-28", "2027-02-28"], ["2028-02-28", "2029-02-28"]),
        (["2024-02-29", "2025-02-28"], ["2026-02-28", "2027-02-28"]),
        (["2026-03-31", "2026-02-28"], ["2026-01-31", "2025-12-31"]),
        (["2026-01-31", "2026-03-01"], ["2026-03-30", "2026-04-28"]),
    ],
)
def test_ends_of_months_go_on_with_ends_of_months(starts, then):
    found = counted(starts, f"A1:A{len(starts) + 2}", looks=Look("date"))[0]
    assert [date_of(number).isoformat() for number in found[len(starts) :]] == then


def test_values_count_back_when_a_fill_goes_up():
    made = workbook(Season={"A5": "10", "A6": "12", "B5": "Week 5"})
    fill = plan_fill(made, 1, Area.parse("A5:B6"), Area.parse("A3:B6"))
    assert [fill.content(Cell(1, row)) for row in (3, 4)] == [6.0, 8.0]


@pytest.mark.parametrize(
    ("source", "axis", "expected"),
    [
        ("C4", "row", "C4:C9"),
        ("C4:D4", "row", "C4:D9"),
        ("E20", "row", "E20"),
        ("B10", "column", "B10"),
        ("E4", "row", "E4:E9"),
        ("J4", "row", "J4"),
    ],
)
def test_alongside_goes_as_far_as_the_neighbouring_data(source, axis, expected):
    sheet = workbook(Loads=PRICES).sheets[0]
    assert alongside(sheet, Area.parse(source), axis).text == expected


def test_alongside_goes_right_under_a_row():
    sheet = workbook(Loads=GRID).sheets[0]
    assert alongside(sheet, Area.parse("C5"), "column").text == "C5:E5"
    assert alongside(workbook(Loads=WEEKS).sheets[0], Area.parse("C4"), "row").text == "C4:C11"


def test_a_pattern_of_formulas_and_values_is_repeated():
    made = workbook(Loads={"A1": "=B1", "A2": "kg"})
    edit = plan_fill(made, 1, Area.parse("A1:A2"), Area.parse("A1:A5")).edit()
    assert isinstance(edit, SetCells)
    edit.apply(made)
    assert shown_in(made, "A1:A5") == ["=B1", "kg", "=B3", "kg", "=B5"]


@pytest.mark.parametrize(
    ("copied", "to", "written"),
    [
        ("A1:B2", "D1:E2", "D1:E2"),
        ("A1:B2", "D1", "D1:E2"),
        ("A1:B2", "D1:E5", "D1:E2"),
        ("A1:B2", "D1:G4", "D1:G4"),
        ("A1:B1", "D1:E3", "D1:E3"),
        ("A1:A2", "D1:F2", "D1:F2"),
    ],
)
def test_a_paste_repeats_what_was_copied_only_where_it_fits_whole(copied, to, written):
    made = workbook(Loads={"A1": "1", "B1": "2", "A2": "3", "B2": "4"})
    sheet = made.sheets[0]
    edit = pasted(Calculation(made), sheet, Area.parse(copied), sheet, Area.parse(to), "all")
    edit.apply(made)
    found = {cell for cell, _ in sheet.filled(Area.parse("D1:Z99"))}
    assert found == set(Area.parse(written).cells())
    source = Area.parse(copied)
    for cell in found:
        start = Cell(
            source.left + (cell.column - 4) % source.width, 1 + (cell.row - 1) % source.height
        )
        assert sheet.content(cell) == sheet.content(start)


def test_formulas_pasted_at_the_edge_lose_what_falls_off():
    made = workbook(Loads={"C5": "=A5*B$4", "C6": "=A6*B$4"})
    sheet = made.sheets[0]
    pasted(
        Calculation(made), sheet, Area.parse("C5:C6"), sheet, Area.parse("B5:B6"), "formulas"
    ).apply(made)
    assert [sheet.content(Cell(2, row)).text(Cell(2, row)) for row in (5, 6)] == [
        "=#REF!*A$4", "=#REF!*A$4",
    ]  # fmt: skip


def test_values_pasted_keep_errors_and_take_the_look_of_their_formula():
    made = workbook(Loads={"A1": "=1/0", "A2": "=A2", "A3": "=TODAY()*0", "A4": "=2*3"})
    sheet = made.sheets[0]
    pasted(
        Calculation(made), sheet, Area.parse("A1:A4"), sheet, Area.parse("C1:C4"), "values"
    ).apply(made)
    held = [sheet.content(Cell(3, row)) for row in range(1, 5)]
    assert held[0].text(Cell(3, 1)) == "=#DIV/0!"
    assert held[1:] == ["#LOOP!", 0.0, 6.0]


def test_short_lines_of_text_leave_the_rest_of_their_row_alone():
    made = workbook(Loads={"B2": "kept"})
    sheet = made.sheets[0]
    pasted_text(made, sheet, Cell(1, 1), "1\t2\n3\n4\t5").edit.apply(made)
    held = [sheet.content(Cell(2, row)) for row in (1, 2, 3)]
    assert held == [2.0, "kept", 5.0]


def test_what_a_fill_writes_over_is_told_row_by_row():
    made = workbook(Loads={"A1": "1", "C3": "x", "B4": "y", "B3": "1", "A3": "z"})
    fill = plan_fill(made, 1, Area.parse("A1"), Area.parse("A1:C4"))
    assert [cell.text for cell in fill.overwritten()] == ["A3", "C3", "B4"]
