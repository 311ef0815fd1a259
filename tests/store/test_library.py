import pytest

from dreieck.core.address import Cell
from dreieck.core.exceptions import DreieckError
from dreieck.store import NewSheet


def test_workbooks_are_made_listed_renamed_and_deleted(library):
    first = library.create("  Hut   plans ")
    second = library.create("Prices", [NewSheet("Prices", {"B3": "1.80"}), NewSheet("Loads")])
    library.rename(first, "Plans")
    listed = {each.id: (each.name, each.sheets) for each in library.listed()}
    assert listed == {first: ("Plans", ("Sheet 1",)), second: ("Prices", ("Prices", "Loads"))}
    library.delete(first)
    assert [each.id for each in library.listed()] == [second]
    for gone in (library.open, library.delete, library.losses):
        with pytest.raises(KeyError):
            gone(first)


def test_what_deleting_loses_is_counted(library):
    id = library.create("Prices", [NewSheet("Prices", {"B3": "1.80", "B4": "=B3*2"})])
    losses = library.losses(id)
    assert (losses.name, losses.sheets, losses.filled_cells, losses.changes) == ("Prices", 1, 2, 0)


@pytest.mark.parametrize("name", ["", "   ", "x" * 81])
def test_names_that_no_workbook_can_have(library, name):
    with pytest.raises(DreieckError, match="name"):
        library.create(name)
    assert library.listed() == []


def test_a_workbook_begins_with_what_was_typed_for_it(library):
    id = library.create(
        "Prices", [NewSheet("Prices", {"B3": "12%", "B4": "=B3*2"}, widths={2: 90})]
    )
    opened = library.open(id)
    sheet = opened.workbook.sheets[0]
    assert opened.calculation.value("Prices", Cell.parse("B4")) == 0.24
    assert sheet.look(Cell.parse("B3")).form == "percent"
    assert sheet.widths == {2: 90}
    assert opened.history() == (None, None)
