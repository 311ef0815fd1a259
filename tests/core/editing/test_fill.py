import pytest
from tables import LOADS, values, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.fill import plan_fill
from dreieck.core.exceptions import FillError
from dreieck.core.formula import Shape
from dreieck.core.formula.shift import shift_log, tag
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import read_entry
from dreieck.core.values.look import Look


def planned(made, source, target, **written):
    contents = {
        Cell.parse(address): read_entry(text, Cell.parse(address)).content
        for address, text in written.items()
    }
    return plan_fill(made, 1, Area.parse(source), Area.parse(target), contents)


def test_a_fill_hands_one_shape_to_all_landings():
    made = workbook(Loads={**LOADS, "C5": "=$B5*C$4"})
    fill = planned(made, "C5", "C5:D6")
    shape = made.content("Loads", Cell.parse("C5"))
    assert all(fill.content(cell) is shape for cell in fill.target.cells())


def test_a_rehearsal_shows_what_landing_gives_and_writes_nothing():
    made = workbook(Loads={**LOADS, "E5": "=SUM(C5:D5)", "C6": "9"})
    fill = planned(made, "C5", "C5:D6", C5="=$B5*C$4")
    rehearsed = Calculation(fill.workbook).with_edits([fill.edit()])
    seen = [rehearsed.value("Loads", cell) for cell in Area.parse("C5:E6").cells()]
    assert values(made, "C5:E6") == [None, None, 0.0, 9.0, None, None]
    fill.edit().apply(made)
    assert seen == values(made, "C5:E6") == pytest.approx([50.4, 33.6, 84.0, 33.6, 22.4, None])


def test_a_fill_away_from_its_start_leaves_the_start_as_it_is():
    made = workbook(Loads={**LOADS, "C5": "=$B5*C$4"})
    planned(made, "C5", "D6").edit().apply(made)
    assert values(made, "C5:D6") == pytest.approx([50.4, None, None, 22.4])


def test_the_landings_that_hold_something_else_are_named():
    made = workbook(Loads={**LOADS, "C5": "=$B5*C$4", "D5": "=$B5*D$4", "C6": "7"})
    assert planned(made, "C5", "C5:D6").overwritten() == [Cell.parse("C6")]


def test_several_start_cells_repeat_as_a_pattern():
    made = workbook(Loads={"A1": "kg", "A2": "=B2"})
    fill = planned(made, "A1:A2", "A1:A5")
    assert [fill.content(Cell(1, row)) for row in (3, 5)] == ["kg", "kg"]
    assert fill.content(Cell(1, 4)).text(Cell(1, 4)) == "=B4"
    upwards = planned(made, "A1:A2", "A1:A2")
    assert upwards.start_of(Cell(1, 1)) == Cell(1, 1)


def test_a_number_format_travels_to_plain_landings_only():
    made = workbook(Loads={**LOADS, "C5": "=$B5*C$4"})
    sheet = made.sheets[0]
    sheet.put(Cell.parse("C5"), sheet.content(Cell.parse("C5")), Look("percent", 1, "input"))
    sheet.put(Cell.parse("C6"), None, Look("number", 2))
    looks = {
        cell.text: run.look
        for run in planned(made, "C5", "C5:D6").edit().runs
        for cell in run.area.cells()
    }
    assert looks["D5"] == Look("percent", 1)
    assert looks["C6"] == Look("number", 2)
    assert looks["C5"] == Look("percent", 1, "input")


@pytest.mark.parametrize(
    ("source", "target", "says"),
    [
        ("C5", "A1:Z100000", "2,600,000 cells; one fill can write 1,000,000"),
        ("C5", "C:D", "Choose a smaller area"),
        ("G7", "G7:G9", "G7 is empty"),
    ],
)
def test_a_fill_that_cannot_be_is_refused(source, target, says):
    with pytest.raises(FillError, match=says):
        planned(workbook(Loads={"C5": "1"}), source, target)
    with pytest.raises(FillError, match="leave the sheet"):
        plan_fill(workbook(Loads={}), 1, Area(1, 1, 1, 1), Area(0, 1, 3, 3))


def test_the_shift_log_tells_start_here_move_and_locks():
    shape = Shape.parse("=$B5*C$4+SUM($B$4:B4)", Cell.parse("C5"))
    one, two, running = shift_log(shape, Cell.parse("C5"), Cell.parse("E8"))
    assert (one.tag, one.start, one.here, one.columns, one.rows) == ("a", "$B5", "$B8", 0, 3)
    assert (one.column_locked, one.row_locked) == (True, False)
    assert (two.tag, two.start, two.here, two.columns, two.rows) == ("b", "C$4", "E$4", 2, 0)
    assert (running.here, running.columns, running.rows) == ("$B$4:D7", 2, 3)
    assert [corner.locks for corner in running.corners] == [(True, True), (False, False)]
    assert shift_log(shape, Cell.parse("C5"), Cell.parse("B1"))[1].here == "B$4"
    assert shift_log(shape, Cell.parse("C5"), Cell.parse("A1"))[2].here == "#REF!"
    assert [tag(index) for index in (0, 25, 26)] == ["a", "z", "aa"]


def test_number_formats_stay_behind_if_wanted():
    made = workbook(Loads={**LOADS, "C5": "=$B5*C$4"})
    made.sheets[0].dress(3, 5, 5, Look("percent", 1))
    areas = Area.parse("C5"), Area.parse("C5:C6")
    plan_fill(made, 1, *areas, looks_travel=False).edit().apply(made)
    assert made.sheets[0].look(Cell.parse("C6")) == Look()
    plan_fill(made, 1, *areas).edit().apply(made)
    assert made.sheets[0].look(Cell.parse("C6")) == Look("percent", 1)
