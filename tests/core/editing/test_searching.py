import re

import pytest
from formulas import near_formulas
from hypothesis import given
from hypothesis import strategies as st
from tables import GRID, LOADS, PRICES, apply, filled, workbook

from dreieck.core.calculate import Calculation
from dreieck.core.editing.searching import Search, alike, everywhere, found, replaced
from dreieck.core.exceptions import DreieckError
from dreieck.core.formula import Shape
from dreieck.core.grid import Area, Cell
from dreieck.core.sheet.content import typed_text
from dreieck.core.values.look import Look


def hits(book, text, places=None, **how):
    search = Search(text, **how)
    every = found(Calculation(book), places or everywhere(book), search)
    return [f"{hit.sheet.name}!{hit.cell.text}" for hit in every]


def grid():
    book = filled(GRID, C5_E10="=$B5*C$4")
    book.sheets[0].dress(3, 5, 10, Look("percent", 1))
    return book


def test_text_is_found_in_what_cells_show_or_in_what_was_typed():
    book = workbook(Loads=LOADS, Prices=PRICES)
    assert hits(book, "item") == ["Loads!A3", "Prices!A3"]
    assert hits(book, "item", case=True) == []
    assert hits(book, "Flour", whole=True) == ["Loads!A5", "Prices!A4"]
    assert hits(book, "lour", whole=True) == []
    assert hits(book, "0.1", [(book.sheets[0], Area.parse("A1:C5"))]) == ["Loads!B5"]
    table = grid()
    assert [hit.partition("!")[2] for hit in hits(table, "$B5")] == ["C5", "D5", "E5"]
    assert len(hits(table, "%", within="values")) == 6
    assert hits(table, "%", within="formulas") == []
    assert hits(table, ".*") == []
    for text in ("", "x" * 1001):
        with pytest.raises(DreieckError, match="Say what is to be found"):
            hits(table, text)


def test_formulas_of_one_shape_are_found_wherever_they_stand():
    book = filled(GRID, C5_E10="=$B5*C$4", C12_E12="=SUM(C5:C10)", G5_G5="=$B5*G$4")
    shape = book.sheets[0].content(Cell.parse("D7"))
    assert isinstance(shape, Shape)
    areas = [area.text for _, area in alike(book, shape)]
    assert sorted(areas) == ["C5:E10", "G5"]


def test_what_is_found_is_replaced_as_if_typed_anew_or_left_with_the_reason():
    book = grid()
    sheet = book.sheets[0]
    made = replaced(Calculation(book), everywhere(book), Search("C$4"), "$C$4")
    assert [(each.cell.text, each.before, each.after) for each in made.cells][:2] == [
        ("C5", "=$B5*C$4", "=$B5*$C$4"), ("C6", "=$B6*C$4", "=$B6*$C$4")
    ]  # fmt: skip
    undo = apply(book, made.edits)
    assert typed_text(sheet.content(Cell(3, 6)), Cell(3, 6)) == "=$B6*$C$4"
    assert sheet.look(Cell(3, 6)) == Look("percent", 1)
    apply(book, undo)
    assert typed_text(sheet.content(Cell(3, 6)), Cell(3, 6)) == "=$B6*C$4"
    broken = replaced(Calculation(book), [(sheet, Area.parse("C5"))], Search("*C$4"), "*(")
    assert broken.edits == [] and broken.cells[0].problem
    shown = replaced(Calculation(book), everywhere(book), Search("%", "values"), "!")
    assert {each.problem for each in shown.cells} == {
        "a result; look in formulas to change what gives it"
    } and shown.edits == []
    word = replaced(Calculation(book), everywhere(book), Search("flour", "values"), "Meal")
    assert [(each.before, each.after) for each in word.cells] == [("Flour", "Meal")]


@given(
    st.lists(near_formulas | st.text("ab1%", max_size=4), min_size=1, max_size=6),
    st.sampled_from(["1", "a", "+", "$", "B", "(", "\\1"]),
    st.sampled_from(["", "2", "x", "\\1"]),
)
def test_replacing_does_to_each_entry_what_it_does_to_its_text(entries, text, by):
    book = workbook(Loads={f"A{row}": entry for row, entry in enumerate(entries, 1)})
    sheet = book.sheets[0]
    before = {
        cell: typed_text(c, cell, sheet.look(cell))
        for cell, c in sheet.filled(Area.parse("A1:A9"))
    }
    made = replaced(Calculation(book), everywhere(book), Search(text, case=True), by)
    apply(book, made.edits)
    for each in made.cells:
        assert each.before == before[each.cell] and each.after == each.before.replace(text, by)
        if not each.problem:
            content = book.read_entry(each.after, each.cell).content
            assert sheet.content(each.cell) == content or sheet.look(each.cell).form == "text"
    assert {each.cell for each in made.cells} == {
        cell for cell, entry in before.items() if re.search(re.escape(text), entry)
    }
