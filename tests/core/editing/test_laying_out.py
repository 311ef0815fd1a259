import pytest
from tables import LOADS, apply, filled, workbook

from dreieck.core.editing import laying_out
from dreieck.core.editing.laying_out import hidden, hidden_around, resized, shown, with_headings
from dreieck.core.exceptions import DreieckError
from dreieck.core.grid import MAX_COLUMN, Lines
from dreieck.core.sheet.layout import MAX_SIZE, MIN_SIZE, Headings, LineLook
from dreieck.core.words.headings import headings_in_view


def test_lines_take_a_size_within_bounds_are_hidden_and_come_back_as_they_were():
    book = workbook(Loads=LOADS)
    sheet = book.sheets[0]
    undo = apply(book, [resized(sheet, [Lines("column", 2, 2), Lines("row", 3, 1)], 90)])
    assert [sheet.layout.columns.at(n).size for n in (1, 2, 3, 4)] == [None, 90, 90, None]
    assert sheet.layout.rows.at(3) == LineLook(90)
    apply(book, [hidden(sheet, [Lines("column", 3, 3)])])
    assert sheet.layout.columns.at(3) == LineLook(90, hidden=True)
    beside = Lines("column", 2, 1)
    assert hidden_around(sheet, beside) == [Lines("column", 3, 3)]
    apply(book, [shown(sheet, hidden_around(sheet, beside))])
    assert sheet.layout.columns.at(3) == LineLook(90)
    for size, wanted in ((1, MIN_SIZE), (9_999, MAX_SIZE), (None, None)):
        apply(book, [resized(sheet, [Lines("row", 3, 1)], size)])
        assert sheet.layout.rows.at(3).size == wanted
    apply(book, undo)
    assert sheet.layout == laying_out.resized(sheet, [], None).layout


def test_what_would_leave_nothing_to_see_or_too_little_is_refused():
    sheet = workbook(Loads=LOADS).sheets[0]
    with pytest.raises(DreieckError) as refusal:
        hidden(sheet, [Lines("column", 1, MAX_COLUMN)])
    assert str(refusal.value) == "One column at least has to be seen. Select fewer of them."
    with pytest.raises(DreieckError) as refusal:
        with_headings(sheet, Headings(2, 21))
    assert str(refusal.value) == "At most 20 columns and 20 rows can stay in view."


def test_the_headings_that_are_proposed_are_those_before_the_table():
    assert headings_in_view(filled(LOADS, C5_D6="=$B5*C$4").sheets[0]) == Headings(2, 4)
    # Without formulas the table is what is filled with numbers.
    assert headings_in_view(workbook(Loads=LOADS).sheets[0]) == Headings(1, 3)
    assert headings_in_view(workbook(Loads={"B9": "7", "J10": "8"}).sheets[0]) == Headings(1, 8)
    assert headings_in_view(workbook(Loads={"J10": "8"}).sheets[0]) == Headings()
    assert headings_in_view(workbook(Loads={}).sheets[0]) == Headings()
