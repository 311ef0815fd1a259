import threading

import pytest

from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import Cell
from dreieck.core.sheet.edits import SetCells
from dreieck.core.sheet.layout import Layout
from dreieck.core.values.look import PLAIN
from dreieck.store import NewSheet
from dreieck.store import library as library_module


def test_workbooks_are_made_listed_renamed_and_deleted(library):
    first = library.create("  Hut   plans ")
    second = library.create("Prices", [NewSheet("Prices", {"B3": "1.80"}), NewSheet("Loads")])
    library.rename(first, "Plans")
    listed = {each.id: (each.name, each.sheets) for each in library.listed()}
    assert listed == {first: ("Plans", ("Sheet 1",)), second: ("Prices", ("Prices", "Loads"))}
    library.delete(first)
    assert [each.id for each in library.listed()] == [second]
    # A later workbook gets another number, so that older pages act on nothing.
    assert library.create("Loads") == second + 1
    library.delete(second + 1)
    assert library.create("Loads") == second + 2
    for gone in (library.open, library.delete, library.losses):
        with pytest.raises(KeyError):
            gone(first)


def test_what_deleting_loses_is_counted(library):
    id = library.create("Prices", [NewSheet("Prices", {"B3": "1.80", "B4": "=B3*2"})])
    losses = library.losses(id)
    assert (losses.name, losses.sheets, losses.filled_cells, losses.changes) == ("Prices", 1, 2, 0)
    other = library.create("Loads", [NewSheet("Loads"), NewSheet("Season")])
    opened = library.open(other)
    for number in range(3):
        edit = SetCells.of(opened.workbook.sheets[0].id, {Cell(1, 1): (float(number), PLAIN)})
        opened.change("entry in A1", [edit], opened.revision)
    losses = library.losses(other)
    assert (losses.name, losses.sheets, losses.filled_cells, losses.changes) == ("Loads", 2, 1, 3)
    assert library.losses(id).changes == 0


@pytest.mark.parametrize(
    ("name", "why"),
    [
        ("", "A workbook needs a name."),
        ("   ", "A workbook needs a name."),
        ("x" * 81, "The name of a workbook can have 80 characters."),
        ("Pri\u200bces", "The name holds a character that cannot be seen (zero width space)."),
        ("a name\x00", "The name holds a character that cannot be seen (number 0)."),
        ("\u3164", "The name holds a character that cannot be seen (hangul filler)."),
        ("\u2800", "The name holds a character that cannot be seen (braille pattern blank)."),
        (
            "\u202eseldoog",
            "The name holds a character that cannot be seen (right-to-left override).",
        ),
        ("\u0301", "The name of a workbook has to show something."),
    ],
)
def test_names_that_no_workbook_can_have(library, name, why):
    with pytest.raises(DreieckError) as refusal:
        library.create(name)
    assert str(refusal.value) == why
    assert library.listed() == []


def test_the_longest_name_of_a_workbook_is_one(library):
    library.create("x" * 80)
    assert [each.name for each in library.listed()] == ["x" * 80]


def test_a_workbook_begins_with_what_was_typed_for_it(library):
    id = library.create(
        "Prices", [NewSheet("Prices", {"B3": "12%", "B4": "=B3*2"}, layout=Layout.wide({2: 90}))]
    )
    opened = library.open(id)
    sheet = opened.workbook.sheets[0]
    assert opened.calculation.value("Prices", Cell.parse("B4")) == 0.24
    assert sheet.look(Cell.parse("B3")).form == "percent"
    assert sheet.layout == Layout.wide({2: 90})
    assert opened.history() == (None, None)


def test_workbooks_are_let_go_of_but_never_in_memory_twice(library, monkeypatch):
    monkeypatch.setattr(library_module, "MAX_OPEN", 2)
    ids = [library.create(f"Loads {n}", [NewSheet("Loads", {"A1": "1"})]) for n in range(4)]
    held = library.open(ids[0])
    for id in ids:
        library.open(id)
    assert list(library._kept) == ids[2:] and library.open(ids[0]) is held
    found = []
    jobs = [threading.Thread(target=lambda: found.append(library.open(ids[1]))) for _ in range(8)]
    for job in jobs:
        job.start()
    for job in jobs:
        job.join()
    assert len(set(found)) == 1 and library.revision(ids[1]) == 1
