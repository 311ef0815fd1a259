"""Workbooks that come from elsewhere: from files, with their history, or as copies."""

import pytest
from effort import share
from hypothesis import HealthCheck, given
from random_workbooks import differences, workbooks

from dreieck import demo
from dreieck.core.calculate import Calculation
from dreieck.core.editing.entering import entered
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import AddSheet, RemoveSheet, SetCells
from dreieck.core.values.look import PLAIN
from dreieck.files import FORMATS, Progress, Wish, read, write
from dreieck.store import Database, Library


def typed(opened, sheet, **entries):
    cells = {}
    for address, text in entries.items():
        made = entered(opened.workbook, Cell.parse(address), text, PLAIN)
        cells[Cell.parse(address)] = (made.content, made.look)
    opened.change("typing", [SetCells.of(sheet.id, cells)], opened.revision)


@given(workbook=workbooks())
@share(0.25, HealthCheck.function_scoped_fixture)
def test_what_is_adopted_is_kept_as_it_is(library, workbook):
    id, _ = library.adopt(workbook, "Hut supplies")
    library._kept.clear()
    library._living.clear()
    assert differences(workbook, library.open(id).workbook) == []


def test_the_demo_goes_out_with_its_history_and_comes_back(library):
    opened = library.open(demo.make(library))
    sheet = opened.workbook.sheets[0]
    typed(opened, sheet, B3="2.10", J4="=carry_price*B3")
    number = opened.new_sheet_id()
    opened.change("adding", [AddSheet(number, "Extra", 1)], opened.revision)
    typed(opened, opened.workbook.sheets[1], A1="=Prices!B3")
    opened.change("removing", [RemoveSheet(number)], opened.revision)
    opened.undo(opened.revision)
    made = write(
        opened.calculation, FORMATS["json"], Wish(history=opened.told_history()), Progress()
    )
    arrived = read(made.data, "demo.json")
    id, with_history = library.adopt(
        arrived.workbook, "Again", history=arrived.history, report="what it held"
    )
    assert library.open(id).arrival() == "what it held"
    again = library.open(id)
    assert with_history and differences(opened.workbook, again.workbook) == []
    while opened.undo(opened.revision):
        assert again.undo(again.revision)
        assert differences(opened.workbook, again.workbook) == []
    assert again.undo(again.revision) is None
    while opened.redo(opened.revision):
        assert again.redo(again.revision)
    assert differences(opened.workbook, again.workbook) == []


@pytest.mark.parametrize(
    "change",
    [
        lambda told: told | {"done": 0},
        lambda told: told | {"shapes": []},
        lambda told: told | {"sheets": [1]},
        lambda told: told | {"changes": told["changes"] * 2},
        lambda told: told | {"more": 1},
        lambda told: told | {"changes": [told["changes"][0] | {"backward": [{"edit": "Undo"}]}]},
        lambda told: "nothing",
    ],
)
def test_a_history_that_leads_elsewhere_is_left_out(library, change):
    opened = library.open(demo.make(library))
    typed(opened, opened.workbook.sheets[0], B3='=A1&"x"')
    told = change(opened.told_history())
    id, with_history = library.adopt(opened.workbook, "Again", history=told)
    again = library.open(id)
    assert not with_history and again.history() == (None, None)
    assert differences(opened.workbook, again.workbook) == []


def test_giving_up_leaves_nothing_behind(library, path):
    opened = library.open(demo.make(library))

    def stop(share):
        raise DreieckError("enough")

    with pytest.raises(DreieckError, match="enough"):
        library.adopt(opened.workbook, "Again", advance=stop)
    assert [each.name for each in library.listed()] == ["Hut supplies"]


def test_a_copy_is_a_workbook_of_its_own_and_a_data_file_can_be_carried_away(library, tmp_path):
    opened = library.open(demo.make(library))
    typed(opened, opened.workbook.sheets[0], B3="5")
    copy = library.open(library.copy(opened.id, "Next week", history=True))
    typed(copy, copy.workbook.sheets[0], B3="7")
    assert Calculation(opened.workbook).value("Prices", Cell(2, 3)) == 5
    assert copy.undo(copy.revision) and copy.undo(copy.revision)
    library.copy_all(tmp_path / "carried.db")
    other = Library(Database(tmp_path / "carried.db"))
    try:
        assert {each.name for each in other.listed()} == {"Hut supplies", "Next week"}
        assert differences(copy.workbook, other.open(copy.id).workbook) == []
    finally:
        other.close()
