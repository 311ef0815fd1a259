"""Sheets added, renamed, duplicated, moved and deleted, and the formulas that follow."""

import pytest
from hypothesis import example, given
from hypothesis import strategies as st
from tables import apply, values, workbook

from dreieck.core.editing import sheets
from dreieck.core.editing.inserting import deleted, inserted
from dreieck.core.editing.losing import losing_sheet
from dreieck.core.exceptions import SheetError
from dreieck.core.formula.printer import place_text, sheet_text, split_sheet
from dreieck.core.grid import EVERYWHERE, Cell, Lines
from dreieck.core.sheet.layout import Layout
from dreieck.core.sheet.names import named
from dreieck.core.values import Place
from dreieck.core.values.look import Look

A1 = Cell(1, 1)


def made():
    return workbook(
        Prices={"A1": "2", "A2": "=A1+Loads!A1"},
        Loads={"A1": "=Prices!A1*Prices!$A$1", "B1": "=A1"},
        Season={"A1": "=SUM(Prices!A1:A2)+Loads!B1", "A2": '="Prices!A1"'},
    )


def texts(book):
    return {
        f"{sheet.name}!{cell.text}": content.text(cell)
        for sheet in book.sheets
        for cell, content in sheet.filled(EVERYWHERE)
        if hasattr(content, "references")
    }


def test_formulas_follow_a_rename_and_nothing_else_does():
    book = made()
    before = texts(book)
    undo = apply(book, sheets.renamed(book, book.sheet("Prices"), " Week 1 "))
    assert texts(book)["Loads!A1"] == "='Week 1'!A1*'Week 1'!$A$1"
    assert texts(book)["Season!A2"] == '="Prices!A1"'
    assert values(book, "A1", "Season") == [12.0]
    apply(book, undo)
    assert texts(book) == before


def test_a_deleted_sheet_is_lost_for_good_and_comes_back_whole():
    book = made()
    prices = book.sheet("Prices")
    prices.put(A1, 2.0, Look("percent", 1, "input"))
    prices.layout = Layout.wide({1: 140})
    before = texts(book)
    assert losing_sheet(book, prices).count == 2
    undo = apply(book, sheets.deleted(book, prices))
    assert texts(book)["Loads!A1"] == "=#REF!*#REF!"
    assert values(book, "A1", "Season") == ["#REF!"]
    apply(book, undo)
    assert texts(book) == before and book.sheets[0].name == "Prices"
    assert book.sheet("Prices").look(A1) == Look("percent", 1, "input")
    assert book.sheet("Prices").layout == Layout.wide({1: 140})


def test_sheets_are_added_duplicated_and_moved():
    book = made()
    apply(book, sheets.added(book, 7))
    apply(book, sheets.duplicated(book, book.sheet("Loads"), 8))
    apply(book, sheets.rearranged(book, book.sheet("Prices"), 9))
    names = [each.name for each in book.sheets]
    assert names == ["Loads", "Loads copy", "Season", "Sheet 1", "Prices"]
    assert texts(book)["Loads copy!B1"] == "=A1"
    assert values(book, "B1", "Loads copy") == [4.0]


def test_what_cannot_be_done_with_sheets_is_refused():
    book = workbook(Loads={})
    with pytest.raises(SheetError, match="at least one sheet"):
        sheets.deleted(book, book.sheets[0])
    with pytest.raises(SheetError, match="already"):
        book = made()
        sheets.renamed(book, book.sheets[0], "season")


def test_new_sheets_get_names_that_are_free():
    made = workbook(Loads={}, Sheet_1={}, Loads_copy={})
    for number in range(3):
        for edit in sheets.added(made, 10 + number):
            edit.apply(made)
    for number in range(2):
        for edit in sheets.duplicated(made, made.sheets[0], 20 + number):
            edit.apply(made)
    assert [(sheet.id, sheet.name) for sheet in made.sheets] == [
        (1, "Loads"), (21, "Loads copy 3"), (20, "Loads copy 2"), (2, "Sheet 1"),
        (3, "Loads copy"), (10, "Sheet 2"), (11, "Sheet 3"), (12, "Sheet 4"),
    ]  # fmt: skip


def test_a_sheet_is_moved_no_farther_than_the_ends():
    made = workbook(Prices={}, Loads={}, Season={})
    for sheet, steps, order in (
        (0, 1, ["Loads", "Prices", "Season"]), (2, -1, ["Loads", "Season", "Prices"]),
        (0, -1, ["Loads", "Season", "Prices"]), (2, 5, ["Loads", "Season", "Prices"]),
    ):  # fmt: skip
        for edit in sheets.rearranged(made, made.sheets[sheet], steps):
            edit.apply(made)
        assert [each.name for each in made.sheets] == order


def test_a_range_over_sheets_follows_renames_moves_rows_and_ends_that_go():
    book = workbook(
        Sums={"A1": "=SUM(Jan:Mar!A1)", "A2": "=SUM('Jan:Mar'!A1:B2)"}, Jan={"A1": "1"},
        Feb={"A1": "2"}, Mar={"A1": "4"}, Apr={"A1": "8"},
    )  # fmt: skip
    book.names["months"] = named("months", "SUM(Jan!$A$1:Mar!$A$1)")
    undo = apply(book, sheets.renamed(book, book.sheet("Jan"), "Winter"))
    assert texts(book)["Sums!A1"] == "=SUM(Winter!A1:Mar!A1)"
    apply(book, undo)
    for sheet, row, total in (("Jan", 1, 6.0), ("Sums", 2, 7.0), ("Feb", 1, 5.0)):
        undo = apply(book, inserted(book, book.sheet(sheet), Lines("row", 1, 1)))
        assert texts(book)[f"Sums!A{row}"] == "=SUM(Jan!A1:Mar!A1)"
        assert book.names["months"].shape_text == "SUM(Jan!$A$1:Mar!$A$1)"
        assert values(book, f"A{row}", "Sums") == [total]
        apply(book, undo)
    undo = apply(book, deleted(book, book.sheet("Jan"), Lines("row", 1, 1)))
    assert texts(book)["Sums!A1"] == "=SUM(Jan!A1:Mar!A1)"
    apply(book, undo)
    undo = apply(book, sheets.deleted(book, book.sheet("Mar")))
    assert texts(book) == {"Sums!A1": "=SUM(Jan!A1:Feb!A1)", "Sums!A2": "=SUM(Jan!A1:Feb!B2)"}
    assert values(book, "A1", "Sums") == [3.0]
    apply(book, undo)
    undo = apply(book, sheets.deleted(book, book.sheet("Jan")))
    assert texts(book)["Sums!A1"] == "=SUM(Feb!A1:Mar!A1)"
    apply(book, undo)
    undo = apply(book, sheets.deleted(book, book.sheet("Feb")))
    assert values(book, "A1", "Sums") == [5.0]
    apply(book, undo)
    undo = apply(book, sheets.rearranged(book, book.sheet("Apr"), -1))
    assert values(book, "A1", "Sums") == [15.0]
    apply(book, undo)
    assert values(book, "A1", "Sums") == [7.0]


NAMES = st.one_of(
    st.text("AB01!'.:_ $#(ßıİǅ\u0301,;=", max_size=8),
    st.from_regex("[A-Za-z]{1,3}[0-9]{1,12}", fullmatch=True),
    st.text(max_size=12),
)


@given(NAMES)
@example("A0")
@example("inv20261201")
@example("TRUE")
@example("'")
def test_no_name_that_a_sheet_may_have_breaks_anything(name):
    book = made()
    try:
        apply(book, sheets.renamed(book, book.sheet("Loads"), name))
    except SheetError:
        return
    name = book.sheets[1].name
    text = f"={sheet_text(name)}!$B$1+SUM({sheet_text(name)}!B:C)"
    entered = book.read_entry(text, A1).content
    assert book.typed(entered, A1) == text
    assert {each.sheet for each in entered.references} == {name}
    assert split_sheet(place_text(Place(name, A1))) == (name, "A1")
    read = book.read_entry(texts(book)["Prices!A2"], Cell(1, 2)).content
    assert read is book.content("Prices", Cell(1, 2))
    assert (values(book, "A2", "Prices"), values(book, "A1", "Season")) == ([6.0], [12.0])
